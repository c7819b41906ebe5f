import { longestLinkTimeout } from '@yare/contract/hold';
import { formatFigure, HealthyContact, MotorCooling } from '@yare/core';
import { roundingOf, storedValue, type Setting } from '@yare/books';
import { amperes, hertz, type Checked, type Finding } from '../checked';
import { against, defineStage } from '../stage';

/** Overload, current limit, external trip, restarts and cooling against plate, drive and load. */
function check(c: Checked): Finding[] {
  const overload = c.settings.find('overloadCurrent');
  return [...(overload ? overloadFindings(c, overload) : []), ...limitFindings(c), ...linkFindings(c), ...restartFindings(c)];
}

/** The current limit against plate and duty, and which state of the external trip is healthy. */
function limitFindings(c: Checked): Finding[] {
  const out: Finding[] = [];
  const setting = c.settings.find('currentLimit');
  const limit = c.settings.role('currentLimit');
  if (limit !== null && setting && limit < c.plate.current * 0.9)
    out.push({
      id: 'limit below plate',
      code: setting.code,
      severity: 'warning',
      sentence: `The current limit of ${amperes(limit)} lies below the plate’s ${amperes(c.plate.current)}: the motor never reaches its rated torque and slows down under load.`,
      remedy: { label: `Use ${amperes(1.1 * c.plate.current)}`, changes: c.settings.change('currentLimit', 1.1 * c.plate.current) },
    });
  const duty = c.settings.rating.current * c.settings.book.duty.overloadShare;
  if (limit !== null && setting && limit > duty * 1.001)
    out.push({
      id: 'limit above duty',
      code: setting.code,
      severity: 'warning',
      sentence: `The drive carries ${amperes(duty)} for 60 s; the limit of ${amperes(limit)} lies above. Its own overload then ends a long start, not the limit.`,
      remedy: { label: `Use ${amperes(duty)}`, changes: c.settings.change('currentLimit', duty) },
    });
  const sense = c.settings.find('externalTripSense');
  if (sense && c.settings.role('externalTripSense') === HealthyContact.open)
    out.push({
      id: 'open is healthy',
      code: sense.code,
      severity: 'warning',
      sentence:
        'Open is healthy: a broken wire or a pulled plug looks like a healthy machine, and the trip never comes. With closed as healthy the wire watches itself.',
      remedy: { label: 'Make closed the healthy state', changes: c.settings.change('externalTripSense', HealthyContact.closed, 'chosen') },
    });
  return out;
}

/** How long a motor turns on when its link falls silent. */
function linkFindings(c: Checked): Finding[] {
  const setting = c.settings.find('linkTimeout');
  const timeout = c.settings.role('linkTimeout');
  if (!setting || timeout === null || timeout <= longestLinkTimeout) return [];
  return [
    {
      id: 'link time-out too long',
      code: setting.code,
      severity: 'error',
      sentence: `${setting.name} ${setting.code} is ${formatFigure(timeout, 1)} s: should the server or the cable fail, the motor would turn on that long. Hold to run refuses with more than ${longestLinkTimeout} s.`,
      remedy: { label: `Use ${longestLinkTimeout} s`, changes: c.settings.change('linkTimeout', longestLinkTimeout, 'chosen') },
    },
  ];
}

/** Below this share of its speed a motor's own fan hardly blows (common practice). */
const hardlyBlows = 0.3;

/** What a belt does after a trip, and at low speed. */
function restartFindings(c: Checked): Finding[] {
  const out: Finding[] = [];
  const restarts = c.settings.role('autoRestarts');
  const restartSetting = c.settings.find('autoRestarts');
  if (restartSetting && (restarts ?? 0) > 0 && (c.driven.kind === 'conveyor' || c.driven.kind === 'hoist'))
    out.push({
      id: 'restarts by itself',
      code: restartSetting.code,
      severity: 'warning',
      sentence: `After a trip this ${c.driven.kind} starts again by itself, up to ${restarts} times, with whoever is clearing it ${c.driven.kind === 'hoist' ? 'under the load' : 'at the belt'}.`,
      remedy: { label: 'Set it to 0', changes: c.settings.change('autoRestarts', 0, 'chosen') },
    });
  const cooling = c.settings.find('motorCooling');
  const lowest = c.settings.roleValue('minimumFrequency');
  if (cooling && c.settings.role('motorCooling') === MotorCooling.ownFan && c.driven.kind === 'conveyor' && lowest < hardlyBlows * c.plate.frequency)
    out.push({
      id: 'cooling at low speed',
      code: cooling.code,
      severity: 'good',
      sentence: `A belt asks its torque at every speed, and the motor’s own fan hardly blows below ${hertz(hardlyBlows * c.plate.frequency)}. The overload counts with that; for long slow running a forced fan or thermistors are wanted.`,
    });
  return out;
}

function overloadFindings(c: Checked, s: Setting): Finding[] {
  const { plate } = c;
  const out: Finding[] = [];
  const set = c.settings.value(s);
  const { stored, off, severity } = roundingOf(s, set);
  const { rating } = c.settings;
  const source = 'plate' as const;
  // 4.6 / 0.1 is 45.999… in double precision: a millionth of a step keeps it on its own
  const steps = Math.floor(plate.current / s.step + 1e-6);
  const below = storedValue(s, steps * s.step);
  if (severity === 'error')
    out.push({
      id: 'overload rounding',
      code: s.code,
      severity,
      sentence: `This drive holds steps of ${s.step} A: ${set} A is stored as ${stored} A, ${formatFigure(Math.abs(off) * 100, 1)} % ${off > 0 ? 'more: the motor is that much less protected' : 'less: it trips that much too soon'}. A smaller size of drive, or a motor relay of its own, protects it better.`,
      ...(below >= s.min &&
        below !== stored && {
          remedy: { label: `Use ${below} A, on the safe side`, changes: [{ code: s.code, value: below, source: 'worked out' as const }] },
        }),
    });
  else if (severity === 'good')
    out.push({
      id: 'overload rounding small',
      code: s.code,
      severity,
      sentence: `This drive holds steps of ${s.step} A: ${set} A is stored as ${stored} A, ${formatFigure(Math.abs(off) * 100, 1)} % ${off > 0 ? 'more' : 'less'}. Little enough.`,
    });
  const service = plate.serviceFactor ?? 1;
  // on an inverter the service factor counts as 1.0 (NEMA MG 1 part 30, from memory)
  if (stored > plate.current * 1.01)
    out.push({
      id: stored === storedValue(s, rating.current) ? 'overload is the drive’s' : 'overload above plate',
      code: s.code,
      severity: 'error',
      sentence:
        stored === storedValue(s, rating.current)
          ? `${amperes(stored)} is the drive’s own current, as from the factory. The plate says ${amperes(plate.current)}: at that setting the motor burns before it trips.`
          : `${amperes(stored)} is ${formatFigure((stored / plate.current - 1) * 100, 0)} % above the plate’s ${amperes(plate.current)}${service > 1 ? `. Its service factor of ${service} does not count on a drive` : ''}: the motor is not protected.`,
      remedy: { label: `Use the plate’s ${amperes(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  else if (stored < plate.current * 0.9)
    out.push({
      id: 'overload below plate',
      code: s.code,
      severity: 'warning',
      sentence: `${amperes(stored)} is ${formatFigure((1 - stored / plate.current) * 100, 0)} % below the plate’s ${amperes(plate.current)}: at full load it trips without need.`,
      remedy: { label: `Use the plate’s ${amperes(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  return out;
}

/** What keeps motor and drive from burning. */
export const protectionStage = defineStage({
  path: 'protection',
  sections: [
    { id: 'overload', title: 'Motor overload', roles: ['overloadCurrent', 'overloadClass', 'motorCooling', 'motorSensor'] },
    { id: 'limit', title: 'Current limit', roles: ['currentLimit', 'torqueLimit', 'stallTime'] },
    { id: 'external', title: 'External trip', roles: ['externalTripSense'] },
    { id: 'wiring', title: 'Wiring watched', roles: ['phaseLoss', 'earthFault'] },
    { id: 'restart', title: 'After a trip', roles: ['autoRestarts', 'restartInterval'] },
    { id: 'link', title: 'When the link falls silent', roles: ['linkTimeout', 'onLinkLoss'] },
  ],
  check,
  standing: (m) => {
    const overload = m.drafted.find('overloadCurrent');
    // a draft that took it from the plate by itself protects nothing yet
    const inDrive = m.inDrive !== null && !(overload && m.differing.includes(overload));
    return (
      against(m, 'protection') ??
      (inDrive
        ? { proof: 'proved', text: 'overload as the plate, in the drive' }
        : { proof: 'not yet', text: 'overload as the plate; not in the drive yet' })
    );
  },
});
