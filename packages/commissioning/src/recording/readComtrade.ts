import type { RecordingChannel } from '@yare/core';
import type { Recorded } from './channels';
import { markEnds } from './gaps';
import { nth, present } from '@yare/core';
import { say } from '@yare/words/recording';

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
  /** s by which it was sampled later than the first channel (7.4.3) */
  skew: number;
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
  /** units of the time stamps, so many for each count, and so many a second */
  multiplier: number;
  perSecond: number;
  /** the standard of 1991 writes 99999 where nothing was measured */
  gap: number | null;
}

const forms = ['ASCII', 'BINARY', 'BINARY32', 'FLOAT32'] as const;
const figure = (text: string | undefined, line: number, what: string): number => {
  const value = Number((text ?? '').trim());
  unless((text ?? '').trim() !== '' && Number.isFinite(value), say.lineOfTheConfigurationShould({ line, what, text: text ?? '' }));
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

/** Seconds that a local time is before UTC, by the time code of 2013 (7.4.10): "-5h30", "1", "0"; zero for none, and for what says that there is none. */
function beforeUtc(code: string | undefined): number {
  const m = /^\s*([+-]?)(\d{1,2})(?:h(\d{1,2}))?\s*$/i.exec((code ?? '').split(',')[0] ?? '');
  if (!m) return 0;
  const [, sign, h = '0', min = '0'] = m;
  return (sign === '-' ? 1 : -1) * (Number(h) * 3600 + Number(min) * 60);
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
  unless(counted !== null, say.lineOfTheConfigurationShould2);
  const [, total, a, d] = (counted ?? []).map(Number) as [number, number, number, number];
  unless(total === a + d, say.lineOfTheConfigurationCounts({ total, a, d }));
  unless(a > 0 && a <= 64, say.theFileHasMeasuredChannels({ a }));
  // a count is held against what is there, before anything is made of it: every channel has a line of its own
  unless(d <= mostDigitals, say.theFileHasDigitalChannels({ d, mostDigitals }));
  unless(total <= lines.length - 2, say.lineOfTheConfigurationCounts2({ total, lines: lines.length }));
  const analogues = Array.from({ length: a }, (_, k): Analogue => {
    const [, name = '', , key = '', unit = '', factor, offset, skew, , , primary, secondary, side] = cells(2 + k);
    // figures of the secondary side of a transformer are said as what flows on its primary (7.4.3)
    const ratio = side?.toUpperCase() === 'S' && Number(primary) > 0 && Number(secondary) > 0 ? Number(primary) / Number(secondary) : 1;
    const scale = ratio * figure(factor, 3 + k, say.theMultiplier);
    return {
      ...{
        key,
        name: name || say.channel({ k: k + 1 }),
        unit,
        a: scale,
        b: ratio * figure(offset, 3 + k, say.theOffset),
        decimals: decimalsOf(scale),
      },
      skew: Number(skew) / 1e6 || 0,
    };
  });
  const digitals = Array.from({ length: d }, (_, k) => cells(2 + a + k)[1] || say.digital({ k: k + 1 }));
  let at = 2 + a + d + 1;
  const count = figure(lines[at], at + 1, say.theNumberOfRates);
  unless(
    Number.isInteger(count) && count >= 0 && count <= Math.min(mostRates, lines.length - at),
    say.lineOfTheConfigurationCounts3({ at: at + 1, count, lines: lines.length, mostRates }),
  );
  const rates = Array.from({ length: Math.max(1, count) }, (_, k) => {
    const [rate, end] = cells(at + 1 + k);
    return { rate: figure(rate, at + 2 + k, say.theRate), end: figure(end, at + 2 + k, say.theLastSample) };
  }).filter((r) => r.rate > 0);
  at += 1 + Math.max(1, count);
  // fractions of nine places are nanoseconds, and so are the stamps then (7.4.7, 7.4.9)
  const fine = /\.\d{7,}/.test(lines[at] ?? '');
  const shift = revision >= 2013 ? 1000 * beforeUtc(lines[at + 4]) : 0;
  const local = momentOf(lines[at], revision);
  const startedAt = local === null ? null : local + shift;
  const begun = momentOf(lines[at + 1], revision);
  const triggered = begun === null ? null : begun + shift;
  const form = forms.find((f) => f === (lines[at + 2] ?? '').trim().toUpperCase());
  unless(form !== undefined, say.lineOfTheConfigurationShould3({ at: at + 3, forms: forms.join(', '), lines: lines[at + 2] ?? '' }));
  const multiplier = lines[at + 3]?.trim() ? Number(lines[at + 3]) || 1 : 1;
  return {
    ...{ station, device, analogues, digitals, rates, startedAt, form: present(form) },
    ...{ multiplier, perSecond: fine ? 1e9 : 1e6 },
    gap: revision < 1999 ? 99999 : null,
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
  /** the sample each digital channel came on with */
  private readonly since: Array<number | undefined> = [];
  private number = 0;

  constructor(private readonly c: Configuration) {
    this.out = { time: [], values: c.analogues.map(() => []), edges: [], skipped: 0 };
  }

  /** s of a sample: by the rate where there is one (7.4.6), by its stamp otherwise. */
  private timeOf(stamp: number | null): number | null {
    const { rates, multiplier, perSecond } = this.c;
    if (rates.length === 0) return stamp === null ? null : (stamp * multiplier) / perSecond;
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
      nth(this.out.values, k).push(count === null ? NaN : a * count + b);
    });
    digitals.forEach((on, k) => {
      const label = nth(this.c.digitals, k);
      const since = this.since[k];
      if (on && since === undefined) {
        this.out.edges.push({ time: t, label });
        this.since[k] = this.number;
      } else if (!on && since !== undefined) {
        // one that was on for a single sample is a moment; a longer one has an end of its own
        if (this.number - since > 1) this.out.edges.push({ time: t, label: `${label}${markEnds}` });
        this.since[k] = undefined;
      }
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
      say.lineOfTheDataHas({ n: n + 1, cells: cells.length, analogues: 2 + analogues.length + digitals.length }),
    );
    const number = (text: string | undefined): number | null => (text?.trim() ? Number(text) : null);
    const counts = analogues.map((_, k) => {
      const count = number(cells[2 + k]);
      return count === c.gap ? null : count;
    });
    unless(
      counts.every((x) => x === null || Number.isFinite(x)),
      say.lineOfTheDataHolds({ n: n + 1 }),
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
  unless(dat.length >= size, say.theDataAreShorterThan);
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

/** A channel that was sampled later than the others, as it was at their times: between its own samples, by a straight line. */
function inStep(time: readonly number[], row: number[], skew: number): number[] {
  if (skew === 0) return row;
  let k = 0;
  return time.map((t) => {
    while (k < time.length - 2 && nth(time, k + 1) + skew <= t) k++;
    const [t0, t1] = [nth(time, k) + skew, nth(time, k + 1) + skew];
    // before its first sample and after its last one nothing is known but the nearest
    return t <= t0 ? nth(row, k) : t >= t1 ? nth(row, k + 1) : nth(row, k) + ((t - t0) / (t1 - t0)) * (nth(row, k + 1) - nth(row, k));
  });
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
    if (!whole && config && !data) return { ok: false, sentence: say.saysWhatWasRecordedThe({ name: config.name }) };
    if (!whole && data && !config) return { ok: false, sentence: say.holdsSamplesAndTheCfg({ name: data.name }) };
    const parts = whole ? partsOf(whole.bytes) : config && data ? { cfg: new TextDecoder().decode(config.bytes), dat: data.bytes } : null;
    if (!parts) return { ok: false, sentence: say.hasNoPartWithA({ name: whole?.name ?? 'The file' }) };
    const c = configurationOf(parts.cfg);
    const { time, values: sampled, edges, skipped } = c.form === 'ASCII' ? readText(c, parts.dat) : readBytes(c, parts.dat);
    const values = sampled.map((row, k) => inStep(time, row, nth(c.analogues, k).skew));
    if (time.length < 2) return { ok: false, sentence: say.theFileHoldsFewerThan };
    const begin = nth(time, 0);
    const marks = [
      ...edges.map((m) => ({ time: m.time - begin, label: m.label.slice(0, 80) })),
      ...(c.trigger !== null && edges.length === 0 && c.trigger - begin > 0 && c.trigger <= (time.at(-1) ?? 0)
        ? [{ time: c.trigger - begin, label: say.trigger }]
        : []),
    ].sort((x, y) => x.time - y.time);
    // a file of ours has the machine's tag for its station, which it is taken in under anyway
    const told = /^[A-Z]{1,3}-\d{1,4}$/.test(c.station) ? [c.device || c.station] : [c.station, c.device];
    const title = told.filter(Boolean).join(': ') || say.recording;
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
