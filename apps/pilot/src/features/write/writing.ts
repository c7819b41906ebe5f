import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { motionFindings } from '@yare/commissioning';
import type { WriteReport } from '@yare/contract';
import { useKeep, useReadDrive } from '../../data/drive';
import { useMachineEdits } from '../../data/edits';
import { useLookAhead } from '../../data/lookAhead';
import { useLastWrite, useResumeWrite, useWrite } from '../../data/write';

/** A write of this machine: what goes on, what came of the last one, and what can be done next. */
export function useWriting(model: MachineModel) {
  const { tag } = model.machine;
  const edits = useMachineEdits(tag);
  const write = useWrite(tag);
  const resume = useResumeWrite(tag);
  const read = useReadDrive(tag);
  const keep = useKeep(tag);
  const busy = write.isPending || resume.isPending;
  const { data: job } = useLastWrite(tag, busy);
  const [report, setReport] = useState<WriteReport | null>(null);
  const broken = !busy && job && (job.state === 'link lost' || job.state === 'interrupted') && job.lines.length > 0 ? job : null;
  const [afresh, setAfresh] = useState<number | null>(null);
  const rest = broken && broken.id !== afresh ? broken.lines.filter((l) => l.result !== 'verified') : null;
  const elsewhere = !busy && job?.state === 'writing' ? job : null;
  return {
    read,
    keep,
    job,
    report,
    /** broken off half-way, to be gone on with */
    broken,
    /** what is left of it, unless somebody would rather begin afresh */
    rest,
    beginAfresh: () => setAfresh(broken?.id ?? null),
    /** written by somebody else at this moment */
    elsewhere,
    going: busy || elsewhere !== null,
    unsent: Object.keys(edits.draft.changes).length > 0,
    lines: report?.lines ?? broken?.lines ?? [],
    errors: [write.error, resume.error, read.error, keep.error].flatMap((e) => (e ? [e] : [])),
    start: (codes: string[]) => {
      setReport(null);
      write.mutate({ revision: model.draft.revision, codes }, { onSuccess: setReport });
    },
    goOn: () => {
      setReport(null);
      resume.mutate(undefined, { onSuccess: setReport });
    },
  };
}

export type Writing = ReturnType<typeof useWriting>;

/** What the look-ahead holds against the draft before it goes into the drive. */
export function useDraftWarnings(model: MachineModel) {
  const spec = model.draftSpec.ok && model.differing.length > 0 ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, null);
  return spec && ahead.draft ? motionFindings(spec, ahead.draft).filter((f) => f.severity === 'error') : [];
}
