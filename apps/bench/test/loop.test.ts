import { HandSpeed, InputJob, present, SwitchOver, type SettingRole } from '@yare/core';
import { holdsLittleDrawn, lateOf, loopAhead, proposePid, stepTest, swingingOf, type LoopSensor } from '@yare/core/loop';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { estimateOf } from '../accuracy/learningRun';
import { Stage } from '../accuracy/trips/stage';
import { PlantSide } from '../src/panel/plantSide';
import { SimulatedDrive } from '../src/drive/simulatedDrive';

const p11 = demoMachine('P-11');
const settings = demoDraft(p11);
const code = (role: SettingRole) => settings.need(role).code;
const bar10: LoopSensor = { measures: 'pressure', low: 0, high: 1e6 };
/** a stop that does not trip it */
const gentle = { [code('decelerationTime')]: 10 };

/** P-11 on the bench with some settings of its own, in automatic until its pressure stands. */
function held(change: Record<string, number> = {}, seed = 11, rewired = false): { d: SimulatedDrive; side: PlantSide; pressure: () => number } {
  const d = new SimulatedDrive({ ...p11, asFound: { ...p11.asFound, ...gentle, ...change } }, seed, undefined, () => undefined);
  // the panel is wired for the jobs the inputs have
  if (rewired) d.buildPanel();
  const side = new PlantSide(d);
  d.advance(300);
  side.act({ panel: { mode: 2 } }, 0);
  d.advance(50_000);
  return { d, side, pressure: () => d.machine.loadState.pressure / 1e5 };
}

/** Lowest and highest pressure in bar of some seconds, and the record of the loop in them. */
function watch(d: SimulatedDrive, seconds: number) {
  const record = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  let [low, high] = [Infinity, -Infinity];
  for (let t = 0; t < seconds; t += 0.1) {
    d.advance(100);
    const bar = d.machine.loadState.pressure / 1e5;
    [low, high] = [Math.min(low, bar), Math.max(high, bar)];
    record.time.push(t);
    record.output.push((100 * d.machine.frequency) / 50);
    record.feedback.push(d.controls.feedback);
  }
  return { low, high, record };
}

// the bench shares no equation of motor, load or sensor with the look-ahead: another wheel, other losses, a lag of its own
test.each([3, 11, 29])('what the look-ahead says of a tap that opens and shuts is what the bench then does (seed %d)', (seed) => {
  const { d, side } = held({}, seed);
  side.act({ handles: { demand: 70 } }, 0);
  d.advance(20_000);
  side.act({ handles: { demand: 98 } }, 0);
  const opened = watch(d, 30);
  side.act({ handles: { demand: 70 } }, 0);
  const shut = watch(d, 30);
  const foreseen = loopAhead(estimateOf(p11, { ...d.values }), {
    question: 'demand',
    process: d.settings.controls().process,
    sensor: bar10,
  }).summary;
  // % of 10 bar are tenths of a bar
  expect(Math.abs(opened.low - foreseen.lowest / 10)).toBeLessThan(0.12);
  expect(Math.abs(shut.high - foreseen.highest / 10)).toBeLessThan(0.12);
  expect(4.2 - opened.low).toBeGreaterThan(0.1);
});

test('a contact chooses the second set point; a ramp takes it there', () => {
  const input = present(settings.inputs.find((s) => settings.inRole(s) === InputJob.notUsed));
  const contact = settings.valueFor(input, InputJob.secondSetpoint) ?? 0;
  const { d, side, pressure } = held(
    { [input.code]: contact, [code('secondSetpoint')]: 30, [code('setpointRamp')]: 60, [code('sleepFrequency')]: 0 },
    11,
    true,
  );
  expect(pressure()).toBeCloseTo(4.2, 1);
  side.act({ panel: { setpoint: 1 } }, 0);
  d.advance(6000);
  // six of sixty seconds for ten bar
  expect(d.controls.process.setpoint).toBeCloseTo(32, 0);
  d.advance(30_000);
  expect(pressure()).toBeCloseTo(3, 1);
});

test('straightened, with the set point said anew, it holds the same pressure; the link tells the feedback as it comes', () => {
  const [gain, offset] = [1.18, 33.5];
  const { d, pressure } = held({
    ...{ [code('straightening')]: 1, [code('feedbackGain')]: gain, [code('feedbackOffset')]: offset, [code('setpoint')]: gain * (42 + offset) },
    [code('proportionalGain')]: 1,
  });
  expect(pressure()).toBeCloseTo(4.2, 1);
  expect(d.controls.feedback).toBeCloseTo(42, 0);
  expect(d.controls.process.setpoint).toBeCloseTo(gain * (42 + offset), 3);
});

test('far too firm, it swings, and the record of it says so', () => {
  const { d, side } = held({ [code('proportionalGain')]: 4, [code('integralTime')]: 0.4 });
  side.act({ handles: { demand: 60 } }, 0);
  d.advance(5000);
  const s = swingingOf(watch(d, 40).record, { gain: 4, integralTime: 0.4, derivativeTime: 0 });
  expect(s?.cause).toBe('too tight');
  const cured = held({ [code('proportionalGain')]: s?.cure?.gain ?? 4, [code('integralTime')]: s?.cure?.integralTime ?? 0.4 });
  cured.side.act({ handles: { demand: 60 } }, 0);
  cured.d.advance(5000);
  expect(swingingOf(watch(cured.d, 40).record)).toBeNull();
});

test('turned from hand to auto at speed it goes on from where it stands, from a higher speed and from a lower one', () => {
  for (const hertz of [30, 48]) {
    const goesOn = settings.valueFor(settings.need('switchOver'), SwitchOver.carriesOn) ?? 0;
    const byKeypad = settings.valueFor(settings.need('handSpeed'), HandSpeed.keypad) ?? 0;
    const { d, side } = held({ [code('keypadSpeed')]: hertz, [code('switchOver')]: goesOn, [code('handSpeed')]: byKeypad });
    side.act({ panel: { mode: 0 } }, 0);
    d.advance(20_000);
    expect(d.machine.ramp).toBeCloseTo(hertz, 1);
    side.act({ panel: { mode: 2 } }, 0);
    d.advance(30);
    // the integral of three scans at most
    expect(Math.abs(d.controls.reference - hertz)).toBeLessThan(0.5);
  }
});

// shut at once the pressure is left standing behind the check valve, and the output goes down for good; with the least leak it is held for ever
test.each([
  [0, true],
  [2, false],
])('a sleep speed under the least that holds the pressure: with %d %% drawn it sleeps: %s', (demand, sleeps) => {
  const s = new Stage('P-11', { decelerationTime: 10, sleepFrequency: 41 }, 11, 20);
  s.act({ panel: { mode: 2 }, handles: { demand: 55 } });
  s.wait(40);
  s.act({ handles: { demand } });
  let slept = false;
  for (let t = 0; t < 200 && !slept; t++) {
    s.wait(1);
    slept = s.d.controls.process.sleep.asleep;
  }
  expect(slept).toBe(sleeps);
});

test.each([
  [41, 'trips'],
  [43.4, 'sleeps'],
])('a start with everything shut and a sleep speed of %d Hz: the bench and the look-ahead both say that it %s', (sleepFrequency, what) => {
  const s = new Stage('P-11', { decelerationTime: 10, sleepFrequency }, 11, 20);
  s.act({ handles: { demand: 0 } });
  s.wait(5);
  s.auto();
  for (let t = 0; t < 150 && s.tripped === null && !s.d.controls.process.sleep.asleep; t++) s.wait(1);
  expect(s.tripped ?? (s.d.controls.process.sleep.asleep ? 'sleeps' : null)).toBe(what === 'trips' ? 'noFlow' : 'sleeps');
  const { process, guards } = s.d.settings.controls();
  const { trip, asleep } = loopAhead(estimateOf(p11, { ...s.d.values }), {
    ...{ question: 'shut valve', process, sensor: bar10, dryFor: guards.guards.noFlow.delay },
  }).summary;
  expect(trip?.cause ?? (asleep === null ? null : 'sleeps')).toBe(what === 'trips' ? 'noFlow' : 'sleeps');
});

// the bench has another curve close to no flow than the look-ahead, a check valve and water of its own: what was tuned where much is drawn slammed it shut
test.each([
  [90, 10],
  [90, 20],
  [55, 20],
])('values from a step at %d %% of the taps and a ramp of %d s hold where a sixth of them is open', (taps, ramp) => {
  const ramps = { accelerationTime: ramp, decelerationTime: ramp, sleepFrequency: 0 };
  const stepped = new Stage('P-11', ramps, 11, 20);
  const record = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
  const lead = (hertz: number, seconds: number) => {
    stepped.lead(hertz);
    for (let t = 0; t < seconds; t += 0.1) {
      stepped.wait(0.1);
      record.time.push(record.time.length * 0.1);
      record.output.push((100 * stepped.d.machine.frequency) / 50);
      record.feedback.push(stepped.d.controls.feedback);
    }
  };
  stepped.act({ handles: { demand: taps } });
  stepped.lead(43 + taps / 60);
  stepped.wait(40);
  lead(43 + taps / 60, 8);
  lead(46 + taps / 60, 30);
  const test = stepTest(record);
  if (!test.ok) throw new Error(test.why);
  const spec = estimateOf(p11, { ...stepped.d.values });
  const plan = { process: stepped.d.settings.controls().process, sensor: bar10, measured: lateOf(test.likely) };
  const moves = (asked: Parameters<typeof proposePid>[1]) => {
    const { proposals, recommended } = proposePid(test.likely, { grain: Math.max(test.step, 2 * test.noise), ...asked });
    const { gain, integralTime, derivativeTime } = present(proposals.find((p) => p.rule === recommended)).gains;
    const there = new Stage('P-11', { ...ramps, proportionalGain: gain, integralTime, derivativeTime }, 11, 20);
    there.auto();
    there.wait(50);
    there.act({ handles: { demand: 16 } });
    there.wait(40);
    const { record } = watch(there.d, 40);
    return Math.max(...record.output) - Math.min(...record.output);
  };
  expect(moves({ ramp: 100 / ramp, holds: (g) => holdsLittleDrawn(spec, plan, g) })).toBeLessThan(0.6);
  expect(moves({})).toBeGreaterThan(1.2);
});
