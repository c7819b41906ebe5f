import type { LiveSample } from '@yare/contract';
import { afterSample, type RunAgain } from '../src/data/runAgain';

const sample = (at: number, change: Partial<LiveSample>): LiveSample =>
  ({ at, link: 'up', state: 'ready', outputFrequency: 0, busVoltage: 560, motorCurrent: 0, ...change }) as LiveSample;
const seen = (...all: Array<Partial<LiveSample>>): RunAgain | null =>
  all.reduce<RunAgain | null>((run, change, i) => afterSample(run, sample(1000 * i, change)), null);

describe('a machine that is run again', () => {
  const runs = { state: 'running' as const, outputFrequency: 45, busVoltage: 540, motorCurrent: 12 };
  test('its longest reach counts: highest output, bus and current, until it has come to rest', () => {
    expect(
      seen({}, runs, { ...runs, outputFrequency: -48, busVoltage: 640 }, { state: 'stopping', outputFrequency: 10 }, { busVoltage: 655 }),
    ).toEqual({
      ...{ from: 1000, to: 3000, top: 48, bus: 655, current: 12, ended: true },
    });
  });
  test('while it turns it is not over; at rest there is none', () => {
    expect(seen(runs, runs)?.ended).toBe(false);
    expect(seen({}, {})).toBeNull();
  });
  test('a trip takes it back, and no answer leaves it as it was', () => {
    expect(seen(runs, { state: 'tripped' })).toBeNull();
    expect(seen(runs, { state: 'tripped' }, {})).toBeNull();
    expect(seen(runs, { link: 'down', state: 'no link' })?.top).toBe(45);
  });
  test('another start is another run', () => {
    const second = seen({ ...runs, busVoltage: 700 }, {}, { ...runs, outputFrequency: 20 });
    expect(second).toMatchObject({ from: 2000, top: 20, bus: 540, ended: false });
    // what comes after a run at rest changes nothing of it
    expect(seen(runs, {}, { busVoltage: 900 })?.bus).toBe(560);
  });
});
