import Ajv from 'ajv';
import { mostFigures, RecordingImport } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Db } from '../db/connect';
import { badInput, ProblemError } from '../problem';
import { storeRecording } from './recordings';
import { nth } from '@yare/core';

const refused = (detail: string): never => {
  throw new ProblemError(422, 'Not a recording', `${detail} Nothing was taken in.`);
};

const fits = new Ajv({ strict: false, strictNumbers: true }).compile<RecordingImport>(RecordingImport);

/** Figures packed as base64. */
function figures(text: string, Of: typeof Float32Array | typeof Float64Array): Float32Array | Float64Array {
  const bytes = Buffer.from(text, 'base64');
  if (bytes.length % Of.BYTES_PER_ELEMENT !== 0) refused('The samples are cut off.');
  return new Of(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer);
}

/** Parts and levels a recording has at most, each channel and mark with all it holds. */
const mostParts = 20_000;
const mostLevels = 8;

/** Whether JSON has no more parts and levels than a recording: counted before any of it is made, for what is made takes many times its bytes. */
export function isPlain(bytes: Uint8Array): boolean {
  const [quote, backslash, comma] = [0x22, 0x5c, 0x2c];
  let [words, parts, levels] = [false, 0, 0];
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i];
    if (byte === backslash && words) i++;
    else if (byte === quote) words = !words;
    else if (words) continue;
    else if (byte === comma) parts++;
    else if (byte === 0x5b || byte === 0x7b) {
      parts++;
      levels++;
    } else if (byte === 0x5d || byte === 0x7d) levels--;
    if (parts > mostParts || levels > mostLevels) return false;
  }
  return true;
}

/** The JSON of a request that comes in pieces. @throws ProblemError 413 past so many bytes, 400 when it is none */
async function jsonOf(bytes: AsyncIterable<Uint8Array>, largest: number): Promise<unknown> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const piece of bytes) {
    length += piece.length;
    if (length > largest) throw tooLarge(largest);
    pieces.push(piece);
  }
  const whole = Buffer.concat(pieces);
  if (!isPlain(whole)) throw new ProblemError(400, 'Bad input', 'The request holds more parts than any recording has. Nothing was taken in.');
  try {
    return JSON.parse(whole.toString());
  } catch {
    throw new ProblemError(400, 'Bad input', 'The request is no JSON that can be read. Nothing was taken in.');
  }
}

export const tooLarge = (largest: number): ProblemError =>
  new ProblemError(413, 'Too large', `The file is larger than ${Math.round(largest / 1024 / 1024)} MB. Nothing was taken in. Take a part of it.`);

/** What was sent, held against itself. @throws ProblemError 422 */
function samplesOf(r: RecordingImport): { time: ArrayLike<number>; values: ReadonlyArray<ArrayLike<number>> } {
  if (r.values.length !== r.channels.length) refused(`${r.channels.length} channels are named and ${r.values.length} have samples.`);
  if (new Set(r.channels.map((c) => c.key)).size < r.channels.length) refused('Two channels have the same key.');
  // by the length of the text, before any of it is unpacked
  const count = Math.floor((r.time.length * 3) / 4 / Float64Array.BYTES_PER_ELEMENT) * r.values.length;
  if (count > mostFigures) refused(`It holds ${count} figures; ${mostFigures} can be kept. Take in fewer channels, or a part.`);
  const time = figures(r.time, Float64Array);
  const values = r.values.map((v) => figures(v, Float32Array));
  if (values.some((v) => v.length !== time.length)) refused('A channel has more or fewer samples than there are times.');
  const endless = values.findIndex((v) => v.some((x) => x === Infinity || x === -Infinity));
  if (endless !== -1) refused(`Channel ${r.channels[endless]?.name} holds a figure without end.`);
  const [first = NaN] = time;
  if (first !== 0 || !time.every((t, i) => Number.isFinite(t) && (i === 0 || t > nth(time, i - 1)))) refused('Its times do not begin at 0 and grow.');
  const last = nth(time, time.length - 1);
  if (r.marks.some((m) => m.time > last)) refused(`A mark lies after its end at ${last.toFixed(1)} s.`);
  return { time, values };
}

/**
 * Stores what another instrument recorded and gives its number.
 * @param bytes JSON of a {@link RecordingImport}
 * @throws ProblemError 400, 413, 422
 */
export async function importRecording(
  db: Db,
  machine: { id: number; tag: string },
  bytes: AsyncIterable<Uint8Array>,
  largest: number,
): Promise<number> {
  const r = await jsonOf(bytes, largest);
  if (!fits(r)) throw badInput(fits.errors ?? []);
  const samples = samplesOf(r);
  const author = authorOf(r);
  return db.transaction(async (trx) => {
    const id = await storeRecording(trx, machine.id, {
      ...{ kind: 'file' as const, title: r.title, author, channels: r.channels, marks: r.marks, ...samples },
      startedAt: r.startedAt === null ? Date.now() : Date.parse(r.startedAt),
    });
    await audit(trx, author, 'recording taken in', machine.tag, { recording: id, title: r.title });
    return id;
  });
}
