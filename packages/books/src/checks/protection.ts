import { longestLinkTimeout } from '@yare/contract/src/hold';
import { formatFigure } from '@yare/core';
import { ratingOf, storedValue, type Setting } from '../book';
import { amperes, hertz, type Look, type StageFinding } from './look';

/** Overload, current limit, external trip, restarts and cooling against plate, drive and load. */
export function protectionFindings(look: Look): StageFinding[] {
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
      sentence: `The current limit of ${amperes(limit)} lies below the plate’s ${amperes(c.plate.current)}: the motor never reaches its rated torque and slows down under load.`,
      remedy: { label: `Use ${amperes(1.1 * c.plate.current)}`, changes: look.change('currentLimit', 1.1 * c.plate.current) },
    });
  const duty = rating.current * c.book.duty.overloadShare;
  if (limit !== null && limitSetting && limit > duty * 1.001)
    out.push({
      id: 'limit above duty',
      stage: 'protection',
      code: limitSetting.code,
      severity: 'warning',
      sentence: `The drive carries ${amperes(duty)} for 60 s; the limit of ${amperes(limit)} lies above. Its own overload then ends a long start, not the limit.`,
      remedy: { label: `Use ${amperes(duty)}`, changes: look.change('currentLimit', duty) },
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
  const timeout = look.role('linkTimeout');
  const timeoutSetting = look.find('linkTimeout');
  if (timeoutSetting && timeout !== null && timeout > longestLinkTimeout)
    out.push({
      id: 'link time-out too long',
      stage: 'protection',
      code: timeoutSetting.code,
      severity: 'error',
      sentence: `${timeoutSetting.name} ${timeoutSetting.code} is ${formatFigure(timeout, 1)} s: should the server or the cable fail, the motor would turn on that long. Hold to run refuses with more than ${longestLinkTimeout} s.`,
      remedy: { label: `Use ${longestLinkTimeout} s`, changes: look.change('linkTimeout', longestLinkTimeout, 'chosen') },
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
      sentence: `A belt asks its torque at every speed, and the motor’s own fan hardly blows below ${hertz(0.3 * c.plate.frequency)}. The overload counts with that; for long slow running a forced fan or thermistors are wanted.`,
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
      severity: 'good',
      sentence: `This drive holds steps of ${s.step} A: ${set} A is stored as ${stored} A, ${formatFigure(Math.abs(off) * 100, 1)} % ${off > 0 ? 'more' : 'less'}. Little enough.`,
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
          ? `${amperes(stored)} is the drive’s own current, as from the factory. The plate says ${amperes(plate.current)}: at that setting the motor burns before it trips.`
          : `${amperes(stored)} is ${formatFigure((stored / plate.current - 1) * 100, 0)} % above the plate’s ${amperes(plate.current)}${service > 1 ? `, more than its service factor of ${service}` : ''}: the motor is not protected.`,
      remedy: { label: `Use the plate’s ${amperes(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  else if (stored < plate.current * 0.9)
    out.push({
      id: 'overload below plate',
      stage: 'protection',
      code: s.code,
      severity: 'warning',
      sentence: `${amperes(stored)} is ${formatFigure((1 - stored / plate.current) * 100, 0)} % below the plate’s ${amperes(plate.current)}: at full load it trips without need.`,
      remedy: { label: `Use the plate’s ${amperes(plate.current)}`, changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }] },
    });
  return out;
}
