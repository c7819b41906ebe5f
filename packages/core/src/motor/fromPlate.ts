import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { present, nth } from '../present';
import { inputPower, ratedTorque, type Plate } from '../plate/plate';
import { breakdown, operate, starting, type Circuit } from './circuit';

/** What the plate does not give and has to be assumed before a circuit can be solved. */
export interface CircuitAssumptions {
  /** X1 : X2 by design letter, IEEE Std 112 table: A and D 1.0, B 0.67, C 0.43 */
  leakageRatio: number;
  /** breakdown over rated torque, by size and poles (common practice) */
  breakdownRatio: number;
  /** W */
  coreLoss: number;
  /** W, friction, windage and stray load together */
  rotationalLoss: number;
  /** W, what is left of the losses for the stator winding */
  statorCopperLoss: number;
}

export type CircuitValue = 'r1' | 'x1' | 'xm' | 'r2' | 'x2' | 'rFe';

export interface CircuitEstimate {
  ok: true;
  circuit: Circuit;
  assumptions: CircuitAssumptions;
  /** relative half-width of each value when the assumptions move over their usual range */
  spread: Record<CircuitValue, number>;
  /** relative error of the estimated machine against its own plate */
  fit: { output: number; current: number; powerFactor: number };
}

export interface CircuitRefusal {
  ok: false;
  /** what about the plate makes a circuit impossible */
  sentence: string;
}

/** Share of the magnetising current that bent iron takes at rated flux (common practice: standard motors work at the knee). */
export const usualSaturation = 0.12;

/**
 * Starting over rated torque of a four-pole design B motor by hp (NEMA MG 1 table 12-2, least values, from memory). Motors sold give about a
 * fifth more, two and six poles less of it (common practice).
 */
const startingTable = [
  [1, 2.75],
  [3, 2.15],
  [5, 1.85],
  [10, 1.65],
  [20, 1.5],
  [50, 1.4],
  [100, 1.25],
  [200, 1],
] as const;
const aboveLeast = 1.2;
const otherPoles = 0.88;
/** Of that, what the other design letters give. */
const byDesign = { A: 1, B: 1, C: 1.35, D: 1.8 } as const;

/** Starting torque over rated that a standard motor usually has. @param power W */
function usualStarting(power: number, poles: number, design: keyof typeof byDesign): number {
  const hp = Math.max(1, Math.min(200, power / 745.7));
  const i = Math.max(
    1,
    startingTable.findIndex(([size]) => size >= hp),
  );
  const [[low, from], [high, to]] = [nth(startingTable, i - 1), nth(startingTable, i)];
  const between = Math.log(hp / low) / Math.log(high / low);
  return aboveLeast * (from + between * (to - from)) * (poles === 4 ? 1 : otherPoles) * byDesign[design];
}

/** Rotor resistance at rated frequency over that at none lies between these: bars are never quite shallow, nor deeper than this. */
const leastSkin = 1.1;
const mostSkin = 4.5;

/** How deep the bars have to be for a motor to start as its kind does: more resistance at standstill, more torque, by bisection. */
function skinFor(circuit: Circuit, plate: Plate): number {
  const wanted = usualStarting(plate.power, plate.poles, plate.design) * ratedTorque(plate.power, plate.speed);
  let low = leastSkin;
  let high = mostSkin;
  for (let k = 0; k < 20; k++) {
    const middle = (low + high) / 2;
    if (starting({ ...circuit, skin: middle }, plate.voltage / Math.sqrt(3), plate.frequency).torque < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

const leakageRatio = { A: 1, B: 0.67, C: 0.43, D: 1 } as const;

/**
 * Breakdown over rated torque usual for standard machines: about 2.2 for the smallest, 3 around 5 kW, 2.5 above 100 kW, less with
 * more poles (common practice; IEC 60034-12 asks for at least 1.6 to 2.0).
 */
function usualBreakdownRatio(power: number, poles: number): number {
  const kw = power / 1000;
  const size = 3.0 - 0.28 * Math.abs(Math.log10(kw / 5)) ** 1.5;
  return size * (poles <= 4 ? 1 : poles === 6 ? 0.92 : 0.86);
}

/** Stray-load loss as a share of input, assigned allowance of IEC 60034-2-1 (from memory): 2.5 % at 1 kW falling by 0.5 points a decade. */
const strayShare = (power: number): number => (power <= 1000 ? 0.025 : 0.025 - 0.005 * Math.log10(power / 1000));

/**
 * Of the losses of a standard motor: iron 18 %, friction and windage 7 to 12 %, stray load half of what IEC 60034-2-1 assigns to a motor that was not
 * measured and 14 % at most; rotor copper follows from slip, and the stator is left with its 30 to 45 % (typical splits of A. de Almeida, F. Ferreira,
 * J. Fong, "Standards for efficiency of electric motors", IEEE Industry Applications Magazine 2011, from memory).
 */
const usualLosses = { iron: 0.18, windageTwoPole: 0.12, windage: 0.07, stray: 0.14, ofAssigned: 0.5 };

/** Splits the plate's losses. */
function assume(plate: Plate): CircuitAssumptions | CircuitRefusal {
  const input = inputPower(plate.voltage, plate.current, plate.powerFactor);
  const losses = input - plate.power;
  if (losses <= 0)
    return {
      ok: false,
      sentence: 'The plate gives more power at the shaft than its volts and amperes can bring in. Check power, voltage, current and cos φ.',
    };
  let windage = (plate.poles === 2 ? usualLosses.windageTwoPole : usualLosses.windage) * losses;
  let stray = Math.min(usualLosses.ofAssigned * strayShare(plate.power) * input, usualLosses.stray * losses);
  let core = usualLosses.iron * losses;
  const rotor = (extra: number) => (plate.slip / (1 - plate.slip)) * (plate.power + extra);
  let stator = losses - windage - stray - core - rotor(windage + stray);
  const least = 0.12 * losses;
  if (stator < least) {
    const room = losses - rotor(0) - least;
    if (room <= 0) {
      return {
        ok: false,
        sentence: `A slip of ${(plate.slip * 100).toFixed(1)} % alone loses ${Math.round(rotor(0))} W in the rotor; the plate leaves ${Math.round(losses)} W for all losses together. Check speed, efficiency and cos φ.`,
      };
    }
    const squeeze = room / (windage + stray + core);
    windage *= squeeze;
    stray *= squeeze;
    core *= squeeze;
    stator = losses - windage - stray - core - rotor(windage + stray);
  }
  return {
    leakageRatio: leakageRatio[plate.design],
    breakdownRatio: usualBreakdownRatio(plate.power, plate.poles),
    coreLoss: core,
    rotationalLoss: windage + stray,
    statorCopperLoss: stator,
  };
}

/** Weight of the plate's own figures over the assumptions in the least-squares sum. */
const plateWeight = 100;

function solve(plate: Plate, a: CircuitAssumptions, start: number[] | null): { circuit: Circuit; logs: number[] } {
  const phase = plate.voltage / Math.sqrt(3);
  const base = phase / plate.current;
  const ratedSpeed = (plate.speed * 2 * Math.PI) / 60;
  const torque = ratedTorque(plate.power, plate.speed);
  const make = (p: number[]): Circuit => {
    const x2 = Math.exp(present(p[1]));
    return {
      r1: Math.exp(present(p[0])),
      x2,
      x1: x2 * a.leakageRatio,
      xm: Math.exp(present(p[2])),
      r2: Math.exp(present(p[3])),
      rFe: Math.exp(present(p[4])),
      rotationalLoss: a.rotationalLoss,
      ratedFrequency: plate.frequency,
      ratedSpeed,
      poles: plate.poles,
    };
  };
  const residuals = (p: number[]): number[] => {
    const c = make(p);
    const o = operate(c, phase, plate.frequency, plate.slip);
    return [
      plateWeight * (o.output / plate.power - 1),
      plateWeight * (o.current / plate.current - 1),
      plateWeight * (o.powerFactor / plate.powerFactor - 1),
      breakdown(c, phase, plate.frequency).torque / (a.breakdownRatio * torque) - 1,
      o.coreLoss / a.coreLoss - 1,
      o.statorCopperLoss / a.statorCopperLoss - 1,
    ];
  };
  const sine = Math.sqrt(1 - plate.powerFactor ** 2);
  const initial =
    start ??
    [
      a.statorCopperLoss / (3 * plate.current ** 2),
      base * 0.1,
      base / Math.max(0.25, sine - 0.12),
      plate.slip * base * 0.95,
      (plate.voltage ** 2 / a.coreLoss) * 0.9,
    ].map(Math.log);
  const result = levenbergMarquardt(
    { x: [0, 1, 2, 3, 4, 5], y: [0, 0, 0, 0, 0, 0] },
    (p: number[]) => {
      const r = residuals(p);
      return (i: number) => present(r[i]);
    },
    { initialValues: initial, damping: 0.01, gradientDifference: 1e-5, maxIterations: 120, errorTolerance: 1e-10, improvementThreshold: 1e-9 },
  );
  return { circuit: make(result.parameterValues), logs: result.parameterValues };
}

/** The solver throws when a step's matrix is singular, which a plate no machine could have brings about. */
function solveOrNot(plate: Plate, a: CircuitAssumptions, start: number[] | null): ReturnType<typeof solve> | null {
  try {
    return solve(plate, a, start);
  } catch {
    return null;
  }
}

/**
 * The equivalent circuit that gives back its own plate: output, current and power factor at rated speed exactly where possible,
 * breakdown torque and the loss split as near their usual values as that allows. Least squares by Levenberg–Marquardt.
 * A plate no machine could have gives a refusal with its sentence; nothing throws.
 */
export function circuitFromPlate(plate: Plate): CircuitEstimate | CircuitRefusal {
  const a = assume(plate);
  if ('ok' in a) return a;
  const refusal: CircuitRefusal = {
    ok: false,
    sentence: 'No motor gives these figures together: output, current, cos φ and speed contradict one another. Read them off the plate again.',
  };
  const solved = solveOrNot(plate, a, null);
  if (!solved) return refusal;
  const { circuit, logs } = solved;
  const phase = plate.voltage / Math.sqrt(3);
  const o = operate(circuit, phase, plate.frequency, plate.slip);
  const fit = { output: o.output / plate.power - 1, current: o.current / plate.current - 1, powerFactor: o.powerFactor / plate.powerFactor - 1 };
  const worst = Math.max(...Object.values(fit).map(Math.abs));
  const pullOut = breakdown(circuit, phase, plate.frequency);
  if (!(worst < 0.01) || !(pullOut.slip > plate.slip)) return refusal;
  const moved: CircuitAssumptions[] = [
    { ...a, breakdownRatio: a.breakdownRatio * 0.8 },
    { ...a, statorCopperLoss: a.statorCopperLoss * 1.25, rotationalLoss: a.rotationalLoss * 0.75 },
    { ...a, coreLoss: a.coreLoss * 1.4 },
    { ...a, leakageRatio: a.leakageRatio > 0.8 ? 0.67 : 1 },
  ];
  const spread: Record<CircuitValue, number> = { r1: 0, x1: 0, xm: 0, r2: 0, x2: 0, rFe: 0 };
  for (const b of moved) {
    const other = solveOrNot(plate, b, logs)?.circuit;
    if (!other) continue;
    for (const key of Object.keys(spread) as CircuitValue[]) spread[key] = Math.max(spread[key], Math.abs(other[key] / circuit[key] - 1));
  }
  const iron = { ratedEmf: o.emf, saturation: usualSaturation, skin: skinFor(circuit, plate) };
  // what was solved for is the cage at the plate's slip, where deep bars already show a little
  const r2 = circuit.r2 / Math.sqrt(1 + (iron.skin * iron.skin - 1) * plate.slip * plate.slip);
  return { ok: true, circuit: { ...circuit, r2, ...iron }, assumptions: a, spread, fit };
}

/** Rotor inertia of a standard motor in kg·m², J ≈ 0.0032 P^1.27 for four poles with P in kW, ∝ poles^1.4 (common practice). */
export const usualRotorInertia = (power: number, poles: number): number => 0.0032 * (power / 1000) ** 1.27 * (poles / 4) ** 1.4;
