import type { LiveSample, ProofFacts, Survey } from '@yare/contract';
import { busAtRest, formatFigure, insulationAt40, leastInsulation, unbalanceDerating, voltageUnbalance, type Supply } from '@yare/core';
import { defineStage, ofItems, type ProofDefinition } from '../stage';

/** One check before the supply is switched on. */
export interface PowerCheck extends ProofDefinition {
  /** what is done and what is to be seen */
  how: string;
  /** figures that decide it, instead of a word */
  figures?: 'insulation' | 'lineVoltages';
}

const eye = {};

/**
 * In the safe order: dead before anything is touched, earths before phases, motor side before supply side, control last; insulation while the
 * motor is still off the drive, voltages when everything else is done (common practice).
 */
export const powerChecks: readonly PowerCheck[] = [
  {
    id: 'isolated',
    how: 'Isolator off, your own lock and tag on it, tester proved before and after. Wait until the DC bus is empty.',
    relies: eye,
  },
  {
    id: 'mounted',
    how: 'Upright, clear above and below, nothing blows hot air into it, ambient as surveyed.',
    relies: { survey: ['ambient'] },
  },
  {
    id: 'motorEarth',
    how: 'Earth of the motor on the drive’s motor earth terminal, screen clamped all round at both ends.',
    relies: eye,
  },
  {
    id: 'links',
    how: 'As drawn on the Plate stage for the connection entered there.',
    relies: { plate: ['voltage', 'connection', 'leads', 'joined'] },
  },
  {
    id: 'insulation',
    how: 'Motor leads off the drive. 500 V for one minute between the leads and earth. Never against the drive itself.',
    relies: eye,
    figures: 'insulation',
    facts: 'insulation',
  },
  {
    id: 'motorPhases',
    how: 'U, V, W at the drive’s motor terminals. Never the supply there: it destroys the drive.',
    relies: eye,
  },
  {
    id: 'supplyEarth',
    how: 'Protective earth of the supply; a second one where the leakage current asks for it.',
    relies: eye,
  },
  {
    id: 'supplyPhases',
    how: 'Line terminals, fuses as the drive asks, tightened.',
    relies: { survey: ['voltage', 'phases'] },
  },
  {
    id: 'controlRows',
    how: 'Control cables away from power, screens at the drive end, safety channels with both wires.',
    relies: eye,
  },
  {
    id: 'lineVoltages',
    how: 'At the supply terminals, isolator on, drive not started: L1–L2, L2–L3, L3–L1.',
    relies: eye,
    figures: 'lineVoltages',
    facts: 'lineVoltages',
  },
];

export interface Judgement {
  passed: boolean;
  facts: ProofFacts;
  sentence: string;
}

/** An insulation reading against IEEE 43, corrected to 40 °C; null when it was not taken. */
export function judgeInsulation(reading: Survey['insulation']): Judgement | null {
  if (!reading || reading.reading === null) return null;
  const winding = reading.winding ?? null;
  const corrected = insulationAt40(reading.reading * 1e6, reading.temperature, winding) / 1e6;
  const by = winding === null ? ', by the law of the winding that gives less' : '';
  const least = leastInsulation / 1e6;
  const text = (x: number) => `${formatFigure(x, x < 100 ? 1 : 0)} MΩ`;
  const passed = corrected >= least;
  return {
    passed,
    facts: { kind: 'insulation', reading: reading.reading, temperature: reading.temperature, at40: corrected, least },
    sentence: passed
      ? `${text(corrected)} corrected to 40 °C${by}; at least ${least} MΩ is wanted. Sound.`
      : `${text(corrected)} corrected to 40 °C${by && `${by},`} is below ${least} MΩ: do not connect it.${winding === null ? ' Say what the winding is insulated with, if it is known.' : ''} Dry the motor, clean its terminal box, measure again; if it stays, the winding is bad.`,
  };
}

/** Three line voltages after NEMA MG 1, against the supply as surveyed; null when they were not all taken. */
export function judgeVoltages(
  lines: Readonly<Survey['lineVoltages']>,
  nominal: number,
): (Judgement & { unbalance: number | null; derating: number | null }) | null {
  const [ab, bc, ca] = lines ?? [];
  if (typeof ab !== 'number' || typeof bc !== 'number' || typeof ca !== 'number') return null;
  const facts: ProofFacts = { kind: 'lineVoltages', lines: [ab, bc, ca], nominal };
  if (ab + bc + ca === 0)
    return {
      facts,
      unbalance: null,
      derating: null,
      passed: false,
      sentence: 'No volts at all: the isolator is off, or every fuse is out. Try the tester on something that is live.',
    };
  const unbalance = voltageUnbalance(ab, bc, ca);
  const derating = unbalanceDerating(unbalance);
  const mean = (ab + bc + ca) / 3;
  const off = 100 * (mean / nominal - 1);
  const common = { facts, unbalance, derating };
  if (derating === null)
    return {
      ...common,
      passed: false,
      sentence: `${formatFigure(unbalance, 1)} % unbalance: above 5 % no motor may run. Look for a loose terminal, a blown fuse or a single-phase load on this supply.`,
    };
  if (Math.abs(off) > 10)
    return {
      ...common,
      passed: false,
      sentence: `The supply has ${formatFigure(mean, 0)} V, ${formatFigure(Math.abs(off), 0)} % ${off > 0 ? 'above' : 'below'} the ${formatFigure(nominal, 0)} V surveyed. Correct the survey or find out why.`,
    };
  if (unbalance > 2)
    return {
      ...common,
      passed: false,
      sentence: `${formatFigure(unbalance, 1)} % unbalance. The DC bus evens it out for the motor, but the drive’s input current grows uneven and its phase-loss detection may trip; a motor straight on this supply may give ${formatFigure(100 * derating, 0)} %. Find the cause.`,
    };
  return {
    ...common,
    passed: true,
    sentence: `${formatFigure(unbalance, 1)} % unbalance${derating < 0.999 ? `; a motor straight on this supply may give ${formatFigure(100 * derating, 0)} %` : ', nothing to derate'}.`,
  };
}

/** V of direct current that are no danger in the dry: the limit of extra-low voltage without ripple (IEC 61140; IEC 61800-5-1). */
export const deadBus = 60;
/** Share by which the volts between lines may differ from what the DC bus shows: meter, ripple and load of the bus (common practice). */
const busAgrees = 0.15;

/**
 * Why the drive's own reading speaks against a check that somebody says has passed, in a sentence; null when it does not, or when
 * the link says nothing.
 * @param lines V between lines as measured
 * @param rectifier of the drive; three-phase when undefined
 */
export function contradictedBy(
  item: string,
  live: Pick<LiveSample, 'link' | 'busVoltage'> | undefined,
  lines: Readonly<Survey['lineVoltages']>,
  rectifier: Supply['rectifier'],
): string | null {
  if (live?.link !== 'up') return null;
  const bus = `${formatFigure(live.busVoltage, 0)} V`;
  if (item === 'isolated' && live.busVoltage >= deadBus)
    return `The drive reports ${bus} on its DC bus: it is not dead. Isolator off, then wait until the bus is below ${deadBus} V and prove it with the tester.`;
  const [ab, bc, ca] = lines ?? [];
  if (item !== 'lineVoltages' || typeof ab !== 'number' || typeof bc !== 'number' || typeof ca !== 'number') return null;
  const mean = (ab + bc + ca) / 3;
  const expected = busAtRest({ voltage: mean, rectifier });
  // a bus that is fed stands between 1.35 and 1.41 times the lines' volts
  if (Math.abs(live.busVoltage / Math.max(1, expected) - 1) <= busAgrees) return null;
  return `The drive reports ${bus} on its DC bus, and ${formatFigure(mean, 0)} V between lines would make about ${formatFigure(expected, 0)} V. One of the two is wrong: measure at the drive’s own line terminals, with the isolator on.`;
}

/** Dead, earthed, insulated, connected and measured before the supply is switched on. */
export const beforePowerStage = defineStage({
  path: 'before-power',
  proofs: powerChecks,
  standing: (m, { proofOf }) =>
    ofItems(
      m,
      powerChecks.map((p) => proofOf('before-power', p.id)),
      { passed: 'every check passed', open: 'earths, insulation, voltages not proved' },
    ),
});
