import fc from 'fast-check';
import {
  leaveProcess,
  plainSetpoint,
  quietSetpoint,
  rawOf,
  restingProcess,
  SetpointSource,
  stepProcess,
  stepRestarts,
  straightenedOf,
  type ProcessSettings,
  type ProcessState,
  type SetpointInputs,
  type SetpointSettings,
} from '../src';

const settings: ProcessSettings = {
  setpoint: plainSetpoint(50),
  ...{ filter: 0, straight: null },
  pid: { proportionalGain: 2, integralTime: 5, derivativeTime: 0, setpointWeight: 1, reverse: false, outputLow: 40, outputHigh: 100 },
  sleep: { frequency: 30, delay: 2, wakeFall: 4, wakeDelay: 1, boost: 0, boostTime: 0, leastRun: 0, leastRest: 0 },
};
const dt = 0.1;
/** Steps until it stands, or for so many seconds; the time it took. */
function steps(state: ProcessState, s: ProcessSettings, feedback: number, seconds: number, until: (hertz: number) => boolean): number {
  for (let t = 0; t < seconds; t += dt) if (until(stepProcess(state, s, quietSetpoint, feedback, 25, 50, dt))) return t;
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
    expect(stepProcess(state, settings, quietSetpoint, 51, 25, 50, dt)).toBeGreaterThan(0);
  });

  test('takes the speed over without a bump', () => {
    const state = restingProcess();
    expect(stepProcess(state, { ...settings, sleep: { ...settings.sleep, frequency: 0 } }, quietSetpoint, 48, 40, 50, dt)).toBeCloseTo(40, 0);
  });
});

describe('what a loop holds', () => {
  const free = { ...settings, sleep: { ...settings.sleep, frequency: 0 } };
  const after = (setpoint: Partial<SetpointSettings>, inputs: Partial<SetpointInputs>, seconds: number) => {
    const state = restingProcess();
    const s = { ...free, setpoint: { ...free.setpoint, ...setpoint } };
    for (let t = 0; t < seconds - dt / 2; t += dt) stepProcess(state, s, { ...quietSetpoint, ...inputs }, 20, 25, 50, dt);
    return state.setpoint;
  };

  test('is what is stored, the second by its contact, a signal or what the link says, within its ends', () => {
    expect(after({}, {}, 1)).toBe(50);
    expect(after({ second: 35 }, { second: true }, 1)).toBe(35);
    expect(after({ source: SetpointSource.secondAnalogue }, { analogue: 0.42 }, 1)).toBeCloseTo(42, 9);
    expect(after({ source: SetpointSource.link }, { link: 0.8 }, 1)).toBeCloseTo(80, 9);
    expect(after({ source: SetpointSource.link, high: 60 }, { link: 0.8 }, 1)).toBe(60);
    expect(after({ low: 25 }, { analogue: 0.1 }, 1)).toBe(50);
    expect(after({ source: SetpointSource.secondAnalogue, low: 25 }, { analogue: 0.1 }, 1)).toBe(25);
  });

  test('goes by its ramp, from what is there', () => {
    // 100 s for the whole range, from 20 to 50 %: 30 s
    expect(after({ ramp: 100 }, {}, 10)).toBeCloseTo(30, 6);
    expect(after({ ramp: 100 }, {}, 29)).toBeCloseTo(49, 6);
    expect(after({ ramp: 100 }, {}, 40)).toBe(50);
  });

  // 40 % of a 0 to 15 psi sensor is 6 psi (common practice)
  test('a straightened feedback and its set point said anew are the same loop where both are straight', () => {
    const straight = { gain: 1.25, offset: 8 };
    const said = (raw: number) => straightenedOf(straight, raw);
    const [plain, other] = [restingProcess(), restingProcess()];
    const pid = { ...free.pid, proportionalGain: 2 };
    const s = { ...free, straight, setpoint: plainSetpoint(said(40)), pid: { ...pid, proportionalGain: 2 / straight.gain } };
    for (let i = 0; i < 50; i++) {
      const raw = 40 + 5 * Math.sin(i / 7);
      const a = stepProcess(plain, { ...free, pid, setpoint: plainSetpoint(40) }, quietSetpoint, raw, 25, 50, dt);
      expect(stepProcess(other, s, quietSetpoint, raw, 25, 50, dt)).toBeCloseTo(a, 9);
    }
    expect(rawOf(straight, said(40))).toBeCloseTo(40, 12);
    expect((40 / 100) * 15).toBe(6);
  });

  test('taken over from hand at any speed and feedback, with or without ramp and straightening, it goes on from there', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.constantFrom(0, 30),
        fc.constantFrom(null, { gain: 1.6, offset: -12 }),
        (hertz, feedback, ramp, straight) => {
          const s = { ...free, straight, setpoint: { ...free.setpoint, ramp }, pid: { ...free.pid, integralTime: 20 } };
          const first = stepProcess(restingProcess(), s, quietSetpoint, feedback, hertz, 50, 0.01);
          // what one scan of its integral moves: 100 % of error for 10 ms at a gain of 2 in 20 s
          expect(Math.abs(first - hertz)).toBeLessThanOrEqual(0.051);
        },
      ),
    );
  });

  test('held at its limit for long, it leaves it as soon as the error turns round', () => {
    const state = restingProcess();
    for (let i = 0; i < 6000; i++) stepProcess(state, free, quietSetpoint, 10, 50, 50, dt);
    expect(stepProcess(state, free, quietSetpoint, 10, 50, 50, dt)).toBe(50);
    let steps = 0;
    while (stepProcess(state, free, quietSetpoint, 60, 50, 50, dt) >= 50 && steps < 100) steps++;
    expect(steps * dt).toBeLessThan(1);
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
