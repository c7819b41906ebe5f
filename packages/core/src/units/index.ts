/**
 * Units of people and their SI base. Everything inside the core is SI; a figure is converted once, at the edge.
 * Sources: BIPM SI Brochure, 9th ed.; NIST SP 811 (2008) app. B for the horsepower, pound-force foot, psi, conventional inch of water and US gallon.
 */
export type Quantity =
  | 'power'
  | 'voltage'
  | 'current'
  | 'frequency'
  | 'speed'
  | 'torque'
  | 'time'
  | 'ratio'
  | 'pressure'
  | 'flow'
  | 'length'
  | 'inertia'
  | 'resistance'
  | 'temperature'
  | 'number';

export interface Unit {
  readonly symbol: string;
  readonly quantity: Quantity;
  /** SI value = figure · factor + offset. */
  readonly factor: number;
  readonly offset?: number;
}

const rpm = (2 * Math.PI) / 60;

export const units = {
  W: { symbol: 'W', quantity: 'power', factor: 1 },
  kW: { symbol: 'kW', quantity: 'power', factor: 1000 },
  hp: { symbol: 'hp', quantity: 'power', factor: 745.69987158227 },
  V: { symbol: 'V', quantity: 'voltage', factor: 1 },
  A: { symbol: 'A', quantity: 'current', factor: 1 },
  Hz: { symbol: 'Hz', quantity: 'frequency', factor: 1 },
  rpm: { symbol: 'rpm', quantity: 'speed', factor: rpm },
  'rad/s': { symbol: 'rad/s', quantity: 'speed', factor: 1 },
  'N·m': { symbol: 'N·m', quantity: 'torque', factor: 1 },
  'lb·ft': { symbol: 'lb·ft', quantity: 'torque', factor: 1.3558179483314 },
  s: { symbol: 's', quantity: 'time', factor: 1 },
  ms: { symbol: 'ms', quantity: 'time', factor: 0.001 },
  '%': { symbol: '%', quantity: 'ratio', factor: 0.01 },
  bar: { symbol: 'bar', quantity: 'pressure', factor: 1e5 },
  Pa: { symbol: 'Pa', quantity: 'pressure', factor: 1 },
  kPa: { symbol: 'kPa', quantity: 'pressure', factor: 1000 },
  inH2O: { symbol: 'inH2O', quantity: 'pressure', factor: 249.08891 },
  m: { symbol: 'm', quantity: 'length', factor: 1 },
  psi: { symbol: 'psi', quantity: 'pressure', factor: 6894.757293168 },
  'm³/h': { symbol: 'm³/h', quantity: 'flow', factor: 1 / 3600 },
  gpm: { symbol: 'gpm', quantity: 'flow', factor: 6.30901964e-5 },
  'kg·m²': { symbol: 'kg·m²', quantity: 'inertia', factor: 1 },
  Ω: { symbol: 'Ω', quantity: 'resistance', factor: 1 },
  '°C': { symbol: '°C', quantity: 'temperature', factor: 1, offset: 273.15 },
  '°F': { symbol: '°F', quantity: 'temperature', factor: 5 / 9, offset: 273.15 - 32 * (5 / 9) },
} as const satisfies Record<string, Unit>;

export type UnitSymbol = keyof typeof units;

/** A figure in a unit of people, as SI. */
export function toSi(figure: number, unit: UnitSymbol): number {
  const u: Unit = units[unit];
  return figure * u.factor + (u.offset ?? 0);
}

/** An SI value as a figure in a unit of people. */
export function fromSi(value: number, unit: UnitSymbol): number {
  const u: Unit = units[unit];
  return (value - (u.offset ?? 0)) / u.factor;
}

/** A figure from one unit to another of the same quantity. @throws RangeError when the quantities differ. */
export function convert(figure: number, from: UnitSymbol, to: UnitSymbol): number {
  if (units[from].quantity !== units[to].quantity) throw new RangeError(`${from} and ${to} do not measure the same thing`);
  return from === to ? figure : fromSi(toSi(figure, from), to);
}

/** A figure with so many decimals, a true minus sign and thin spaces between thousands; an en dash when there is none. */
export function formatFigure(figure: number | null | undefined, decimals: number): string {
  if (figure === null || figure === undefined || !Number.isFinite(figure)) return '–';
  const fixed = Math.abs(figure).toFixed(decimals);
  const [whole = '0', part] = fixed.split('.');
  const grouped = whole.length > 4 ? whole.replace(/\B(?=(\d{3})+$)/g, '\u2009') : whole;
  const sign = figure < 0 && Number(fixed) !== 0 ? '−' : '';
  return sign + grouped + (part ? `.${part}` : '');
}

/** The most decimals a figure is shown with that somebody typed. */
const mostTyped = 3;

/**
 * A figure as somebody typed it: with its decimals and no more, so that 35.5 °C stays 35.5 and 0.04 MΩ is not 0.0. What double
 * precision leaves over does not count.
 * @param least decimals shown in any case
 */
export function typedFigure(figure: number | null | undefined, least = 0): string {
  let decimals = least;
  while (figure && decimals < mostTyped && Math.abs(figure - Number(figure.toFixed(decimals))) > 1e-9) decimals += 1;
  return formatFigure(figure, decimals);
}

/** Symbols that stand after figures in sentences besides the units that are converted. */
const furtherSymbols = ['kHz', 'mΩ', 'MΩ', 'mH', 'min', 'h', 'K', 'm', 'mm', 'kWh'];
const anySymbol = [...Object.keys(units), ...furtherSymbols].join('|');
const figureAndUnit = new RegExp(`(?<=\\d) (?=(?:${anySymbol})(?![\\p{L}\\p{N}]))`, 'gu');

/** A sentence whose figures keep their units on their line. The space between the two is the SI Brochure's (9th ed., 5.4.3); that it does not break is common practice. */
export function unbroken(sentence: string): string {
  return sentence.replace(figureAndUnit, '\u00a0');
}

/** What somebody typed as a number: accepts a decimal comma and spaces; null when it is not a number. */
export function parseFigure(text: string): number | null {
  const clean = text
    .replace(/[\s\u2009]/g, '')
    .replace('−', '-')
    .replace(',', '.');
  if (!/^-?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}
