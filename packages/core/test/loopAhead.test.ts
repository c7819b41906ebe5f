import { LiveZeroAction, plainSetpoint, pumpFromRatedPoint, type PidSettings, type ProcessSettings } from '../src';
import { holdsLittleDrawn, loopAhead, questionsFor, straighten, type LoopPlan, type LoopSensor, type SteadyPoint } from '../src/loop';
import { machine, machineTypes } from './specs';

const pid: PidSettings = {
  ...{ proportionalGain: 1, integralTime: 3, derivativeTime: 0, setpointWeight: 1, reverse: false, outputLow: 0, outputHigh: 100 },
};
const process: ProcessSettings = {
  ...{ setpoint: plainSetpoint(30), filter: 0.1, straight: null, pid },
  sleep: { frequency: 0, delay: 20, wakeFall: 3, wakeDelay: 2, boost: 0, boostTime: 0, leastRun: 0, leastRest: 0 },
};
const bar10: LoopSensor = { measures: 'pressure', low: 0, high: 1e6 };
const pump = machine({ decelerationTime: 10 });
const ahead = (question: LoopPlan['question'], change: Partial<LoopPlan> = {}, spec = pump) =>
  loopAhead(spec, { question, process, sensor: bar10, ...change });

describe('a closed loop on the model of its machine', () => {
  test('stands where it began, goes to a new set point, and back', () => {
    const { series, summary } = ahead('set point');
    expect(series.feedback[10]).toBeCloseTo(30, 0);
    expect(series.feedback[Math.floor(series.time.length / 2) - 5]).toBeCloseTo(40, 0);
    expect(summary.settled).toBeGreaterThan(2);
    expect(summary.settled).toBeLessThan(30);
    expect(summary.swings).toBe(false);
    expect(summary.trip).toBeNull();
  });

  test('makes up for a demand that comes and goes; the more of it, the firmer the loop', () => {
    const dip = (p: Partial<PidSettings>) => 30 - ahead('demand', { process: { ...process, pid: { ...pid, ...p } } }).summary.lowest;
    expect(dip({})).toBeGreaterThan(0.5);
    expect(dip({ proportionalGain: 3, integralTime: 1.5 })).toBeLessThan(0.75 * dip({}));
  });

  test('too firm, it swings; turned round, it runs away to one end', () => {
    expect(ahead('demand', { process: { ...process, filter: 2, pid: { ...pid, proportionalGain: 12, integralTime: 0.5 } } }).summary.swings).toBe(
      true,
    );
    const turned = ahead('demand', { process: { ...process, pid: { ...pid, reverse: true } } });
    expect([0, 50]).toContain(Math.round(turned.summary.output));
  });

  test('a start with everything shut comes to the set point without a flow, and does not go far past it', () => {
    const { series, summary } = ahead('shut valve');
    expect(series.feedback[0]).toBeLessThan(1);
    expect(summary.settled).not.toBeNull();
    expect(summary.highest).toBeLessThan(36);
  });

  test('where little is drawn a loop that was firm enough slams its check valve; a calm one comes to rest', () => {
    const plan = { process, sensor: bar10, measured: { deadTime: 0.25, lag: 0.35 } };
    const holds = (gain: number, integralTime: number) => holdsLittleDrawn(pump, plan, { gain, integralTime, derivativeTime: 0 });
    expect(holds(2.5, 0.6)).toBe(false);
    expect(holds(0.15, 1)).toBe(true);
    expect(ahead('little drawn').summary).toMatchObject({ swings: false, settled: expect.any(Number) });
    expect(questionsFor(pump.load, bar10)).toContain('little drawn');
  });

  // what a lost signal does is a choice of the settings: ignored, it reads as nothing, and the pump makes all it can
  test.each([
    [LiveZeroAction.ignore, null, 50],
    [LiveZeroAction.holdLast, null, 38],
    [LiveZeroAction.stop, null, 0],
    [LiveZeroAction.trip, 'liveZeroLoss', 0],
  ])('a lost signal with action %d: trip %s, then %d Hz', (liveZeroLoss, cause, hertz) => {
    const { summary } = ahead('sensor lost', {}, machine({ decelerationTime: 10, liveZeroLoss }));
    expect(summary.trip?.cause ?? null).toBe(cause);
    expect(Math.abs(summary.output - hertz)).toBeLessThan(2);
    expect(summary.highest > 45).toBe(liveZeroLoss === LiveZeroAction.ignore);
  });

  test('a ramp too quick for the bus trips when the loop lets the speed fall', () => {
    const heavy = machine({ decelerationTime: 0.4, busRampHold: 0 }, undefined, 0.9);
    const quick = { ...process, setpoint: plainSetpoint(45), pid: { ...pid, proportionalGain: 6 } };
    expect(ahead('set point', { process: quick }, heavy).summary.trip?.cause).toBe('overvoltage');
  });

  test('a fan makes up for its filter; a level is held by what it pumps out', () => {
    const { fan } = machineTypes();
    if (!fan) throw new Error('no fan');
    const duct: LoopSensor = { measures: 'pressure', low: 0, high: 2500 };
    expect(questionsFor(fan.load, duct)).toContain('filter');
    const clogged = loopAhead(fan, {
      question: 'filter',
      process: { ...process, pid: { ...pid, proportionalGain: 0.6, integralTime: 20 } },
      sensor: duct,
      lasts: 300,
    });
    expect(clogged.summary.lowest).toBeLessThan(29.9);
    expect(clogged.summary.settled).not.toBeNull();

    const emptying = {
      ...pumpFromRatedPoint({ ratedSpeed: 305, flow: 42 / 3600, head: 21, efficiency: 0.68, staticHead: 6, compliance: 4e-8, demandShare: 1 }),
      ...{ sumpArea: 3, inflow: 20 / 3600, dryLevel: -1.5 },
    };
    const level: LoopSensor = { measures: 'level', low: -1.5, high: 2.5 };
    expect(questionsFor(emptying, level)).not.toContain('shut valve');
    expect(questionsFor({ ...emptying, sumpArea: 0 }, level)).toEqual([]);
    const held = loopAhead(machine({ minimumFrequency: 15 }, emptying), {
      ...{ question: 'demand', sensor: level, lasts: 600 },
      process: { ...process, setpoint: plainSetpoint(37.5), pid: { ...pid, reverse: true, proportionalGain: 3, integralTime: 30 } },
    });
    expect(held.summary.highest).toBeGreaterThan(37.6);
    expect(held.summary.highest).toBeLessThan(45);
    expect(held.summary.settled).not.toBeNull();
  });

  test('holds the same pressure through a straightened feedback once the set point is said anew', () => {
    const points: SteadyPoint[] = [60, 70, 80, 90, 100].map((output) => ({ output, feedback: 0.007 * output ** 2 - 10 }));
    const s = straighten(points);
    if (!s.ok) throw new Error(s.why);
    const said = s.fit.gain * (30 + s.fit.offset);
    const straightened = ahead('demand', { process: { ...process, straight: s.fit, setpoint: plainSetpoint(said) } });
    const plain = ahead('demand');
    expect(straightened.series.feedback[20]).toBeCloseTo(plain.series.feedback[20] ?? 0, 1);
  });

  test('steps of five milliseconds tell the same as steps of one', () => {
    for (const question of ['set point', 'demand'] as const) {
      const [coarse, fine] = [ahead(question).summary, ahead(question, { dt: 0.001 }).summary];
      expect(Math.abs(coarse.lowest - fine.lowest)).toBeLessThan(0.02);
      expect(Math.abs(coarse.highest - fine.highest)).toBeLessThan(0.02);
      expect(Math.abs((coarse.settled ?? 0) - (fine.settled ?? 1))).toBeLessThan(0.1);
    }
  });
});
