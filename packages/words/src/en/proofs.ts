import type { FactsOf, ProofKind } from '@yare/contract';
import { roles } from '@yare/core/roles';
import { voltageUnbalance } from '@yare/core/supply';
import { formatFigure } from '@yare/core/units';
import { and, counted } from './grammar';

type Quantity = FactsOf<'run'>['compared'][number]['quantity'];

/** What was looked ahead and measured of a run, and how it is written. */
export const quantities: Readonly<Record<Quantity, { name: string; unit: string; decimals: number }>> = {
  'peak bus': { name: 'peak DC bus', unit: 'V', decimals: 0 },
  'peak current': { name: 'peak motor current', unit: 'A', decimals: 1 },
  'stop time': { name: 'time to stop', unit: 's', decimals: 1 },
};

const megohm = (x: number): string => `${formatFigure(x, x < 100 ? 1 : 0)} MΩ`;
const hertz = (x: number): string => `${formatFigure(x, 1)} Hz`;
const seconds = (x: number): string => `${formatFigure(x, 0)} s`;
const nameOf = (role: string): string => (role in roles ? roles[role as keyof typeof roles].name.toLowerCase() : role);

const inBand = ({ measured, predicted, band }: FactsOf<'run'>['compared'][number]): string =>
  band === null ? '' : Math.abs(measured - predicted) <= band ? ', inside' : ', outside';
const compared = (c: FactsOf<'run'>['compared'][number]): string => {
  const { name, unit, decimals } = quantities[c.quantity];
  return `${name} ${formatFigure(c.measured, decimals)} ${unit}${inBand(c)}`;
};

const wire = ({ terminal, device }: FactsOf<'wires'>['right'][number]): string => `${terminal} ${device}`;
/** What the drive did at a position of its selector. */
export const positionText = (at: FactsOf<'selector'>['hand']): string =>
  !at ? 'not tried' : at.did === 'ran' ? `ran at ${hertz(at.frequency)}` : at.did === 'slept' ? 'asleep, in auto' : 'stood still';

/** % of the range, or a figure in the sensor's unit where the range is known. */
function reading({ range }: FactsOf<'holds'>, percent: number): string {
  if (!range) return `${formatFigure(percent, 1)} %`;
  return `${formatFigure(range.low + (percent / 100) * (range.high - range.low), range.decimals)} ${range.unit}`;
}

/** How a guard is called that acted, where the family's own names are known. */
export type TripName = (code: number) => string | undefined;

/** What a test found, in words that follow *it* or stand behind a colon; `passed` where only the outcome tells. */
export const found: { readonly [K in ProofKind]: (f: FactsOf<K>, passed: boolean, tripName: TripName) => string } = {
  look: (_, passed) => (passed ? 'OK' : 'not OK'),
  insulation: (f) => `${megohm(f.reading)} at ${formatFigure(f.temperature, 0)} °C, ${megohm(f.at40)} at 40 °C`,
  lineVoltages({ lines: [ab = 0, bc = 0, ca = 0] }) {
    if (ab + bc + ca === 0) return 'no volts at all';
    const mean = formatFigure((ab + bc + ca) / 3, 0);
    return `${[ab, bc, ca].map((v) => formatFigure(v, 0)).join(', ')} V: mean ${mean} V, unbalance ${formatFigure(voltageUnbalance(ab, bc, ca), 1)} %`;
  },
  direction: (f) =>
    `${f.right ? 'the right way' : 'the wrong way'} at up to ${hertz(f.frequency)}${f.recording === null ? '' : `, recording ${f.recording}`}`,
  tune: (f) => f.constants.map((c) => `${nameOf(c.role)} ${formatFigure(c.value, c.decimals)} ${c.unit}`).join(', '),
  run: (f) => [hertz(f.frequency), ...f.compared.map(compared), `recording ${f.recording}`].join('; '),
  givenBack: () => 'nobody has command over the link',
  wires: (f) => `${f.right.map(wire).join(', ')}${f.untried.length > 0 ? `; not tried: ${f.untried.map(wire).join(', ')}` : ''}`,
  gauges: ({ unit, decimals, points }) =>
    points.map((p) => `gauge ${formatFigure(p.gauge, decimals)} ${unit}, drive ${formatFigure(p.seen, decimals)} ${unit}`).join('; '),
  guard({ guard, act }, _, tripName) {
    switch (act.did) {
      case 'tripped':
        return `tripped: ${tripName(act.code) ?? `code ${act.code}`}`;
      case 'rested':
        return 'stopped, and rests before it tries again';
      case 'warned':
        return 'warned';
      case 'turned':
        return 'turned because of the frost thermostat';
      case 'ran':
        return guard === 'cleaning'
          ? `cleaned itself for ${seconds(act.seconds)} and went on`
          : guard === 'fill'
            ? `filled the pipe for ${seconds(act.seconds)}, then held it`
            : `ran on for ${seconds(act.seconds)}`;
    }
  },
  sleep: (f) => `fell asleep, woke by itself ${seconds(f.seconds)} later`,
  preset: (f) => hertz(f.frequency),
  selector: (f) => `hand: ${positionText(f.hand)}; off: ${positionText(f.off)}; auto: ${positionText(f.auto)}`,
  emergency: (f) =>
    `ran in emergency for ${seconds(f.seconds)} at up to ${hertz(f.frequency)} and ended with its contact` +
    (f.through ? `; ran on through ${counted(f.through, { one: '# trip', other: '# trips' })}` : ''),
  holds: (f) =>
    `${reading(f, f.low)} to ${reading(f, f.high)} for ${seconds(f.held)}, ${seconds(f.back)} after a disturbance that moved the output by ` +
    `${formatFigure(f.output, 0)} % and the feedback by ${formatFigure(f.off, 1)} % of the range`,
  staging: (f) => `pump ${and(f.together)} ran together, then pump ${and(f.left)}`,
  replaced: (f) => `pump ${and(f.gone)} was replaced by pump ${and(f.come)}`,
};
