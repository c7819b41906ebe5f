import type { RecordingImport } from '@yare/contract';
import { noWords } from '@yare/contract/signs';
import { say } from '@yare/words/recording';
import { linkChannel, type Recorded } from './channels';
import { toBase64 } from './samples';

const unseen = new RegExp(`[${noWords}]+`, 'gu');
/** What another program wrote, in signs the server takes. */
const words = (text: string): string => text.replace(unseen, ' ').trim();

/** Channels that may be sent: every key once, in signs the server takes. */
function channelsOf({ channels }: Recorded): RecordingImport['channels'] {
  const taken = new Set<string>();
  return channels.map(({ key, name, unit, decimals }, k) => {
    const known = linkChannel(key)?.key;
    let plain = known ?? (key.replace(/[^A-Za-z0-9-]/g, '').slice(0, 40) || `channel-${k + 1}`);
    if (taken.has(plain)) plain = `${plain}-${k + 1}`;
    taken.add(plain);
    return { key: plain, name: words(name).slice(0, 80) || plain, unit: words(unit).slice(0, 16), decimals };
  });
}

/** A recording as it is sent to the server. */
export const packedOf = (recorded: Recorded, title: string): Omit<RecordingImport, 'author'> => ({
  title: words(title) || say.recording,
  startedAt: recorded.startedAt === null ? null : new Date(recorded.startedAt).toISOString(),
  channels: channelsOf(recorded),
  time: toBase64(Float64Array.from(recorded.time)),
  values: recorded.values.map((v) => toBase64(Float32Array.from(v))),
  marks: recorded.marks.slice(0, 500).map((m) => ({ time: m.time, label: words(m.label) || say.mark })),
});
