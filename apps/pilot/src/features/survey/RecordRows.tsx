import { useSetRecord } from '../../data/machines';
import type { MachineDetail } from '@yare/contract';
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
      <SectionHead right={machine.site}>{`The machine ${tag}`}</SectionHead>
      {line('name', 'Name')}
      {line('area', 'Area')}
      <EntryRow entry={address} second="where its drive answers" changed={asked !== null} mark="C" testID="record-unit" />
      {asked !== null && (
        <Finding
          severity="act"
          sentence={`From then on what answers at address ${asked} is the drive of ${tag}: settings are written there, and hold to run turns that drive’s motor. Be sure that it is this one.`}
          act={record.isPending ? 'Changing…' : `${tag} answers at ${asked}`}
          onAct={() => record.mutate({ unitId: asked }, { onSuccess: () => onAsked(null) })}
        />
      )}
      <Refusal of={record.error} />
    </>
  );
}
