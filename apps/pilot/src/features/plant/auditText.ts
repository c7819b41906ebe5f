import type { AuditPage } from '@yare/contract';

type Event = AuditPage['events'][number];

/** What was only intended is told once it is done or has failed. */
export const isTold = ({ detail }: Event): boolean => (detail as { step?: string } | null)?.step !== 'intended';

/** An audit event as a sentence. */
export function sentenceOf({ action, tag, detail }: Event): string {
  const d = detail as Record<string, unknown>;
  const count = (list: unknown) => (Array.isArray(list) ? list.length : 0);
  const plural = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;
  switch (action) {
    case 'seed':
      return `Demo plant with ${String(d.machines)} machines`;
    case 'new machine':
      return `${tag}: put on record as “${String(d.name)}”`;
    case 'record':
      return `${tag}: name, area or address changed`;
    case 'edit draft':
      return `${tag}: ${plural(count(d.changes), 'setting')} changed in the draft`;
    case 'edit plate':
      return `${tag}: plate changed`;
    case 'write to drive':
      return `${tag}: ${plural(count(d.codes), 'setting')} to the drive, ${String(d.outcome)}`;
    case 'hold to run':
      return `${tag}: held to run at ${String(d.frequency)} Hz`;
    case 'keep in drive':
      return `${tag}: settings kept in the drive${d.step === 'failed' ? ', which failed' : d.kept === false ? ', which it refused' : ''}`;
    case 'pair device':
      return 'Device paired';
    case 'put out device':
      return `Device put out: ${String(d.name)}`;
    case 'remove photo':
      return `${tag}: photo of the plate removed`;
    case 'unlock settings':
      return `${tag}: settings lock opened${d.without ? ' without its code' : ''}`;
    case 'lock settings':
      return `${tag}: settings locked`;
    case 'mark recording':
      return `${tag}: mark “${String(d.label)}” in recording ${String(d.recording)}`;
    default:
      return `${tag ?? ''} ${action}`.trim();
  }
}
