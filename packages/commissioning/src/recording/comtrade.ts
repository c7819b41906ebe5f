import type { RecordingChannel } from '@yare/core';
import type { Recorded } from './channels';
import { markEnds } from './gaps';
import { largestOf, nth, smallestOf } from '@yare/core';

/**
 * Recordings in the common format for transient data exchange, IEEE C37.111-2013 (IEC 60255-24:2013), as one file (CFF, clause 10) of
 * configuration (clause 7) and data (clause 8). Clause numbers from memory.
 */

/** How the samples stand in the file: as text (8.4), or as whole numbers of two bytes (8.6). */
export type ComtradeForm = 'ASCII' | 'BINARY';

/** Most digital channels marks are turned into, and signs a name may have (7.4.3 allows 128). */
const mostMarks = 64;
const longestName = 64;
/** What a two-byte sample reaches; −32768 says that nothing was measured (8.6). */
const reach = 32767;
const missing = -32768;
/** Largest time stamp of four bytes (8.6). */
const mostStamps = 0xfffffffe;
const microseconds = 1e6;

/** Words as a field takes them: a comma would begin the next one. */
const field = (text: string): string =>
  text
    .replace(/[,\r\n]+/g, ' ')
    .trim()
    .slice(0, longestName);

const pad = (n: number, places: number): string => String(n).padStart(places, '0');

/** dd/mm/yyyy,hh:mm:ss.ssssss in UTC (7.4.7). @param ms since 1970 */
function stamp(ms: number): string {
  const d = new Date(Math.floor(ms));
  const fraction = Math.round((ms - Math.floor(ms / 1000) * 1000) * 1000);
  return `${pad(d.getUTCDate(), 2)}/${pad(d.getUTCMonth() + 1, 2)}/${d.getUTCFullYear()},${pad(d.getUTCHours(), 2)}:${pad(d.getUTCMinutes(), 2)}:${pad(d.getUTCSeconds(), 2)}.${pad(Math.min(fraction, 999_999), 6)}`;
}

/** A sample is `a` times the stored number, and `b` (7.4.3). */
interface Scaling {
  a: number;
  b: number;
  counts: (v: number) => number;
}

/** Whole counts of the channel's last decimal where they fit, else its span over all there are. */
function scalingOf(c: RecordingChannel, values: ArrayLike<number>, form: ComtradeForm): Scaling {
  const a = Number((10 ** -c.decimals).toFixed(c.decimals));
  const [low, high] = [smallestOf(values), largestOf(values)];
  if (form === 'ASCII' || !(Math.max(Math.abs(low), Math.abs(high)) / a > reach)) return { a, b: 0, counts: (v) => Math.round(v / a) };
  const b = (low + high) / 2;
  const wide = (high - low) / 2 / reach || a;
  return { a: wide, b, counts: (v) => Math.round((v - b) / wide) };
}

/** Marks as digital channels: one for each label, set at the first sample not before the mark; what has an end of its own stays set until there. */
function digitalsOf({ time, marks }: Recorded): Array<{ name: string; at: Set<number> }> {
  const digitals = new Map<string, Set<number>>();
  const sampleAt = (at: number): number => {
    let i = 0;
    while (i < time.length - 1 && (time[i] ?? NaN) < at - 1e-9) i++;
    return i;
  };
  const begun = new Set(marks.map((m) => m.label));
  for (const m of marks) {
    // the end of something is where its own channel goes back
    if (m.label.endsWith(markEnds) && begun.has(m.label.slice(0, -markEnds.length))) continue;
    const name = field(m.label) || 'Mark';
    if (!digitals.has(name) && digitals.size >= mostMarks) continue;
    const from = sampleAt(m.time);
    const set = (digitals.get(name) ?? new Set<number>()).add(from);
    const end = marks.find((x) => x.time > m.time && (x.label === m.label || x.label === `${m.label}${markEnds}`));
    if (end?.label === `${m.label}${markEnds}`) for (let i = from + 1; i < sampleAt(end.time); i++) set.add(i);
    digitals.set(name, set);
  }
  return [...digitals].map(([name, at]) => ({ name, at }));
}

/** The time stamps' multiplier (7.4.9): 1 µs where an hour and eleven minutes are enough. */
const multiplierFor = (seconds: number): number => {
  let m = 1;
  while ((seconds * microseconds) / m > mostStamps) m *= 10;
  return m;
};

/** A recording as COMTRADE: its configuration, and its data as text or bytes. @param station where it was made */
export function comtradeOf(r: Recorded, station: string, form: ComtradeForm): { cfg: string; dat: Uint8Array } {
  const n = r.time.length;
  const begin = n > 0 ? nth(r.time, 0) : 0;
  const length = n > 0 ? nth(r.time, n - 1) - begin : 0;
  const multiplier = multiplierFor(length);
  const scalings = r.channels.map((c, k) => scalingOf(c, r.values[k] ?? [], form));
  const digitals = digitalsOf(r);
  const started = (r.startedAt ?? 0) + begin * 1000;
  const first = r.marks[0];
  const cfg = [
    `${field(station)},${field(r.title)},2013`,
    `${r.channels.length + digitals.length},${r.channels.length}A,${digitals.length}D`,
    ...r.channels.map((c, k) => {
      const { a, b, counts } = nth(scalings, k);
      const row = r.values[k] ?? [];
      const [low, high] = [smallestOf(row), largestOf(row)];
      const ends = low <= high ? [counts(low), counts(high)] : [0, 0];
      return `${k + 1},${field(c.name)},,${field(c.key)},${field(c.unit)},${a},${b},0,${ends[0]},${ends[1]},1,1,P`;
    }),
    ...digitals.map((d, k) => `${k + 1},${d.name},,,0`),
    '0',
    // sampled when the link answered, not at a rate: every sample has its own time (7.4.6)
    '0',
    `0,${n}`,
    stamp(started),
    stamp(started + Math.max(0, (first?.time ?? begin) - begin) * 1000),
    form,
    `${multiplier}`,
    '0,0',
    '0,0',
    '',
  ].join('\r\n');
  const stampOf = (i: number) => Math.round((((r.time[i] ?? NaN) - begin) * microseconds) / multiplier);
  const countOf = (k: number, i: number): number | null => {
    const v = r.values[k]?.[i] ?? NaN;
    return Number.isFinite(v) ? nth(scalings, k).counts(v) : null;
  };
  return { cfg, dat: form === 'ASCII' ? textOf() : bytesOf() };

  function textOf(): Uint8Array {
    const lines: string[] = [];
    for (let i = 0; i < n; i++)
      lines.push([i + 1, stampOf(i), ...scalings.map((_, k) => countOf(k, i) ?? ''), ...digitals.map((d) => (d.at.has(i) ? 1 : 0))].join(','));
    return new TextEncoder().encode(lines.map((l) => `${l}\r\n`).join(''));
  }

  function bytesOf(): Uint8Array {
    const words = Math.ceil(digitals.length / 16);
    const size = 8 + 2 * scalings.length + 2 * words;
    const out = new DataView(new ArrayBuffer(size * n));
    for (let i = 0; i < n; i++) {
      let at = i * size;
      out.setUint32(at, i + 1, true);
      out.setUint32(at + 4, stampOf(i), true);
      at += 8;
      for (let k = 0; k < scalings.length; k++, at += 2) {
        const count = countOf(k, i);
        out.setInt16(at, count === null ? missing : Math.min(reach, Math.max(-reach, count)), true);
      }
      for (let w = 0; w < words; w++, at += 2) {
        let word = 0;
        for (let bit = 0; bit < 16; bit++) if (digitals[16 * w + bit]?.at.has(i)) word |= 1 << bit;
        out.setUint16(at, word, true);
      }
    }
    return new Uint8Array(out.buffer);
  }
}

/** The same in one file (CFF, clause 10). */
export function comtradeFile(r: Recorded, station: string, form: ComtradeForm): Uint8Array {
  const { cfg, dat } = comtradeOf(r, station, form);
  const size = form === 'BINARY' ? `: ${dat.length}` : '';
  const head = new TextEncoder().encode(
    `--- file type: CFG ---\r\n${cfg}--- file type: INF ---\r\n\r\n--- file type: HDR ---\r\n\r\n--- file type: DAT ${form}${size} ---\r\n`,
  );
  const all = new Uint8Array(head.length + dat.length);
  all.set(head);
  all.set(dat, head.length);
  return all;
}
