import { useSetRecord } from '../../data/machines';
import type { MachineDetail } from '@yare/contract';
import { say } from '@yare/words/pages/survey';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Finding, SectionHead } from '../../ui/sheet';
import { KeptTextLine } from '../../ui/TextLine';
import { Refusal } from '../../ui/Answer';

/** What the machine is called, where it stands, and where its drive answers. */
export function RecordRows({
  machine,
  address,
  asked,
  onAsked,
}: {
  machine: MachineDetail;
  address: Entry;
  asked: number | null;
  onAsked: (unitId: number | null) => void;
}) {
  const { tag } = machine;
  const record = useSetRecord(tag);
  const line = (field: 'name' | 'area', caption: string) => (
    <KeptTextLine
      label={caption}
      caption={caption}
      placeholder={caption}
      value={machine[field]}
      onKeep={(text) => text !== '' && record.mutate({ [field]: text.slice(0, 60) })}
      testID={`record-${field}`}
    />
  );
  return (
    <>
      <SectionHead right={machine.site}>{say.theMachine({ tag })}</SectionHead>
      {line('name', say.name)}
      {line('area', say.area)}
      <EntryRow entry={address} second={say.whereItsDriveAnswers} changed={asked !== null} mark="C" testID="record-unit" />
      {asked !== null && (
        <Finding
          severity="act"
          sentence={say.fromThenOnWhatAnswers({ asked, tag })}
          act={record.isPending ? say.changing : say.answersAt({ tag, asked })}
          onAct={() => record.mutate({ unitId: asked }, { onSuccess: () => onAsked(null) })}
        />
      )}
      <Refusal of={record.error} />
    </>
  );
}
