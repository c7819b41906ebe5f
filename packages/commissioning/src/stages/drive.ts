import { driveFit } from '@yare/books';
import { formatFigure } from '@yare/core';
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
      sentence: `${c.settings.book.family} ${c.settings.size} is made for ${levels.supplyMin} to ${levels.supplyMax} V; the supply has ${c.supply.voltage} V. It must not be connected.`,
    });
  const times = c.settings.rating.current / c.plate.current;
  if (times > farTooLarge)
    out.push({
      id: 'far too large',
      severity: 'warning',
      sentence: `${c.settings.book.family} ${c.settings.size} carries ${formatFigure(c.settings.rating.current, 1)} A, ${formatFigure(times, 1)} times the motor’s ${formatFigure(c.plate.current, 2)} A: it measures such a small current poorly, and the overload setting may not go low enough. Check the size on its label.`,
    });
  const stamped = c.plate.frequency >= 55 ? 60 : 50;
  if (stamped !== c.settings.region) {
    const many = c.settings.all.filter((s) => s.access !== 'read' && s.factory50 !== s.factory60);
    const presets = many.filter((s) => s.role?.startsWith('preset')).length;
    out.push({
      id: 'region',
      severity: 'warning',
      sentence: `A ${c.plate.frequency} Hz plate on a ${c.settings.region} Hz factory start: ${many.length} factory values differ between the two${presets > 0 ? `, ${presets} preset speeds among them` : ''}.`,
      remedy: { label: `Go to the factory start`, go: 'drive' },
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
    if (fit.margin < 0) return { proof: 'act', text: `${book.family} ${size} is too small here` };
    const unread = { proof: 'not yet', text: 'not read yet' } as const;
    if (!surveyed) return against(m, 'drive') ?? { proof: 'not yet', text: 'big enough by the nameplate; the place is not recorded' };
    return against(m, 'drive') ?? (m.asFound ? { proof: 'proved', text: 'big enough, read as found' } : unread);
  },
});
