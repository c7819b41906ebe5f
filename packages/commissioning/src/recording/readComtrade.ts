import type { RecordingChannel } from '@yare/core';
import type { Recorded } from './channels';

/** A file that was read, or why it was not: where, and what is wrong there. */
export type ReadFile = { ok: true; recorded: Recorded; skipped: number } | { ok: false; sentence: string };

/** Digital channels that are taken in at most: marks, and a relay has tens of them. */
const mostDigitals = 4096;
/** Rates one recording may go through. */
const mostRates = 100;

class Unreadable extends Error {}
const unless = (good: boolean, sentence: string): void => {
  if (!good) throw new Unreadable(sentence);
};

interface Analogue extends RecordingChannel {
  a: number;
  b: number;
}

interface Configuration {
  station: string;
  device: string;
  analogues: Analogue[];
  digitals: string[];
  /** Hz up to a sample's number; empty where every sample has its own time */
  rates: Array<{ rate: number; end: number }>;
  /** ms since 1970 of the first sample, and s from it to the trigger; null where nothing readable stands there */
  startedAt: number | null;
  trigger: number | null;
  form: 'ASCII' | 'BINARY' | 'BINARY32' | 'FLOAT32';
  /** µs a unit of the time stamps is */
  multiplier: number;
}

const forms = ['ASCII', 'BINARY', 'BINARY32', 'FLOAT32'] as const;
const figure = (text: string | undefined, line: number, what: string): number => {
  const value = Number((text ?? '').trim());
  unless(
    (text ?? '').trim() !== '' && Number.isFinite(value),
    `Line ${line} of the configuration: ${what} should be a figure and is "${text ?? ''}".`,
  );
  return value;
};

/** ms since 1970 of dd/mm/yyyy,hh:mm:ss.ssssss taken as UTC (7.4.7); null for anything else. The standard of 1991 puts the month first. */
function momentOf(line: string | undefined, revision: number): number | null {
  const m = /^\s*(\d{1,2})\/(\d{1,2})\/(\d{2,4})\s*,\s*(\d{1,2}):(\d{2}):(\d{2}(?:\.\d+)?)/.exec(line ?? '');
  if (!m) return null;
  const [, first = '', second = '', y = '', h = '', min = '', s = ''] = m;
  const [day, month] = revision < 1999 ? [second, first] : [first, second];
  const year = y.length === 2 ? (Number(y) < 70 ? 2000 : 1900) + Number(y) : Number(y);
  return Date.UTC(year, Number(month) - 1, Number(day), Number(h), Number(min)) + Number(s) * 1000;
}

/** Decimals a figure scaled like this is worth showing with. */
const decimalsOf = (a: number): number => Math.min(4, Math.max(0, Math.ceil(-Math.log10(Math.abs(a) || 1) - 1e-9)));

/** The configuration (clause 7). @throws Unreadable */
function configurationOf(text: string): Configuration {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/);
  const cells = (n: number) => (lines[n] ?? '').split(',').map((c) => c.trim());
  const [station = '', device = '', year] = cells(0);
  const revision = year ? Number(year) : 1991;
  const counted = /^(\d+)\s*,\s*(\d+)\s*A\s*,\s*(\d+)\s*D/i.exec(lines[1] ?? '');
  unless(counted !== null, 'Line 2 of the configuration should count the channels, as in "8,8A,0D". Is this a COMTRADE configuration?');
  const [, total, a, d] = (counted ?? []).map(Number) as [number, number, number, number];
  unless(total === a + d, `Line 2 of the configuration counts ${total} channels, and ${a} and ${d} of them.`);
  unless(a > 0 && a <= 64, `The file has ${a} measured channels; 1 to 64 can be taken in.`);
  // a count is held against what is there, before anything is made of it: every channel has a line of its own
  unless(d <= mostDigitals, `The file has ${d} digital channels; ${mostDigitals} at most can be taken in.`);
  unless(total <= lines.length - 2, `Line 2 of the configuration counts ${total} channels, and the file has ${lines.length} lines. It is cut off.`);
  const analogues = Array.from({ length: a }, (_, k): Analogue => {
    const [, name = '', , key = '', unit = '', factor, offset] = cells(2 + k);
    const scale = figure(factor, 3 + k, 'the multiplier');
    return {
      ...{ key, name: name || `Channel ${k + 1}`, unit, a: scale, b: figure(offset, 3 + k, 'the offset'), decimals: decimalsOf(scale) },
    };
  });
  const digitals = Array.from({ length: d }, (_, k) => cells(2 + a + k)[1] || `Digital ${k + 1}`);
  let at = 2 + a + d + 1;
  const count = figure(lines[at], at + 1, 'the number of rates');
  unless(
    Number.isInteger(count) && count >= 0 && count <= Math.min(mostRates, lines.length - at),
    `Line ${at + 1} of the configuration counts ${count} rates, and the file has ${lines.length} lines; ${mostRates} can be taken in.`,
  );
  const rates = Array.from({ length: Math.max(1, count) }, (_, k) => {
    const [rate, end] = cells(at + 1 + k);
    return { rate: figure(rate, at + 2 + k, 'the rate'), end: figure(end, at + 2 + k, 'the last sample') };
  }).filter((r) => r.rate > 0);
  at += 1 + Math.max(1, count);
  const startedAt = momentOf(lines[at], revision);
  const triggered = momentOf(lines[at + 1], revision);
  const form = forms.find((f) => f === (lines[at + 2] ?? '').trim().toUpperCase());
  unless(
    form !== undefined,
    `Line ${at + 3} of the configuration should say how the data stand (${forms.join(', ')}) and says "${lines[at + 2] ?? ''}".`,
  );
  const multiplier = lines[at + 3]?.trim() ? Number(lines[at + 3]) || 1 : 1;
  return {
    ...{ station, device, analogues, digitals, rates, startedAt, multiplier, form: form! },
    trigger: startedAt !== null && triggered !== null && triggered > startedAt ? (triggered - startedAt) / 1000 : null,
  };
}

interface Samples {
  time: number[];
  values: number[][];
  /** where a digital channel came on, s */
  edges: Array<{ time: number; label: string }>;
  skipped: number;
}

/** Gathers samples in the order they stand. */
class Gathering {
  readonly out: Samples;
  private readonly was: boolean[] = [];
  private number = 0;

  constructor(private readonly c: Configuration) {
    this.out = { time: [], values: c.analogues.map(() => []), edges: [], skipped: 0 };
  }

  /** s of a sample: by the rate where there is one (7.4.6), by its stamp otherwise. */
  private timeOf(stamp: number | null): number | null {
    const { rates, multiplier } = this.c;
    if (rates.length === 0) return stamp === null ? null : (stamp * multiplier) / 1e6;
    let [t, from] = [0, 0];
    for (const { rate, end } of rates) {
      // the step to the first sample of the next rate is already one of that rate
      const n = Math.min(this.number, end - 1) - from;
      t += n / rate;
      from += n;
    }
    return t;
  }

  add(stamp: number | null, counts: ReadonlyArray<number | null>, digitals: readonly boolean[]): void {
    const t = this.timeOf(stamp);
    this.number++;
    if (t === null || t <= (this.out.time.at(-1) ?? -Infinity)) {
      this.out.skipped++;
      return;
    }
    this.out.time.push(t);
    this.c.analogues.forEach(({ a, b }, k) => {
      const count = counts[k] ?? null;
      this.out.values[k]!.push(count === null ? NaN : a * count + b);
    });
    digitals.forEach((on, k) => {
      if (on && !this.was[k]) this.out.edges.push({ time: t, label: this.c.digitals[k]! });
      this.was[k] = on;
    });
  }
}

/** Data as text (8.4). @throws Unreadable with the line */
function readText(c: Configuration, dat: Uint8Array): Samples {
  const all = new Gathering(c);
  const { analogues, digitals } = c;
  const lines = new TextDecoder('latin1').decode(dat).split(/\r?\n/);
  lines.forEach((line, n) => {
    if (line.trim() === '' || line.trim() === '\x1a') return;
    const cells = line.split(',');
    unless(
      cells.length >= 2 + analogues.length + digitals.length,
      `Line ${n + 1} of the data has ${cells.length} fields; by the configuration there should be ${2 + analogues.length + digitals.length}.`,
    );
    const number = (text: string | undefined): number | null => (text?.trim() ? Number(text) : null);
    const counts = analogues.map((_, k) => number(cells[2 + k]));
    unless(
      counts.every((x) => x === null || Number.isFinite(x)),
      `Line ${n + 1} of the data holds something that is no figure.`,
    );
    all.add(
      number(cells[1]),
      counts,
      digitals.map((_, k) => (cells[2 + analogues.length + k] ?? '').trim() === '1'),
    );
  });
  return all.out;
}

/** Data as bytes, little end first (8.6): whole numbers of two or four bytes, or floats. @throws Unreadable */
function readBytes(c: Configuration, dat: Uint8Array): Samples {
  const all = new Gathering(c);
  const width = c.form === 'BINARY' ? 2 : 4;
  const words = Math.ceil(c.digitals.length / 16);
  const size = 8 + width * c.analogues.length + 2 * words;
  unless(dat.length >= size, 'The data are shorter than one sample.');
  const view = new DataView(dat.buffer, dat.byteOffset, dat.byteLength);
  const read = (at: number): number | null => {
    if (c.form === 'FLOAT32') {
      const v = view.getFloat32(at, true);
      return Number.isFinite(v) ? v : null;
    }
    const v = c.form === 'BINARY' ? view.getInt16(at, true) : view.getInt32(at, true);
    return v === (c.form === 'BINARY' ? -0x8000 : -0x80000000) ? null : v;
  };
  for (let start = 0; start + size <= dat.length; start += size) {
    const stamp = view.getUint32(start + 4, true);
    const counts = c.analogues.map((_, k) => read(start + 8 + width * k));
    const at = start + 8 + width * c.analogues.length;
    const on = c.digitals.map((_, k) => (view.getUint16(at + 2 * (k >> 4), true) & (1 << (k & 15))) !== 0);
    all.add(stamp === 0xffffffff ? null : stamp, counts, on);
  }
  return all.out;
}

/** Begin of each part of a file of parts (clause 10): what kind it is, and where its own bytes begin and end. */
function partsOf(file: Uint8Array): { cfg: string; dat: Uint8Array } | null {
  const text = new TextDecoder('latin1').decode(file);
  const heads = [...text.matchAll(/^-{3}\s*file type:\s*(CFG|INF|HDR|DAT)\s*([A-Z0-9]*)\s*(?::\s*(\d+))?\s*-{3}[ \t]*\r?\n/gim)];
  const body = (kind: string) => {
    const i = heads.findIndex((h) => h[1]?.toUpperCase() === kind);
    const head = heads[i];
    if (!head) return null;
    const begin = head.index + head[0].length;
    // bytes may look like a head: where their number is told, it holds, and the data are the last part
    const end = head[3] ? begin + Number(head[3]) : kind === 'DAT' ? file.length : (heads[i + 1]?.index ?? file.length);
    return { begin, end: Math.min(end, file.length) };
  };
  const [cfg, dat] = [body('CFG'), body('DAT')];
  if (!cfg || !dat) return null;
  return { cfg: new TextDecoder().decode(file.subarray(cfg.begin, cfg.end)), dat: file.subarray(dat.begin, dat.end) };
}

export const looksLikeComtrade = (name: string): boolean => /\.(cff|cfg|dat)$/i.test(name);

/**
 * Reads COMTRADE: one file of parts (.cff), or a configuration (.cfg) with its data (.dat). Revisions of 1991, 1999 and 2013; digital channels
 * become marks where they come on.
 */
export function readComtrade(files: ReadonlyArray<{ name: string; bytes: Uint8Array }>): ReadFile {
  const named = (end: string) => files.find((f) => f.name.toLowerCase().endsWith(end));
  try {
    const whole = named('.cff');
    const [config, data] = [named('.cfg'), named('.dat')];
    if (!whole && config && !data)
      return { ok: false, sentence: `${config.name} says what was recorded; the samples are in the .dat file beside it. Choose both together.` };
    if (!whole && data && !config)
      return { ok: false, sentence: `${data.name} holds samples, and the .cfg file beside it says what they are. Choose both together.` };
    const parts = whole ? partsOf(whole.bytes) : config && data ? { cfg: new TextDecoder().decode(config.bytes), dat: data.bytes } : null;
    if (!parts)
      return { ok: false, sentence: `${whole?.name ?? 'The file'} has no part with a configuration and one with data. Is it a COMTRADE file?` };
    const c = configurationOf(parts.cfg);
    const { time, values, edges, skipped } = c.form === 'ASCII' ? readText(c, parts.dat) : readBytes(c, parts.dat);
    if (time.length < 2) return { ok: false, sentence: 'The file holds fewer than two samples.' };
    const begin = time[0]!;
    const marks = [
      ...edges.map((m) => ({ time: m.time - begin, label: m.label.slice(0, 80) })),
      ...(c.trigger !== null && edges.length === 0 && c.trigger - begin > 0 && c.trigger <= time.at(-1)!
        ? [{ time: c.trigger - begin, label: 'Trigger' }]
        : []),
    ].sort((x, y) => x.time - y.time);
    const title = [c.device, c.station].filter(Boolean)[0] ?? 'Recording';
    return {
      ok: true,
      skipped,
      recorded: {
        ...{ title, startedAt: c.startedAt, marks, values },
        channels: c.analogues.map(({ key, name, unit, decimals }) => ({ key, name, unit, decimals })),
        time: time.map((t) => t - begin),
      },
    };
  } catch (error) {
    if (error instanceof Unreadable) return { ok: false, sentence: error.message };
    throw error;
  }
}
