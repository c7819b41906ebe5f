import type { Checked, Remedy } from './checked';
import type { StageFinding } from './model';
import { stageFindings } from './stages';

/** A machine's figures once a way out was taken. */
export const afterWay = (c: Checked, way: Remedy): Checked => ({
  ...c,
  settings: c.settings.with({ ...c.settings.values, ...Object.fromEntries((way.changes ?? []).map((x) => [x.code, x.value])) }),
  plate: { ...c.plate, ...way.plate },
});

/** Whether two findings are one: the same sentence about the same place, before and after something was done. */
export const sameFinding = (a: StageFinding, b: StageFinding): boolean =>
  a.stage === b.stage && a.id === b.id && a.code === b.code && a.field === b.field;

/** Whether a way out is one: taken, its finding is gone, and no error has come that was not there before. */
function leadsOut(c: Checked, found: readonly StageFinding[], f: StageFinding, way: Remedy): boolean {
  if (!way.changes && !way.plate) return true;
  const after = stageFindings(afterWay(c, way));
  return (
    !after.some((x) => sameFinding(x, f) && x.severity !== 'good') &&
    after.every((x) => x.severity !== 'error' || found.some((y) => sameFinding(x, y)))
  );
}

/**
 * The ways out of a finding that are offered: each is taken on paper first. One that would leave its finding where it is, or bring an error that was not
 * there, is not offered.
 * @param found everything that was found of these figures
 */
export const waysOut = (c: Checked, found: readonly StageFinding[], f: StageFinding): Remedy[] =>
  [f.remedy, ...(f.more ?? [])].filter((way) => way !== undefined).filter((way) => leadsOut(c, found, f, way));
