import { leaveProcess, restingProcess, stepProcess, stepRestarts, type ProcessSettings, type ProcessState } from '../src';

const settings: ProcessSettings = {
  setpoint: 50,
  pid: { proportionalGain: 2, integralTime: 5, derivativeTime: 0, setpointWeight: 1, reverse: false, outputLow: 40, outputHigh: 100 },
  sleep: { frequency: 30, delay: 2, wakeFall: 4, wakeDelay: 1 },
};
const dt = 0.1;
/** Steps until it stands, or for so many seconds; the time it took. */
function steps(state: ProcessState, s: ProcessSettings, feedback: number, seconds: number, until: (hertz: number) => boolean): number {
  for (let t = 0; t < seconds; t += dt) if (until(stepProcess(state, s, feedback, 25, 50, dt))) return t;
  return Infinity;
}

describe('a process the drive keeps', () => {
  test('falls asleep at low speed and wakes when the feedback falls away from the set point', () => {
    const state = restingProcess();
    expect(steps(state, settings, 51, 10, (hz) => hz === 0)).toBeCloseTo(2, 0);
    expect(steps(state, settings, 47, 10, (hz) => hz > 0)).toBe(Infinity);
    expect(steps(state, settings, 45, 10, (hz) => hz > 0)).toBeCloseTo(1, 0);
  });

  // a pump that empties a pit wakes when the level is too high: common practice, no source
  test('with reverse action it wakes when the feedback rises above the set point, and not when it falls', () => {
    const state = restingProcess();
    const emptying = { ...settings, pid: { ...settings.pid, reverse: true } };
    expect(steps(state, emptying, 50, 10, (hz) => hz === 0)).toBeCloseTo(2, 0);
    expect(steps(state, emptying, 40, 10, (hz) => hz > 0)).toBe(Infinity);
    expect(steps(state, emptying, 55, 10, (hz) => hz > 0)).toBeCloseTo(1, 0);
  });

  test('given away to hand while asleep, it is awake when it gets the speed back', () => {
    const state = restingProcess();
    steps(state, settings, 51, 10, (hz) => hz === 0);
    leaveProcess(state);
    expect(stepProcess(state, settings, 51, 25, 50, dt)).toBeGreaterThan(0);
  });

  test('takes the speed over without a bump', () => {
    const state = restingProcess();
    expect(stepProcess(state, { ...settings, sleep: { ...settings.sleep, frequency: 0 } }, 48, 40, 50, dt)).toBeCloseTo(40, 0);
  });
});

describe('restarts after a trip', () => {
  const often = { autoRestarts: 2, restartInterval: 5 };

  test('as often as set, each after its interval, then a person is needed', () => {
    const state = { made: 0, sinceTrip: 0 };
    for (let made = 0; made < 2; made++) {
      state.sinceTrip = 0;
      expect(stepRestarts(state, often, 'undervoltage', 4.9)).toBe('waits');
      expect(stepRestarts(state, often, 'undervoltage', 0.1)).toBe('clears');
    }
    expect(stepRestarts(state, often, 'undervoltage', 10)).toBe('needs a person');
  });

  test('never after what may have damaged something', () => {
    expect(stepRestarts({ made: 0, sinceTrip: 0 }, often, 'earthFault', 60)).toBe('needs a person');
  });
});
