import { sensorOf, type MachineModel } from '@yare/commissioning';
import { toSi } from '@yare/core';
import { drawnShown, shutOffShown, type DayPlan } from '@yare/core/days';
import { say } from '@yare/words/pages/sleep';
import type { Found } from '../../data/days';

/** What was found out at a pump, as the look-ahead takes it; null while nothing was. */
export function shownPump(model: MachineModel, { shut, draw }: Found): { pump: NonNullable<DayPlan['shown']>; what: string } | null {
  const sensor = sensorOf(model.machine.driven);
  if (!model.draftSpec.ok || sensor?.measures !== 'pressure') return null;
  const { spec } = model.draftSpec;
  if (spec.load.kind !== 'pump') return null;
  const [low, high] = [toSi(sensor.low, sensor.unit), toSi(sensor.high, sensor.unit)];
  const pascal = (percent: number) => low + (percent / 100) * (high - low);
  const set = pascal(100 * model.drafted.roleValue('setpoint'));
  const head =
    shut &&
    shutOffShown(
      spec,
      spec.load,
      shut.map((p) => ({ frequency: p.frequency, pressure: pascal(p.feedback) })),
      set,
    );
  const pump: NonNullable<DayPlan['shown']> = head ? { shutOffHead: head } : {};
  if (draw) {
    const { flow, frequency, feedback, falls } = draw;
    const drawn = { flow: flow / 3600, frequency, pressure: pascal(feedback), falls: ((falls ?? 0) / 100) * (high - low) };
    Object.assign(pump, drawnShown(spec, { ...spec.load, ...pump }, drawn));
  }
  const what = [...(head ? [say.theRunAgainstTheShut] : []), ...(draw ? [say.theDrawItMaySleep] : []), ...(draw?.falls ? [say.howFastItFalls] : [])];
  return what.length > 0 ? { pump, what: what.join(', ') } : null;
}
