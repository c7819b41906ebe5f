import { longestLinkTimeout } from '@yare/contract/hold';
import { HealthyContact, MotorCooling } from '@yare/core';
import { roundingOf, storedValue, type Setting } from '@yare/books';
import { say } from '@yare/words/stages/protection';
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
      sentence: say.theCurrentLimitOfLies({ amperes: amperes(limit), amperes2: amperes(c.plate.current) }),
      remedy: { label: say.use({ amperes: amperes(1.1 * c.plate.current) }), changes: c.settings.change('currentLimit', 1.1 * c.plate.current) },
    });
  const duty = c.settings.rating.current * c.settings.book.duty.overloadShare;
  if (limit !== null && setting && limit > duty * 1.001)
    out.push({
      id: 'limit above duty',
      code: setting.code,
      severity: 'warning',
      sentence: say.theDriveCarriesForS({ amperes: amperes(duty), amperes2: amperes(limit) }),
      remedy: { label: say.use({ amperes: amperes(duty) }), changes: c.settings.change('currentLimit', duty) },
    });
  const sense = c.settings.find('externalTripSense');
  if (sense && c.settings.role('externalTripSense') === HealthyContact.open)
    out.push({
      id: 'open is healthy',
      code: sense.code,
      severity: 'warning',
      sentence: say.openIsHealthyABroken,
      remedy: { label: say.makeClosedTheHealthyState, changes: c.settings.change('externalTripSense', HealthyContact.closed, 'chosen') },
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
      sentence: say.isSShouldTheServer({ name: setting.name, code: setting.code, timeout, longestLinkTimeout }),
      remedy: { label: say.useS({ longestLinkTimeout }), changes: c.settings.change('linkTimeout', longestLinkTimeout, 'chosen') },
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
      sentence: say.afterATripThisStarts({ kind: c.driven.kind, restarts }),
      remedy: { label: say.setItTo, changes: c.settings.change('autoRestarts', 0, 'chosen') },
    });
  const cooling = c.settings.find('motorCooling');
  const lowest = c.settings.roleValue('minimumFrequency');
  if (cooling && c.settings.role('motorCooling') === MotorCooling.ownFan && c.driven.kind === 'conveyor' && lowest < hardlyBlows * c.plate.frequency)
    out.push({
      id: 'cooling at low speed',
      code: cooling.code,
      severity: 'good',
      sentence: say.aBeltAsksItsTorque({ hertz: hertz(hardlyBlows * c.plate.frequency) }),
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
      sentence: say.thisDriveHoldsStepsOf({ step: s.step, set, stored, abs: Math.abs(off) * 100, off }),
      ...(below >= s.min &&
        below !== stored && {
          remedy: { label: say.useAOnTheSafe({ below }), changes: [{ code: s.code, value: below, source: 'worked out' as const }] },
        }),
    });
  else if (severity === 'good')
    out.push({
      id: 'overload rounding small',
      code: s.code,
      severity,
      sentence: say.thisDriveHoldsStepsOf2({ step: s.step, set, stored, abs: Math.abs(off) * 100, off }),
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
          ? say.isTheDrivesOwnCurrent({ amperes: amperes(stored), amperes2: amperes(plate.current) })
          : say.isAboveThePlatesThe({
              amperes: amperes(stored),
              stored: (stored / plate.current - 1) * 100,
              amperes2: amperes(plate.current),
              service,
            }),
      remedy: {
        label: say.useThePlates({ amperes: amperes(plate.current) }),
        changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }],
      },
    });
  else if (stored < plate.current * 0.9)
    out.push({
      id: 'overload below plate',
      code: s.code,
      severity: 'warning',
      sentence: say.isBelowThePlatesAt({ amperes: amperes(stored), stored: (1 - stored / plate.current) * 100, amperes2: amperes(plate.current) }),
      remedy: {
        label: say.useThePlates({ amperes: amperes(plate.current) }),
        changes: [{ code: s.code, value: Math.min(s.max, plate.current), source }],
      },
    });
  return out;
}

/** What keeps motor and drive from burning. */
export const protectionStage = defineStage({
  path: 'protection',
  sections: [
    { id: 'overload', title: say.motorOverload, roles: ['overloadCurrent', 'overloadClass', 'motorCooling', 'motorSensor'] },
    { id: 'limit', title: say.currentLimit, roles: ['currentLimit', 'torqueLimit', 'stallTime'] },
    { id: 'external', title: say.externalTrip, roles: ['externalTripSense'] },
    { id: 'wiring', title: say.wiringWatched, roles: ['phaseLoss', 'earthFault'] },
    { id: 'restart', title: say.afterATrip, roles: ['autoRestarts', 'restartInterval'] },
    { id: 'link', title: say.whenTheLinkFallsSilent, roles: ['linkTimeout', 'onLinkLoss'] },
  ],
  check,
  standing: (m) => {
    const overload = m.drafted.find('overloadCurrent');
    // a draft that took it from the plate by itself protects nothing yet
    const inDrive = m.inDrive !== null && !(overload && m.differing.includes(overload));
    return (
      against(m, 'protection') ??
      (inDrive ? { proof: 'proved', text: say.overloadAsThePlateIn } : { proof: 'not yet', text: say.overloadAsThePlateNot })
    );
  },
});
