import { driveFit } from '@yare/books';
import { say } from '@yare/words/stages/drive';
import type { Checked, Finding } from '../checked';
import { against, defineStage } from '../stage';

/** A drive carrying more than so many times the motor's current measures and protects it poorly (common practice: two sizes larger at most). */
const farTooLarge = 2.5;

/** What does not fit between drive, supply and plate. */
function check(c: Checked): Finding[] {
  const out: Finding[] = [];
  const { levels } = c.settings;
  if (c.supply.voltage < levels.supplyMin || c.supply.voltage > levels.supplyMax)
    out.push({
      id: 'wrong supply',
      severity: 'error',
      sentence: say.isMadeForToV({
        family: c.settings.book.family,
        size: c.settings.size,
        supplyMin: levels.supplyMin,
        supplyMax: levels.supplyMax,
        voltage: c.supply.voltage,
      }),
    });
  const times = c.settings.rating.current / c.plate.current;
  if (times > farTooLarge)
    out.push({
      id: 'far too large',
      severity: 'warning',
      sentence: say.carriesATimesTheMotors({
        family: c.settings.book.family,
        size: c.settings.size,
        current: c.settings.rating.current,
        times,
        current2: c.plate.current,
      }),
    });
  const stamped = c.plate.frequency >= 55 ? 60 : 50;
  if (stamped !== c.settings.region) {
    const many = c.settings.all.filter((s) => s.access !== 'read' && s.factory50 !== s.factory60);
    const presets = many.filter((s) => s.role?.startsWith('preset')).length;
    out.push({
      id: 'region',
      severity: 'warning',
      sentence: say.aHzPlateOnA({ frequency: c.plate.frequency, region: c.settings.region, manyText: many.length, presets }),
      remedy: { label: say.goToTheFactoryStart, go: 'drive' },
    });
  }
  return out;
}

/** Which drive stands there, and whether it is big enough. */
export const driveStage = defineStage({
  path: 'drive',
  check,
  standing: (m, { survey, surveyed }) => {
    const { book, size } = m.drafted;
    const fit = driveFit(book, size, survey, m.drafted.roleValue('carrier'), m.plate.current);
    if (fit.margin < 0) return { proof: 'act', text: say.isTooSmallHere({ family: book.family, size }) };
    const unread = { proof: 'not yet', text: say.notReadYet } as const;
    if (!surveyed) return against(m, 'drive') ?? { proof: 'not yet', text: say.bigEnoughByTheNameplate };
    return against(m, 'drive') ?? (m.asFound ? { proof: 'proved', text: say.bigEnoughReadAsFound } : unread);
  },
});
