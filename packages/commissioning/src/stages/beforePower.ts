import type { LiveSample, ProofFacts, Survey } from '@yare/contract';
import { busAtRest, formatFigure, insulationAt40, leastInsulation, unbalanceDerating, voltageUnbalance, type Supply } from '@yare/core';
import { say } from '@yare/words/stages/beforePower';
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
    how: say.isolatorOffYourOwnLock,
    relies: eye,
  },
  {
    id: 'mounted',
    how: say.uprightClearAboveAndBelow,
    relies: { survey: ['ambient'] },
  },
  {
    id: 'motorEarth',
    how: say.earthOfTheMotorOn,
    relies: eye,
  },
  {
    id: 'links',
    how: say.asDrawnOnThePlate,
    relies: { plate: ['voltage', 'connection', 'leads', 'joined'] },
  },
  {
    id: 'insulation',
    how: say.motorLeadsOffTheDrive,
    relies: eye,
    figures: 'insulation',
    facts: 'insulation',
  },
  {
    id: 'motorPhases',
    how: say.uVWAtThe,
    relies: eye,
  },
  {
    id: 'supplyEarth',
    how: say.protectiveEarthOfTheSupply,
    relies: eye,
  },
  {
    id: 'supplyPhases',
    how: say.lineTerminalsFusesAsThe,
    relies: { survey: ['voltage', 'phases'] },
  },
  {
    id: 'controlRows',
    how: say.controlCablesAwayFromPower,
    relies: eye,
  },
  {
    id: 'lineVoltages',
    how: say.atTheSupplyTerminalsIsolator,
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
  const by = winding === null ? say.byTheLawOfThe : '';
  const least = leastInsulation / 1e6;
  const text = (x: number) => `${formatFigure(x, x < 100 ? 1 : 0)} MΩ`;
  const passed = corrected >= least;
  return {
    passed,
    facts: { kind: 'insulation', reading: reading.reading, temperature: reading.temperature, at40: corrected, least },
    sentence: passed
      ? say.correctedToCAtLeast({ text: text(corrected), by, least })
      : say.correctedToCIsBelow({ text: text(corrected), by: by && `${by},`, least, winding }),
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
      sentence: say.noVoltsAtAllThe,
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
      sentence: say.unbalanceAboveNoMotorMay({ unbalance }),
    };
  if (Math.abs(off) > 10)
    return {
      ...common,
      passed: false,
      sentence: say.theSupplyHasVAbove({ mean, abs: Math.abs(off), off, nominal }),
    };
  if (unbalance > 2)
    return {
      ...common,
      passed: false,
      sentence: say.unbalanceTheDcBusEvens({ unbalance, derating: 100 * derating }),
    };
  return {
    ...common,
    passed: true,
    sentence: say.unbalance({ unbalance, derating, derating2: 100 * derating }),
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
  if (item === 'isolated' && live.busVoltage >= deadBus) return say.theDriveReportsOnIts({ bus, deadBus });
  const [ab, bc, ca] = lines ?? [];
  if (item !== 'lineVoltages' || typeof ab !== 'number' || typeof bc !== 'number' || typeof ca !== 'number') return null;
  const mean = (ab + bc + ca) / 3;
  const expected = busAtRest({ voltage: mean, rectifier });
  // a bus that is fed stands between 1.35 and 1.41 times the lines' volts
  if (Math.abs(live.busVoltage / Math.max(1, expected) - 1) <= busAgrees) return null;
  return say.theDriveReportsOnIts2({ bus, mean, expected });
}

/** Dead, earthed, insulated, connected and measured before the supply is switched on. */
export const beforePowerStage = defineStage({
  path: 'before-power',
  proofs: powerChecks,
  standing: (m, { proofOf }) =>
    ofItems(
      m,
      powerChecks.map((p) => proofOf('before-power', p.id)),
      { passed: say.everyCheckPassed, open: say.earthsInsulationVoltagesNotProved },
    ),
});
