import type { Driven, DriveBook, Source } from '@yare/contract';
import { breakdown, completePlate, fieldWeakeningOnset, formatFigure, polesFrom, starAndDelta, type DriveRole, type StampedPlate } from '@yare/core';
import { findSetting, levelsOf, ratingOf, roleValue, settingsOf, storedValue, wordsOf, type FirmwareRole, type Setting } from './book';
import { circuitOf } from './estimate';
import { settingValue } from './roleUnits';

/** The stages whose figures are checked against each other. */
export type CheckedStage = 'plate' | 'drive' | 'protection' | 'motion' | 'direction';

export interface StageFinding {
  id: string;
  stage: CheckedStage;
  /** the setting it stands under; none stands at the head of the stage */
  code?: string;
  /** the field of the plate it stands under */
  field?: keyof StampedPlate;
  severity: 'error' | 'warning' | 'good';
  sentence: string;
  remedy?: { label: string; changes?: Array<{ code: string; value: number; source: Source }>; plate?: Partial<StampedPlate>; go?: string };
}

export interface Checked {
  book: DriveBook;
  size: string;
  region: 50 | 60;
  plate: StampedPlate;
  supply: { voltage: number; frequency: number };
  driven: Driven;
  /** the draft, by code */
  draft: Readonly<Record<string, number>>;
}

/** One look at a machine's figures, with what the checks ask of it again and again. */
class Look {
  readonly settings: readonly Setting[];
  constructor(readonly c: Checked) {
    this.settings = settingsOf(c.book, c.size);
  }
  find(role: DriveRole | FirmwareRole): Setting | undefined {
    return findSetting(this.c.book, this.c.size, role);
  }
  raw(s: Setting): number {
    return this.c.draft[s.code] ?? (this.c.region === 50 ? s.factory50 : s.factory60);
  }
  /** in the unit of the role; null where the family has no such setting */
  role(role: DriveRole | FirmwareRole): number | null {
    const s = this.find(role);
    return s ? roleValue(this.c.book, this.c.size, s, this.raw(s), this.c.draft) : null;
  }
  change(role: DriveRole | FirmwareRole, inRole: number, source: Source = 'worked out') {
    const s = this.find(role);
    const value = s ? settingValue(this.c.book, this.c.size, s, inRole, this.c.draft) : null;
    return s && value !== null ? [{ code: s.code, value: s.options ? value : Math.min(s.max, Math.max(s.min, value)), source }] : [];
  }
}

const a = (x: number) => `${formatFigure(x, x < 10 ? 2 : 1)} A`;
const hz = (x: number) => `${formatFigure(x, 1)} Hz`;

/** Everything that does not fit between plate, drive, supply and draft, each with its sentence and its way out. Pure. */
export function stageFindings(c: Checked): StageFinding[] {
  const look = new Look(c);
  return [...plateFindings(look), ...driveFindings(look), ...protectionFindings(look), ...motionSettingFindings(look), ...commandFindings(look)];
}

function plateFindings(look: Look): StageFinding[] {
  const { plate, supply } = look.c;
  const out: StageFinding[] = [];
  const onset = fieldWeakeningOnset(plate.frequency, plate.voltage, supply.voltage);
  const top = look.role('maximumFrequency') ?? plate.frequency;
  if (onset < plate.frequency * 0.985) {
    const torque = pullOutLeft(plate, supply.voltage);
    out.push({
      id: 'supply below plate',
      stage: 'plate',
      field: 'voltage',
      severity: top > onset + 0.2 ? 'warning' : 'good',
      sentence: `${plate.voltage} V ${plate.frequency} Hz motor on a ${supply.voltage} V supply: from ${hz(onset)} on the drive has no more volts to give. Above that the field weakens${torque === null ? '' : `; at ${hz(plate.frequency)} its greatest torque is ${formatFigure(torque.share * 100, 0)} % of that at plate volts (estimate)`}. Full torque ends at ${hz(onset)}.`,
      ...(top > onset + 0.2 && { remedy: { label: `Limit to ${hz(onset)}`, changes: look.change('maximumFrequency', Math.floor(onset * 10) / 10) } }),
    });
  }
  if (plate.voltage < supply.voltage * 0.8) {
    const star = starAndDelta({ connection: plate.connection, voltage: plate.voltage, current: plate.current });
    const fits = plate.connection === 'delta' && Math.abs(star.voltage / supply.voltage - 1) < 0.12;
    const high = plate.leads === 9 && plate.joined === 'parallel' && Math.abs((2 * plate.voltage) / supply.voltage - 1) < 0.2;
    const change: Partial<StampedPlate> | null = fits
      ? { connection: 'star', voltage: Math.round(star.voltage / 5) * 5, current: Number(star.current.toPrecision(3)) }
      : high
        ? { joined: 'series', voltage: 2 * plate.voltage, current: plate.current / 2 }
        : null;
    out.push({
      id: 'supply above plate',
      stage: 'plate',
      field: 'voltage',
      severity: 'warning',
      sentence: `The plate says ${plate.voltage} V for this connection and the supply has ${supply.voltage} V. The drive holds the motor to ${plate.voltage} V, but at ${a(plate.current)} instead of the smaller current of the higher voltage, and its links must really lie that way.`,
      ...(change && { remedy: { label: `Use the ${change.voltage} V connection, ${a(change.current!)}`, plate: change } }),
    });
  }
  for (const s of look.settings) {
    if (s.plate !== 'connection') continue;
    const set = look.raw(s);
    const stamped = plate.connection === 'delta' ? 1 : 0;
    if (set !== stamped)
      out.push({
        id: 'connection differs',
        stage: 'plate',
        field: 'connection',
        severity: 'warning',
        sentence: `The plate is entered for ${plate.connection} and the draft says ${wordsOf(s, set).toLowerCase()}. Star figures with delta links make ${formatFigure(Math.sqrt(3), 2)} times the flux current: they must agree with the links in the box.`,
        remedy: { label: `Set ${s.code} to ${plate.connection}`, changes: [{ code: s.code, value: stamped, source: 'plate' }] },
      });
  }
  return out;
}

/** Pull-out torque at rated frequency with the supply's volts against that with the plate's, by the estimated circuit; null without one. */
function pullOutLeft(plate: StampedPlate, supply: number): { share: number } | null {
  if (polesFrom(plate.frequency, plate.speed) === null) return null;
  const estimate = circuitOf(completePlate(plate));
  if (!estimate.ok) return null;
  const at = (volts: number) => breakdown(estimate.circuit, volts / Math.sqrt(3), plate.frequency).torque;
  return { share: at(supply) / at(plate.voltage) };
}

function driveFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const levels = levelsOf(c.book, c.size);
  if (c.supply.voltage < levels.supplyMin || c.supply.voltage > levels.supplyMax)
    out.push({
      id: 'wrong supply',
      stage: 'drive',
      severity: 'error',
      sentence: `${c.book.family} ${c.size} is made for ${levels.supplyMin} to ${levels.supplyMax} V; the supply has ${c.supply.voltage} V. It must not be connected.`,
    });
  const stamped = c.plate.frequency >= 55 ? 60 : 50;
  if (stamped !== c.region) {
    const many = look.settings.filter((s) => s.access !== 'read' && s.factory50 !== s.factory60);
    const presets = many.filter((s) => s.role?.startsWith('preset')).length;
    out.push({
      id: 'region',
      stage: 'drive',
      severity: 'warning',
      sentence: `A ${c.plate.frequency} Hz plate on a ${c.region} Hz factory start: ${many.length} factory values differ between the two${presets > 0 ? `, ${presets} preset speeds among them` : ''}.`,
      remedy: { label: `Go to the factory start`, go: 'drive' },
    });
  }
  return out;
}

function protectionFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const s = look.find('overloadCurrent');
  if (s) out.push(...overloadFindings(look, s));
  const limit = look.role('currentLimit');
  const limitSetting = look.find('currentLimit');
  const rating = ratingOf(c.book, c.size);
  if (limit !== null && limitSetting && limit < c.plate.current * 0.9)
    out.push({
      id: 'limit below plate',
      stage: 'protection',
      code: limitSetting.code,
      severity: 'warning',
      sentence: `The current limit of ${a(limit)} lies below the plate’s ${a(c.plate.current)}: the motor never reaches its rated torque and slows down under load.`,
      remedy: { label: `Use ${a(1.1 * c.plate.current)}`, changes: look.change('currentLimit', 1.1 * c.plate.current) },
    });
  const duty = rating.current * c.book.duty.overloadShare;
  if (limit !== null && limitSetting && limit > duty * 1.001)
    out.push({
      id: 'limit above duty',
      stage: 'protection',
      code: limitSetting.code,
      severity: 'warning',
      sentence: `The drive carries ${a(duty)} for 60 s; the limit of ${a(limit)} lies above. Its own overload then ends a long start, not the limit.`,
      remedy: { label: `Use ${a(duty)}`, changes: look.change('currentLimit', duty) },
    });
  const sense = look.find('externalTripSense');
  if (sense && look.role('externalTripSense') === 1)
    out.push({
      id: 'open is healthy',
      stage: 'protection',
      code: sense.code,
      severity: 'warning',
      sentence:
        'Open is healthy: a broken wire or a pulled plug looks like a healthy machine, and the trip never comes. With closed as healthy the wire watches itself.',
      remedy: { label: 'Make closed the healthy state', changes: look.change('externalTripSense', 0, 'chosen') },
    });
  const restarts = look.role('autoRestarts');
  const restartSetting = look.find('autoRestarts');
  if (restartSetting && (restarts ?? 0) > 0 && c.driven.kind === 'conveyor')
    out.push({
      id: 'restarts by itself',
      stage: 'protection',
      code: restartSetting.code,
      severity: 'warning',
      sentence: `After a trip this conveyor starts again by itself, up to ${restarts} times, with whoever is clearing it at the belt.`,
      remedy: { label: 'Set it to 0', changes: look.change('autoRestarts', 0, 'chosen') },
    });
  const cooling = look.find('motorCooling');
  const lowest = look.role('minimumFrequency') ?? 0;
  if (cooling && look.role('motorCooling') === 0 && c.driven.kind === 'conveyor' && lowest < 0.3 * c.plate.frequency)
    out.push({
      id: 'cooling at low speed',
      stage: 'protection',
      code: cooling.code,
      severity: 'good',
      sentence: `A belt asks its torque at every speed, and the motor’s own fan hardly blows below ${hz(0.3 * c.plate.frequency)}. The overload counts with that; for long slow running a forced fan or thermistors are wanted.`,
    });
  return out;
}

function overloadFindings(look: Look, s: Setting): StageFinding[] {
  const { plate, size, book } = look.c;
  const out: StageFinding[] = [];
  const set = look.raw(s);
  const stored = storedValue(s, set);
  const off = set === 0 ? 0 : stored / set - 1;
  const rating = ratingOf(book, size);
  const service = plate.serviceFactor ?? 1;
  const source = 'plate' as const;
  // a hair above a step must not jump to the next
  const steps = Math.floor(plate.current / s.step + 1e-6);
  const below = storedValue(s, steps * s.step);
  if (Math.abs(off) > 0.05)
    out.push({
      id: 'overload rounding',
      stage: 'protection',
      code: s.code,
      severity: 'error',
      sentence: `This drive holds steps of ${s.step} A: ${set} A is stored as ${stored} A, ${formatFigure(Math.abs(off) * 100, 1)} % ${off > 0 ? 'more: the motor is that much less protected' : 'less: it trips that much too soon'}. A smaller size of drive, or a motor relay of its own, protects it better.`,
      ...(below >= s.min &&
        below !== stored && {
          remedy: { label: `Use ${below} A, on the safe side`, changes: [{ code: s.code, value: below, source: 'worked out' as const }] },
        }),
    });
  else if (Math.abs(off) > 0.005)
    out.push({
      id: 'overload rounding small',
      stage: 'protection',
      code: s.code,
      severity: 'warning',
      sentence: `This drive holds steps of ${s.step} A: ${set} A is stored as ${stored} A, ${formatFigure(Math.abs(off) * 100, 1)} % ${off > 0 ? 'more' : 'less'}.`,
    });
  const most = plate.current * Math.max(1, service);
  if (stored > most * 1.01)
    out.push({
      id: stored === storedValue(s, rating.current) ? 'overload is the drive’s' : 'overload above plate',
      stage: 'protection',
      code: s.code,
      severity: 'error',
      sentence:
        stored === storedValue(s, rating.current)
          ? `${a(stored)} is the drive’s own current, as from the factory. The plate says ${a(plate.current)}: at that setting the motor burns before it trips.`
          : `${a(stored)} is ${formatFigure((stored / plate.current - 1) * 100, 0)} % above the plate’s ${a(plate.current)}${service > 1 ? `, more than its service factor of ${service}` : ''}: the motor is not protected.`,
      remedy: { label: `Use the plate’s ${a(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  else if (stored < plate.current * 0.9)
    out.push({
      id: 'overload below plate',
      stage: 'protection',
      code: s.code,
      severity: 'warning',
      sentence: `${a(stored)} is ${formatFigure((1 - stored / plate.current) * 100, 0)} % below the plate’s ${a(plate.current)}: at full load it trips without need.`,
      remedy: { label: `Use the plate’s ${a(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  return out;
}

function motionSettingFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const rating = ratingOf(c.book, c.size);
  const levels = levelsOf(c.book, c.size);
  const chopperLevel = look.find('chopperLevel');
  if (look.role('chopper') === 1 && chopperLevel) {
    const level = look.role('chopperLevel')!;
    if (level >= levels.overvoltageTrip)
      out.push({
        id: 'chopper above trip',
        stage: 'motion',
        code: chopperLevel.code,
        severity: 'error',
        sentence: `The chopper begins at ${level} V and the drive trips at ${levels.overvoltageTrip} V: it can never act.`,
        remedy: { label: `Use ${levels.overvoltageTrip - 40} V`, changes: look.change('chopperLevel', levels.overvoltageTrip - 40) },
      });
    const resistor = look.find('brakeResistance');
    const ohms = look.role('brakeResistance')!;
    if (resistor && ohms < rating.leastResistance)
      out.push({
        id: 'resistor too small',
        stage: 'motion',
        code: resistor.code,
        severity: 'error',
        sentence: `${formatFigure(ohms, 1)} Ω is below the ${rating.leastResistance} Ω this size may carry: the chopper would take ${a(level / ohms)} and burn. Another resistor, or two in series.`,
        remedy: {
          label: `Enter ${rating.leastResistance} Ω, once it is fitted`,
          changes: look.change('brakeResistance', rating.leastResistance, 'chosen'),
        },
      });
  }
  const reverse = look.find('reversePermit');
  const backwards = look.settings.filter((s) => s.role?.startsWith('preset') && look.raw(s) < 0);
  if (reverse && look.role('reversePermit') === 0 && backwards.length > 0)
    out.push({
      id: 'negative preset',
      stage: 'motion',
      code: reverse.code,
      severity: 'warning',
      sentence: `${backwards.map((s) => `${s.name} ${s.code}`).join(', ')} ${backwards.length === 1 ? 'is' : 'are'} below zero, which is reverse, and reverse is forbidden: chosen, ${backwards.length === 1 ? 'it stands' : 'they stand'} still.`,
      remedy: { label: 'Permit reverse', changes: look.change('reversePermit', 1, 'chosen') },
    });
  out.push(...secondRampFindings(look), ...brakeFindings(look), ...speedFindings(look));
  return out;
}

function secondRampFindings(look: Look): StageFinding[] {
  const second = look.find('secondAccelerationTime');
  if (!second) return [];
  const change = look.role('rampChangeOver') ?? 0;
  const input = look.settings.find((s) => s.role?.startsWith('job ') && wordsOf(s, look.raw(s)) === 'Second ramp');
  const [up, down] = [look.role('accelerationTime')!, look.role('decelerationTime')!];
  const [up2, down2] = [look.role('secondAccelerationTime')!, look.role('secondDecelerationTime')!];
  const top = look.role('maximumFrequency') ?? 50;
  const sentence =
    change > 0 && change < top
      ? `Two ramps: below ${hz(change)} ${up} s up and ${down} s down, from ${hz(change)} on ${up2} s up and ${down2} s down, at start and stop alike.`
      : change >= top && change > 0
        ? `The change-over at ${hz(change)} lies above the maximum of ${hz(top)}: the second ramps never act.`
        : input
          ? `While ${input.name.replace(/ job$/, '')} is closed the second ramps are in force, ${up2} s up and ${down2} s down; otherwise ${up} s and ${down} s.`
          : `No input chooses the second ramps and there is no change-over: they never act.`;
  return [{ id: 'two ramps', stage: 'motion', code: second.code, severity: change >= top && change > 0 ? 'warning' : 'good', sentence }];
}

function brakeFindings(look: Look): StageFinding[] {
  const brake = look.find('holdingBrake');
  const { driven } = look.c;
  const fitted = driven.kind === 'conveyor' && driven.brakeShare !== null;
  if (!brake) return [];
  const out: StageFinding[] = [];
  const works = look.role('holdingBrake') === 1;
  if (works && look.role('stopMode') === 1) {
    const stop = look.find('stopMode')!;
    out.push({
      id: 'brake on coasting',
      stage: 'motion',
      code: stop.code,
      severity: 'error',
      sentence: 'It stops by coasting and has a holding brake: the brake then falls in at full speed and wears out.',
      remedy: { label: 'Stop by ramp', changes: look.change('stopMode', 0, 'chosen') },
    });
  }
  if (!works && fitted)
    out.push({
      id: 'brake not worked',
      stage: 'motion',
      code: brake.code,
      severity: 'error',
      sentence: 'The machine has a holding brake and the drive does not work it: the motor would run against a closed brake.',
      remedy: { label: 'Let the drive work it', changes: look.change('holdingBrake', 1, 'chosen') },
    });
  return out;
}

function speedFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const top = look.find('maximumFrequency');
  const limit = look.role('maximumFrequency') ?? 0;
  if (top && limit > c.plate.frequency * 1.02)
    out.push({
      id: 'above plate frequency',
      stage: 'motion',
      code: top.code,
      severity: 'warning',
      sentence: `${hz(limit)} is above the plate’s ${hz(c.plate.frequency)}: torque falls, and motor, machine and bearings must be made for ${formatFigure((limit / c.plate.frequency) * 100, 0)} % speed${c.driven.kind === 'pump' || c.driven.kind === 'fan' ? `; power grows with its cube, to ${formatFigure((limit / c.plate.frequency) ** 3 * 100, 0)} %` : ''}.`,
      remedy: { label: `Use ${hz(c.plate.frequency)}`, changes: look.change('maximumFrequency', c.plate.frequency) },
    });
  const method = look.find('controlMethod');
  if (method && look.role('controlMethod') === 1 && (c.driven.kind === 'conveyor' || c.driven.kind === 'agitator'))
    out.push({
      id: 'bent curve on constant torque',
      stage: 'motion',
      code: method.code,
      severity: 'error',
      sentence: `The quadratic law gives a ${c.driven.kind} too little flux at low speed: it will not break away under load.`,
      remedy: { label: 'Use the linear law', changes: look.change('controlMethod', 0, 'chosen') },
    });
  const reverse = look.find('reversePermit');
  if (reverse && look.role('reversePermit') === 1 && (c.driven.kind === 'pump' || c.driven.kind === 'fan'))
    out.push({
      id: 'reverse permitted',
      stage: 'motion',
      code: reverse.code,
      severity: 'warning',
      sentence: `A ${c.driven.kind} has one way round: backwards it moves little${c.driven.kind === 'pump' ? ' and a screwed wheel comes off' : ' and looks as if it ran'}.`,
      remedy: { label: 'Forbid reverse', changes: look.change('reversePermit', 0, 'chosen') },
    });
  return out;
}

function commandFindings(look: Look): StageFinding[] {
  const s = look.find('startSource');
  if (!s || look.role('startSource') === 0) return [];
  return [
    {
      id: 'start source away',
      stage: 'direction',
      code: s.code,
      severity: 'warning',
      sentence: `${s.name} ${s.code} says ${wordsOf(s, look.raw(s))}: the selector and the buttons on the panel start nothing. Hold to run does not need it; command over the link goes back by itself when you let go.`,
      remedy: { label: 'Give start back to the terminals', changes: look.change('startSource', 0, 'chosen') },
    },
  ];
}
