import { demoDraft, demoMachine } from '@yare/demo-plant';
import { InputJob, type SettingRole } from '@yare/core';
import { SimulatedDrive } from '../src/drive/simulatedDrive';
import { PlantSide } from '../src/panel/plantSide';

export type Change = Partial<Record<SettingRole, number>>;

/** A machine of the demo plant with some settings by what they do, and a job at one of its inputs. */
export function make(tag: string, change: Change = {}, job?: { terminal: string; job: InputJob }) {
  const demo = demoMachine(tag);
  const draft = demoDraft(demo);
  const roles = { ...change, decelerationTime: change.decelerationTime ?? 10 } as Record<string, number>;
  const values = Object.entries(roles).flatMap(([role, x]) => draft.change(role as SettingRole, x));
  const input = job && draft.need(`job ${job.terminal}`);
  const asFound = {
    ...demo.asFound,
    ...Object.fromEntries(values.map((c) => [c.code, c.value])),
    ...(job && input && { [input.code]: draft.valueFor(input, job.job) ?? 0 }),
  };
  const d = new SimulatedDrive({ ...demo, asFound }, 11, undefined, () => undefined);
  d.advance(300);
  return { d, side: new PlantSide(d) };
}
export const auto = { panel: { mode: 2 } };
export const seconds = (d: SimulatedDrive, s: number) => d.advance(s * 1000);
/** Advances until something is so; s it took, Infinity when it never was within the time. */
export function until(d: { advance: (ms: number) => void }, so: () => boolean, most: number): number {
  for (let t = 0; t < most; t += 0.1) {
    if (so()) return t;
    d.advance(100);
  }
  return Infinity;
}
