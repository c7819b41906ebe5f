import type { MachineModel } from '@yare/commissioning';
import { useDropShortList, useSaveShortList, useShortLists } from '../../data/shortLists';
import { useState } from 'react';
import { say } from '@yare/words/pages/settings';
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
      {data?.length === 0 && <Note>{say.noShortListOfYet({ family: model.drafted.book.family })}</Note>}
      {data?.map((l) => (
        <SheetRow
          key={l.id}
          label={l.name}
          second={say.settings({ codes: l.codes.length, author: l.author })}
          text={chosen === l.id ? say.shown : say.show}
          inHand={chosen === l.id}
          onPress={() => onChoose(chosen === l.id ? null : l.id)}
          testID={`short-list-${l.name}`}
        />
      ))}
      {chosen !== null && (
        <ActRow
          text={say.closeThisList}
          second={say.forEverybody}
          onPress={() => drop.mutate(chosen, { onSuccess: () => onChoose(null) })}
          testID="short-list-drop"
        />
      )}
      <TextLine
        label={say.nameOfTheShortList}
        placeholder={say.nameTheShown({ shown: shown.length })}
        value={name}
        onChange={setName}
        act={name.trim() && shown.length > 0 ? say.save : undefined}
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
