import { mostFigures, type RecordingImport } from '@yare/contract';
import type { Db } from '../db/connect';
import { ProblemError } from '../problem';
import { storeRecording } from './recordings';

const refused = (detail: string): never => {
  throw new ProblemError(422, 'Not a recording', `${detail} Nothing was taken in.`);
};

/** Figures packed as base64. */
function figures(text: string, Of: typeof Float32Array | typeof Float64Array): Float32Array | Float64Array {
  const bytes = Buffer.from(text, 'base64');
  if (bytes.length % Of.BYTES_PER_ELEMENT !== 0) refused('The samples are cut off.');
  return new Of(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer);
}

/** Stores what another instrument recorded and gives its number. @throws ProblemError 422 */
export async function importRecording(db: Db, machineId: number, author: string, r: RecordingImport): Promise<number> {
  const time = figures(r.time, Float64Array);
  const values = r.values.map((v) => figures(v, Float32Array));
  if (values.length !== r.channels.length) refused(`${r.channels.length} channels are named and ${values.length} have samples.`);
  if (values.some((v) => v.length !== time.length)) refused('A channel has more or fewer samples than there are times.');
  if (time.length * values.length > mostFigures)
    refused(`It holds ${time.length * values.length} figures; ${mostFigures} can be kept. Take in fewer channels, or a part.`);
  if (new Set(r.channels.map((c) => c.key)).size < r.channels.length) refused('Two channels have the same key.');
  const [first = NaN] = time;
  if (first !== 0 || !time.every((t, i) => Number.isFinite(t) && (i === 0 || t > time[i - 1]!))) refused('Its times do not begin at 0 and grow.');
  const last = time[time.length - 1]!;
  if (r.marks.some((m) => m.time > last)) refused(`A mark lies after its end at ${last.toFixed(1)} s.`);
  return storeRecording(db, machineId, {
    ...{ kind: 'file' as const, title: r.title, author, channels: r.channels, marks: r.marks },
    startedAt: r.startedAt === null ? Date.now() : Date.parse(r.startedAt),
    time: Array.from(time),
    values: values.map((v) => Array.from(v)),
  });
}
