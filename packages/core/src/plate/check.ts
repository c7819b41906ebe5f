import { formatFigure } from '../units';
import { present } from '../present';
import { ie3Efficiency, inputPower, polesFrom, slip, stampedPower, synchronousSpeed, tableFullLoadCurrent, type StampedPlate } from './plate';

export type PlateField = keyof StampedPlate;

/** One thing about the plate that does not fit. `error` means nothing can be worked out from it as it stands. */
export interface PlateFinding {
  field: PlateField;
  severity: 'error' | 'warning';
  sentence: string;
  /** what it probably should be, and the words of the act that sets it */
  remedy?: { change: Partial<StampedPlate>; label: string };
}

const f1 = (x: number) => formatFigure(x, 1);
const rpmText = (x: number) => `${formatFigure(x, 0)} rpm`;
const kw = (watts: number) => `${formatFigure(watts / 1000, watts < 2000 ? 3 : 2)} kW`;

/** Share by which the stamped output differs from √3 U I cos φ η; null when η or cos φ is missing. */
export function balanceMismatch(s: StampedPlate): number | null {
  if (s.powerFactor === null || s.efficiency === null) return null;
  return (inputPower(s.voltage, s.current, s.powerFactor) * s.efficiency) / 100 / stampedPower(s) - 1;
}

/** What does not fit on a plate, worst first: limits of what is possible, poles against frequency, power balance, plausibility. */
export function checkPlate(s: StampedPlate): PlateFinding[] {
  const out = [...checkPresence(s), ...checkScale(s)];
  if (out.some((x) => x.severity === 'error')) return out;
  out.push(...checkSpeed(s));
  if (out.some((x) => x.severity === 'error')) return out;
  const balance = checkBalance(s);
  out.push(...(balance.length > 0 ? balance : checkPlausible(s)));
  return out;
}

function checkPresence(s: StampedPlate): PlateFinding[] {
  const need: Array<[PlateField, string]> = [
    ['power', 'output'],
    ['voltage', 'voltage'],
    ['current', 'full-load current'],
    ['frequency', 'frequency'],
    ['speed', 'rated speed'],
  ];
  return need
    .filter(([field]) => !(Number(s[field]) > 0))
    .map(([field, word]) => ({
      field,
      severity: 'error' as const,
      sentence: `The ${word} must be a figure above zero. Read it off the plate again.`,
    }));
}

function checkScale(s: StampedPlate): PlateFinding[] {
  const out: PlateFinding[] = [];
  const pf = s.powerFactor;
  if (pf !== null && (pf > 1 || pf <= 0)) {
    const asShare = pf / 100;
    const fits = asShare >= 0.3 && asShare <= 1;
    out.push({
      field: 'powerFactor',
      severity: 'error',
      sentence: fits
        ? `cos φ cannot be above 1. ${pf} is ${formatFigure(asShare, 2)} written in percent.`
        : `cos φ must lie between 0 and 1; ${pf} does not. Read the plate again.`,
      ...(fits && { remedy: { change: { powerFactor: asShare }, label: `Use ${formatFigure(asShare, 2)}` } }),
    });
  }
  const eta = s.efficiency;
  if (eta !== null && (eta > 100 || eta <= 1)) {
    const fits = eta > 0.3 && eta <= 1;
    out.push({
      field: 'efficiency',
      severity: 'error',
      sentence: fits
        ? `Efficiency is entered in percent here. ${eta} is ${f1(eta * 100)} %.`
        : `Efficiency must lie between 1 and 100 %; ${eta} does not. Read the plate again.`,
      ...(fits && { remedy: { change: { efficiency: Math.round(eta * 1000) / 10 }, label: `Use ${f1(eta * 100)} %` } }),
    });
  }
  return out;
}

const goodSlip = (x: number) => x >= 0.003 && x <= 0.08;

/** Slip of 0.3 to 8 % is usual for standard machines (common practice); below 0.37 kW up to 12 % is seen. */
function checkSpeed(s: StampedPlate): PlateFinding[] {
  const poles = polesFrom(s.frequency, s.speed);
  const most = stampedPower(s) < 370 ? 0.12 : s.design === 'D' ? 0.15 : 0.08;
  const actual = poles === null ? null : slip(s.frequency, poles, s.speed);
  if (actual !== null && actual >= 0.003 && actual <= most) return [...unusualFrequency(s, present(poles)), ...unusualPoles(s, present(poles))];
  const nearest = [2, 4, 6, 8, 10, 12].map((p) => ({ p, ns: synchronousSpeed(s.frequency, p) }));
  const other = [50, 60].find((f) => {
    const p = polesFrom(f, s.speed);
    return f !== s.frequency && p !== null && goodSlip(slip(f, p, s.speed));
  });
  const atSynchronous = nearest.find(({ ns }) => Math.abs(ns - s.speed) / ns < 0.003);
  if (atSynchronous && other === undefined) {
    return [
      {
        field: 'speed',
        severity: 'error',
        sentence: `${rpmText(s.speed)} is the synchronous speed of ${atSynchronous.p} poles at ${s.frequency} Hz. A loaded induction motor turns slower: look for a rated speed a few percent below it.`,
      },
    ];
  }
  const between = nearest
    .map(({ p, ns }) => `${p} poles just under ${formatFigure(ns, 0)}`)
    .slice(0, 3)
    .join(', ');
  if (other !== undefined) {
    const p = present(polesFrom(other, s.speed));
    return [
      {
        field: 'frequency',
        severity: 'error',
        sentence: `${rpmText(s.speed)} does not fit ${s.frequency} Hz (${between}). It fits ${p} poles at ${other} Hz with ${f1(slip(other, p, s.speed) * 100)} % slip.`,
        remedy: { change: { frequency: other }, label: `Use ${other} Hz` },
      },
    ];
  }
  const digit = withDigit(s);
  if (digit)
    return [
      {
        field: 'speed',
        severity: 'error',
        sentence: `${rpmText(s.speed)} fits no pole number at ${s.frequency} Hz (${between}). Likeliest: a digit is missing, and it is ${rpmText(digit.speed)} (${digit.poles} poles).`,
        remedy: { change: { speed: digit.speed }, label: `Use ${rpmText(digit.speed)}` },
      },
    ];
  const slipText = actual === null ? 'it is above them all' : `the slip would be ${f1(actual * 100)} %`;
  return [
    {
      field: 'speed',
      severity: actual !== null && actual <= 0.2 && actual >= 0.003 ? 'warning' : 'error',
      sentence: `${rpmText(s.speed)} fits no pole number at ${s.frequency} Hz (${between}): ${slipText}. Check the digits of the speed, then the frequency.`,
    },
  ];
}

/** W below which standard motors have no more than eight poles (common practice; the series of IEC 60072-1 ends there). */
const manyPolesFrom = 15_000;

/** The speed with another digit at its end, where that is one of an ordinary motor. */
function withDigit(s: StampedPlate): { speed: number; poles: number } | null {
  const speed = 10 * s.speed;
  const poles = polesFrom(s.frequency, speed);
  return poles !== null && poles <= 8 && goodSlip(slip(s.frequency, poles, speed)) ? { speed, poles } : null;
}

/** Ten poles and more are rare, and of a small motor they are a digit that was left out. */
function unusualPoles(s: StampedPlate, poles: number): PlateFinding[] {
  if (poles <= 8) return [];
  const digit = withDigit(s);
  if (!digit && stampedPower(s) >= manyPolesFrom) return [];
  return [
    {
      field: 'speed',
      severity: 'warning',
      sentence: `${rpmText(s.speed)} would make this a motor of ${poles} poles. ${digit ? `Likeliest: a digit is missing, and it is ${rpmText(digit.speed)} (${digit.poles} poles).` : 'A motor of this size has 2 to 8: check the digits of the speed.'}`,
      ...(digit && { remedy: { change: { speed: digit.speed }, label: `Use ${rpmText(digit.speed)}` } }),
    },
  ];
}

/** Plates are stamped for 50 or 60 Hz (common practice); anything else is told, with the one that fits the speed. */
function unusualFrequency(s: StampedPlate, poles: number): PlateFinding[] {
  if (s.frequency === 50 || s.frequency === 60) return [];
  const usual = [50, 60].find((f) => {
    const p = polesFrom(f, s.speed);
    return p !== null && goodSlip(slip(f, p, s.speed));
  });
  return [
    {
      field: 'frequency',
      severity: 'warning',
      sentence: `${s.frequency} Hz would make this a motor of ${poles} poles. Most plates are stamped for 50 or 60 Hz${usual === undefined ? '' : `; ${rpmText(s.speed)} fits ${polesFrom(usual, s.speed)} poles at ${usual} Hz`}.`,
      ...(usual !== undefined && { remedy: { change: { frequency: usual }, label: `Use ${usual} Hz` } }),
    },
  ];
}

interface Suspect {
  field: PlateField;
  why: string;
  change: Partial<StampedPlate>;
  label: string;
}

/** The misreadings seen at the panel, each as the change that would undo it. */
function suspects(s: StampedPlate): Suspect[] {
  const round = (x: number) => Number(x.toPrecision(3));
  const otherUnit = s.powerUnit === 'kW' ? 'hp' : 'kW';
  const list: Suspect[] = [
    {
      field: 'powerUnit',
      why: `${s.power} looks like ${otherUnit}, not ${s.powerUnit}`,
      change: { powerUnit: otherUnit },
      label: `Use ${s.power} ${otherUnit}`,
    },
  ];
  const r3 = Math.sqrt(3);
  const ratios: Array<[number, string]> = [
    [1 / r3, 'the current of the other connection (delta for star)'],
    [r3, 'the current of the other connection (star for delta)'],
    [0.5, 'the low-voltage current of a dual-voltage plate'],
    [2, 'the high-voltage current of a dual-voltage plate'],
  ];
  for (const [k, text] of ratios) {
    list.push({
      field: 'current',
      why: `${s.current} A looks like ${text}`,
      change: { current: round(s.current * k) },
      label: `Use ${round(s.current * k)} A`,
    });
  }
  for (const k of [10, 0.1]) {
    list.push({
      field: 'current',
      why: `the decimal point of ${s.current} A looks shifted`,
      change: { current: round(s.current * k) },
      label: `Use ${round(s.current * k)} A`,
    });
    list.push({
      field: 'power',
      why: `the decimal point of ${s.power} ${s.powerUnit} looks shifted`,
      change: { power: round(s.power * k) },
      label: `Use ${round(s.power * k)} ${s.powerUnit}`,
    });
  }
  return list;
}

/** A current is misread more often than the output in large figures beside it (common practice): the same fit counts so much less for the output. */
const misreadPower = 0.02;
/** How far a stamped efficiency is from what a motor of that output has: ten times the output shows in it. Small beside the balance itself. */
const oddness = (s: StampedPlate, poles: number): number =>
  s.efficiency === null ? 0 : 0.05 * Math.abs(Math.log((100 - s.efficiency) / (100 - 100 * ie3Efficiency(stampedPower(s), poles))));

/** P_out = √3 U I cos φ η within 5 %; else the likeliest misread field. Missing η or cos φ is taken at its widest usual value. */
function checkBalance(s: StampedPlate): PlateFinding[] {
  const poles = present(polesFrom(s.frequency, s.speed));
  const estimate = (x: StampedPlate): StampedPlate => ({
    ...x,
    efficiency: x.efficiency ?? ie3Efficiency(stampedPower(x), poles) * 100,
    powerFactor: x.powerFactor ?? 0.8,
  });
  const known = s.efficiency !== null && s.powerFactor !== null;
  const tolerance = known ? 0.05 : s.efficiency === null && s.powerFactor === null ? 0.3 : 0.2;
  const mismatch = present(balanceMismatch(estimate(s)));
  if (Math.abs(mismatch) <= tolerance) return [];
  const shaft = stampedPower(s) * (1 + mismatch);
  const said = `${s.voltage} V × ${s.current} A × √3 × cos φ × η ${known ? 'gives' : 'would give about'} ${kw(shaft)} at the shaft; the plate says ${s.power} ${s.powerUnit}${s.powerUnit === 'hp' ? ` (${kw(stampedPower(s))})` : ''}.`;
  const likely = suspects(s)
    .map((x) => {
      const read = { ...s, ...x.change };
      const odd = oddness(read, poles) + (x.field === 'power' ? (known ? misreadPower : 4 * misreadPower) : 0);
      return { ...x, left: Math.abs(present(balanceMismatch(estimate(read)))), odd };
    })
    .sort((a, b) => a.left + a.odd - b.left - b.odd);
  const fits = likely.filter((x) => x.left <= Math.max(0.04, known ? tolerance / 4 : tolerance / 2));
  const [best, other] = fits;
  if (best) {
    // where cos φ or η is not known, two readings may fit as well as each other
    const or = !known && other && other.field !== best.field ? ` Or ${other.why}.` : '';
    return [
      {
        field: best.field,
        severity: 'warning',
        sentence: `${said} Likeliest: ${best.why}.${or}`,
        remedy: { change: best.change, label: best.label },
      },
    ];
  }
  const pfNeeded = (s.powerFactor ?? 0.8) / (1 + mismatch);
  const hint = known && pfNeeded >= 0.5 && pfNeeded <= 0.95 ? ` With these figures cos φ would have to be ${formatFigure(pfNeeded, 2)}.` : '';
  return [
    {
      field: 'current',
      severity: 'warning',
      sentence: `${said} The figures differ by ${f1(Math.abs(mismatch) * 100)} %: read volts, amperes, cos φ and η again.${hint}`,
    },
  ];
}

/** Usual ranges: cos φ 0.5 to 0.95 (common practice), efficiency about the IE3 figure of IEC 60034-30-1, current near NFPA 70 table 430.250. */
function checkPlausible(s: StampedPlate): PlateFinding[] {
  const out: PlateFinding[] = [];
  const poles = present(polesFrom(s.frequency, s.speed));
  if (s.powerFactor !== null && (s.powerFactor < 0.5 || s.powerFactor > 0.95)) {
    out.push({
      field: 'powerFactor',
      severity: 'warning',
      sentence: `cos φ ${s.powerFactor} is outside 0.5 to 0.95, where standard motors lie. Check it against the plate.`,
    });
  }
  const ie3 = ie3Efficiency(stampedPower(s), poles) * 100;
  if (s.efficiency !== null && (100 - s.efficiency < (100 - ie3) * 0.5 || 100 - s.efficiency > (100 - ie3) * 2.2)) {
    out.push({
      field: 'efficiency',
      severity: 'warning',
      sentence: `${s.efficiency} % is far from the ${f1(ie3)} % of an IE3 motor of this size and pole number. Check it is η and not cos φ.`,
    });
  }
  const table = tableFullLoadCurrent(stampedPower(s), s.voltage);
  if (table !== null && (s.current > table * 1.6 || s.current < table * 0.55)) {
    out.push({
      field: 'current',
      severity: 'warning',
      sentence: `${s.current} A is far from the ${f1(table)} A that a motor of this size draws at ${s.voltage} V. Check which voltage the current belongs to.`,
    });
  }
  return out;
}
