import type { RecordingChannel } from '@yare/core';
import type { RecordedColumn } from '../process/recordingCsv';
import { linkChannel, linkChannels, type ChannelKey, type Recorded } from './channels';
import { nth } from '@yare/core';
import { say } from '@yare/words/recording';

/** What a column of a file of another instrument is taken for. */
export interface ColumnChoice {
  /** a channel of a link, another one that is kept under its own name, or nothing */
  as: ChannelKey | 'other' | 'time' | 'mark' | 'nothing';
  name: string;
  unit: string;
}
export type TimeUnit = 's' | 'ms' | 'µs' | 'min';
const perSecond: Record<TimeUnit, number> = { s: 1, ms: 1e3, µs: 1e6, min: 1 / 60 };

const fewest = 2;

/** Name and unit of a heading: "DC bus (V)", "DC bus [V]", "DC bus, V", "Bus voltage / V". */
export function headingOf(text: string): { name: string; unit: string } {
  const m = /^(.*?)\s*(?:[([]([^)\]]*)[)\]]|[,/]\s*([^\s,/]{1,6}))\s*$/.exec(text.trim());
  if (!m?.[1]) return { name: text.trim(), unit: '' };
  return { name: m[1].trim(), unit: (m[2] ?? m[3] ?? '').trim() };
}

/** Words that tell which channel of a link a heading stands for; in the order they are tried. */
const named: ReadonlyArray<readonly [ChannelKey, RegExp]> = [
  ['driveTemperature', /heat ?sink|drive temp|°c/i],
  ['motorHeat', /heat|thermal/i],
  ['busVoltage', /\bdc\b|bus|link|zwischenkreis/i],
  ['torque', /torque|drehmoment/i],
  ['power', /\bkw\b|power|leistung/i],
  ['motorSpeed', /rpm|min-1|speed|drehzahl/i],
  ['setpoint', /set ?point|\bsp\b/i],
  ['reference', /reference|\bref\b|sollwert/i],
  ['outputFrequency', /\bhz\b|freq|output/i],
  ['motorCurrent', /\ba\b|amps?\b|current|strom/i],
  ['feedback', /feed ?back|\bpv\b|pressure|flow|level|\bbar\b/i],
];

/** Whether figures only ever grow: a time that was counted. */
const grows = ({ values }: RecordedColumn): boolean => values.every((v, i) => Number.isFinite(v) && (i === 0 || v >= nth(values, i - 1)));

/** What the columns of a file probably are. */
export function guessColumns(columns: readonly RecordedColumn[]): { choices: ColumnChoice[]; timeUnit: TimeUnit } {
  const clock = columns.findIndex((c) => c.time);
  const byName = columns.findIndex((c) => /time|zeit|\bt\b|\bsec/i.test(c.name) && grows(c));
  const counted = columns.findIndex(grows);
  const time = clock >= 0 ? clock : byName >= 0 ? byName : counted;
  const taken = new Set<string>();
  const choices = columns.map((c, i): ColumnChoice => {
    const { name, unit } = headingOf(c.name);
    if (i === time) return { as: 'time', name, unit };
    if (/^(mark|event|note|remark)s?$/i.test(name)) return { as: 'mark', name, unit: '' };
    if (!c.values.some(Number.isFinite)) return { as: 'nothing', name, unit };
    const key =
      linkChannels.find((k) => k.name.toLowerCase() === name.toLowerCase() && k.unit === unit)?.key ??
      named.find(([, words]) => words.test(c.name))?.[0];
    if (!key || taken.has(key)) return { as: 'other', name, unit };
    taken.add(key);
    return { as: key, name, unit: unit || (linkChannel(key)?.unit ?? '') };
  });
  const heading = columns[time];
  const unit = heading ? headingOf(heading.name).unit || heading.name : '';
  const of = (words: RegExp) => words.test(unit);
  return { choices, timeUnit: heading?.time ? 's' : of(/\bms\b|milli/i) ? 'ms' : of(/[µu]s\b|micro/i) ? 'µs' : of(/^min|minute/i) ? 'min' : 's' };
}

/** Decimals the figures of a channel are worth showing with. */
function decimalsOf(values: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < values.length && most < 3; i += Math.max(1, Math.floor(values.length / 500))) {
    const v = nth(values, i);
    while (most < 3 && Number.isFinite(v) && Math.abs(v * 10 ** most - Math.round(v * 10 ** most)) > 1e-6 * 10 ** most) most++;
  }
  return most;
}

const keyOf = (name: string, taken: ReadonlySet<string>): string => {
  const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-') || 'channel';
  let key = plain;
  for (let n = 2; taken.has(key); n++) key = `${plain}-${n}`;
  return key;
};

/** A recording of the columns as they were chosen; a sentence where they cannot be one. @param titled name of the file */
export function recordedOf(
  columns: readonly RecordedColumn[],
  choices: readonly ColumnChoice[],
  timeUnit: TimeUnit,
  titled: string,
): { ok: true; recorded: Recorded; skipped: number } | { ok: false; sentence: string } {
  const time = columns[choices.findIndex((c) => c.as === 'time')];
  const wanted = choices.flatMap((c, i) => (c.as === 'time' || c.as === 'mark' || c.as === 'nothing' ? [] : [{ ...c, column: nth(columns, i) }]));
  if (!time) return { ok: false, sentence: say.chooseTheColumnThatIs };
  if (wanted.length === 0) return { ok: false, sentence: say.chooseAtLeastOneColumn };
  const keys = new Set<string>();
  const channels = wanted.map((c): RecordingChannel => {
    const known = linkChannel(c.as);
    const key = known && !keys.has(known.key) ? known.key : keyOf(c.name, keys);
    keys.add(key);
    return { key, name: c.name || known?.name || key, unit: c.unit, decimals: known?.decimals ?? decimalsOf(c.column.values) };
  });
  const out = { time: [] as number[], values: wanted.map(() => [] as number[]) };
  const begin = time.values.find(Number.isFinite) ?? 0;
  let skipped = 0;
  const scale = time.time ? 1 : perSecond[timeUnit];
  for (let i = 0; i < time.values.length; i++) {
    const t = (nth(time.values, i) - begin) / scale;
    const last = out.time.at(-1) ?? -Infinity;
    if (Number.isFinite(t) && t < last - 1e-9)
      return {
        ok: false,
        sentence: say.timeGoesBackInLine({ i: i + 1, name: time.name }),
      };
    if (!Number.isFinite(t) || t <= last) {
      skipped++;
      continue;
    }
    out.time.push(t);
    wanted.forEach((c, k) => nth(out.values, k).push(nth(c.column.values, i)));
  }
  if (out.time.length < fewest) return { ok: false, sentence: say.noTwoLinesOfThe };
  const marked = columns[choices.findIndex((c) => c.as === 'mark')]?.texts ?? [];
  const marks = marked.flatMap((text, i) =>
    text.trim() === ''
      ? []
      : text.split(' | ').map((label) => ({ time: Math.max(0, (nth(time.values, i) - begin) / scale), label: label.slice(0, 80) })),
  );
  return { ok: true, skipped, recorded: { title: titled, startedAt: time.startedAt ?? null, channels, time: out.time, values: out.values, marks } };
}
