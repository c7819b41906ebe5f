import type { MachineModel } from '@yare/commissioning';
import { useDropShortList, useSaveShortList, useShortLists } from '../../data/shortLists';
import { useState } from 'react';
import { ActRow, Note, SheetRow } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';
import { Refusal } from '../../ui/Answer';

/** Own lists of settings of a family: chosen, made from what is shown, put away. */
export function ShortLists({
  model,
  chosen,
  onChoose,
  shown,
}: {
  model: MachineModel;
  chosen: number | null;
  onChoose: (id: number | null) => void;
  /** codes the sheet shows at this moment */
  shown: readonly string[];
}) {
  const { data } = useShortLists(model.drafted.book.id);
  const save = useSaveShortList(model.drafted.book.id);
  const drop = useDropShortList(model.drafted.book.id);
  const [name, setName] = useState('');
  const error = save.error ?? drop.error;
  return (
    <>
      <Refusal of={error} />
      {data?.length === 0 && (
        <Note>{`No short list of ${model.drafted.book.family} yet. Search or filter until the sheet shows what you want together, then name it here.`}</Note>
      )}
      {data?.map((l) => (
        <SheetRow
          key={l.id}
          label={l.name}
          second={`${l.codes.length} settings · ${l.author}`}
          text={chosen === l.id ? 'Shown' : 'Show'}
          inHand={chosen === l.id}
          onPress={() => onChoose(chosen === l.id ? null : l.id)}
          testID={`short-list-${l.name}`}
        />
      ))}
      {chosen !== null && (
        <ActRow
          text="Close this list"
          second="for everybody"
          onPress={() => drop.mutate(chosen, { onSuccess: () => onChoose(null) })}
          testID="short-list-drop"
        />
      )}
      <TextLine
        label="Name of the short list"
        placeholder={`Name the ${shown.length} shown…`}
        value={name}
        onChange={setName}
        act={name.trim() && shown.length > 0 ? 'Save' : undefined}
        onAct={() =>
          save.mutate(
            { name: name.trim(), codes: shown.slice(0, 200) },
            {
              onSuccess: (list) => {
                setName('');
                onChoose(list.id);
              },
            },
          )
        }
        testID="short-list-name"
        actTestID="short-list-save"
      />
    </>
  );
}
