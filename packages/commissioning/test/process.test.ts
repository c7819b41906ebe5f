import type { DriveSettings } from '@yare/books';
import {
  percentOf,
  processStage,
  readingOf,
  sensorOf,
  sensorPercent,
  stageFindings,
  straightenChanges,
  straightIn,
  usesProcess,
  type Checked,
} from '../src';
import { loopAnswer, stepRefusals, swingText, verdictOf, whyRecommended } from '../src/process/words';
import { gaugeCheck, gaugeText, readPairs, rangeThatLacks, type AtGauge } from '../src/process/steady';
import { guessChoice, loopRecordOf, readRecordingCsv } from '../src/process/recordingCsv';
import {
  AnalogueSignal,
  estimateMachine,
  InputJob,
  present,
  type MachineSpec,
  type ProcessSensor,
  type SettingRole,
  type Straight,
} from '@yare/core';
import { loopAhead, proposePid, stepTest, type LoopQuestion, type Swinging } from '@yare/core/loop';
import { demoDraft, demoMachine } from '@yare/demo-plant';

const checked = (tag: string, change: Partial<Checked> = {}, values: Record<string, number> = {}): Checked => {
  const m = demoMachine(tag);
  return { settings: demoDraft(m, values), plate: m.plate, supply: m.supply, driven: m.driven, ...change };
};
const machineSpec = (tag: string): MachineSpec => {
  const m = demoMachine(tag);
  const d = demoDraft(m);
  const estimate = estimateMachine(m.plate, m.driven, d.parameters(), d.hardware(), m.supply);
  if (!estimate.ok) throw new Error(estimate.sentence);
  return estimate.spec;
};
const found = (c: Checked) => stageFindings(c).filter((f) => f.stage === 'process');
const code = (tag: string, role: Parameters<ReturnType<typeof demoDraft>['need']>[0]) => demoDraft(demoMachine(tag)).need(role).code;

describe('a reading', () => {
  // common practice: 40 % of a 0–15 psi sensor is 6 psi, and 10.4 mA of 4 to 20
  test('is said every way at once', () => {
    const psi: ProcessSensor = { measures: 'pressure', low: 0, high: 15, unit: 'psi' };
    const r = readingOf(psi, AnalogueSignal.liveZero, 40);
    expect(r.figure).toBeCloseTo(6, 9);
    expect([r.signal, r.signalUnit]).toEqual([10.4, 'mA']);
    expect(percentOf(psi, 6)).toBeCloseTo(40, 9);
    expect(readingOf(psi, AnalogueSignal.volts, 40)).toMatchObject({ signal: 4, signalUnit: 'V' });
    expect(readingOf({ ...psi, low: -5, high: 10 }, AnalogueSignal.zeroTo20, 0)).toMatchObject({ signal: 0, figure: -5 });
  });
});

describe('what does not fit a process', () => {
  test('P-11 as shipped holds its pressure', () => {
    expect(usesProcess(checked('P-11'))).toBe(true);
    expect(found(checked('P-11')).filter((f) => f.severity === 'error')).toEqual([]);
  });
  test('an action the wrong way round is turned by one touch', () => {
    const [f] = found(checked('P-11', {}, { [code('P-11', 'processAction')]: 1 }));
    expect(f).toMatchObject({ id: 'wrong action', severity: 'error', remedy: { changes: [{ code: code('P-11', 'processAction'), value: 0 }] } });
    const level = checked('P-41', {}, { [code('P-41', 'processAction')]: 0 });
    expect(sensorOf(level.driven)?.measures).toBe('level');
    expect(usesProcess(level)).toBe(true);
    expect(found(level).map((x) => x.id)).toContain('wrong action');
  });
  test('a set point the machine never makes, and one at the end of the range', () => {
    const at = (share: number) => found(checked('P-11', {}, { [code('P-11', 'setpoint')]: share })).map((f) => f.id);
    expect(at(99)).toEqual(['never reached']);
    expect(at(2)).toEqual(['at the end of the range']);
  });
  test('no sensor on the record, and a wire whose break is ignored', () => {
    const p = demoMachine('P-11');
    if (p.driven.kind !== 'pump') throw new Error('P-11 pumps');
    expect(found(checked('P-11', { driven: { ...p.driven, sensor: null } })).map((f) => f.id)).toEqual(['no sensor']);
    expect(found(checked('P-11', {}, { [code('P-11', 'liveZeroLoss')]: 0 })).map((f) => f.id)).toContain('broken wire ignored');
  });
  test('is not looked for where the speed comes from elsewhere', () => {
    expect(usesProcess(checked('C-07'))).toBe(false);
    expect(found(checked('C-07'))).toEqual([]);
    expect(processStage.proofs?.map((p) => p.id)).toEqual(['holds', 'sensor']);
  });
});

test('what is held outside the speeds that were noted is told, with how far they reach', () => {
  const points = [20, 30, 40, 50].map((output) => ({ output, feedback: output - 10 }));
  expect(rangeThatLacks(points, 42)).toEqual({ low: 10, high: 40 });
  expect(rangeThatLacks(points, 35)).toBeNull();
  expect(rangeThatLacks([], 42)).toBeNull();
});

describe('a straightened feedback', () => {
  const line = { gain: 1.18, offset: 33.5 };
  const taken = (settings: DriveSettings, to: Straight | null): DriveSettings =>
    settings.with({ ...settings.values, ...Object.fromEntries(straightenChanges(settings, to).map((c) => [c.code, c.value])) });
  const raw = (d: DriveSettings, role: 'setpoint' | 'secondSetpoint') => sensorPercent(straightIn(d), 100 * (d.role(role) ?? NaN));

  test.each(['P-11', 'F-32', 'P-41'])(
    '%s: gain, offset and enable go in, what it holds and how firmly stay, and all of it comes out again',
    (tag) => {
      const before = demoDraft(demoMachine(tag));
      const after = taken(before, line);
      expect(straightIn(after)).toEqual({ gain: expect.closeTo(1.18, 6), offset: expect.closeTo(33.5, 6) });
      for (const role of ['setpoint', 'secondSetpoint'] as const) expect(Math.abs(raw(after, role) - raw(before, role))).toBeLessThan(0.06);
      const firm = (d: DriveSettings) => (d.role('proportionalGain') ?? NaN) * (straightIn(d)?.gain ?? 1);
      expect(firm(after) / firm(before)).toBeCloseTo(1, 1);
      const out = taken(after, null);
      expect(straightIn(out)).toBeNull();
      expect(Math.abs(raw(out, 'setpoint') - raw(before, 'setpoint'))).toBeLessThan(0.11);
      expect(firm(out) / firm(before)).toBeCloseTo(1, 1);
    },
  );
  test('a family without a loop has nothing to straighten', () => {
    expect(straightenChanges(demoDraft(demoMachine('M-55')), line)).toEqual([]);
  });
  test('gain and offset without their enable are told, with a way out that says the set point anew', () => {
    const off = checked('P-11', {}, { [code('P-11', 'feedbackGain')]: 1.18, [code('P-11', 'feedbackOffset')]: 33.5 });
    const f = present(found(off).find((x) => x.id === 'straightening not in use'));
    expect(f.severity).toBe('warning');
    expect(present(f.remedy?.changes).map((c) => c.code)).toEqual(
      expect.arrayContaining([code('P-11', 'straightening'), code('P-11', 'setpoint'), code('P-11', 'proportionalGain')]),
    );
  });
  test('a set point said in the old scale is told', () => {
    const forgot = { feedbackGain: 1.18, feedbackOffset: 33.5, straightening: 1 } as const;
    const values = Object.fromEntries(Object.entries(forgot).map(([role, v]) => [code('P-11', role as 'feedbackGain'), v]));
    expect(found(checked('P-11', {}, { ...values, [code('P-11', 'setpoint')]: 20 })).map((f) => f.id)).toContain('outside the sensor');
  });
});

describe('set points and ends', () => {
  test('ends that cross, a set point beyond them, and a second one that is the first', () => {
    const ids = (values: Partial<Record<SettingRole, number>>) =>
      found(checked('P-11', {}, Object.fromEntries(Object.entries(values).map(([r, v]) => [code('P-11', r as SettingRole), v ?? 0])))).map(
        (f) => f.id,
      );
    expect(ids({ setpointLow: 60, setpointHigh: 50 })).toContain('set point ends cross');
    expect(ids({ processLow: 90, processHigh: 80 })).toContain('output ends cross');
    expect(ids({ setpointHigh: 30 })).toContain('set point beyond its ends');
    const d = demoDraft(demoMachine('P-11'));
    const input = present(d.inputs.find((s) => d.inRole(s) === InputJob.notUsed));
    const contact = d.valueFor(input, InputJob.secondSetpoint) ?? 0;
    expect(found(checked('P-11', {}, { [input.code]: contact, [code('P-11', 'secondSetpoint')]: 42 })).map((f) => f.id)).toContain(
      'second is the first',
    );
    expect(found(checked('P-11', {}, { [input.code]: contact, [code('P-11', 'secondSetpoint')]: 99 })).map((f) => f.id)).toContain(
      'never reached, second',
    );
  });
});

describe('against a gauge', () => {
  const bar = { measures: 'pressure', low: 0, high: 10, unit: 'bar' } as const;
  const text = (points: AtGauge[]) => {
    const c = present(gaugeCheck(points, bar));
    return { ...c, ...gaugeText(c, bar) };
  };
  test('a sensor that agrees, and points that lie too near to tell', () => {
    expect(gaugeCheck([{ gauge: 1, seen: 10 }], bar)).toBeNull();
    expect(
      text([
        { gauge: 0, seen: 0.4 },
        { gauge: 5, seen: 49 },
      ]),
    ).toMatchObject({ severity: 'good', fits: null });
    expect(
      text([
        { gauge: 4, seen: 40 },
        { gauge: 5, seen: 50 },
      ]).severity,
    ).toBe('warning');
  });
  test('a sensor of another range is recognised, a zero that is off is not taken for one', () => {
    // 16 bar at 100 %: 4 bar are 25 %
    expect(
      text([
        { gauge: 0, seen: 0 },
        { gauge: 4, seen: 25 },
      ]),
    ).toMatchObject({ severity: 'error', fits: { low: 0, high: 16 } });
    expect(
      text([
        { gauge: 0, seen: 5 },
        { gauge: 4, seen: 45 },
      ]),
    ).toMatchObject({ severity: 'error', fits: null, sentence: expect.stringContaining('look at its zero') });
  });
});

describe('a table typed or pasted', () => {
  test.each([
    [
      '25 1.2\n35 2.6',
      [
        [25, 1.2],
        [35, 2.6],
      ],
    ],
    [
      'Hz;bar\n25;1,2\n35;2,6',
      [
        [25, 1.2],
        [35, 2.6],
      ],
    ],
    [
      '25\t1.2\n\n35\t2.6\n',
      [
        [25, 1.2],
        [35, 2.6],
      ],
    ],
    [
      '25, 1.2\n35,2.6',
      [
        [25, 1.2],
        [35, 2.6],
      ],
    ],
  ])('%j', (text, pairs) => {
    expect(readPairs(text)).toEqual({ ok: true, pairs });
  });
  test('what is none is refused with its line', () => {
    expect(readPairs('25 1.2\nthirty 2')).toMatchObject({ ok: false, sentence: expect.stringContaining('Line 2') });
    expect(readPairs('')).toMatchObject({ ok: false });
  });
});

describe('what a loop would do', () => {
  const spec = machineSpec('P-11');
  const bar = { measures: 'pressure', low: 0, high: 10, unit: 'bar' } as const;
  const said = (question: LoopQuestion, values: Record<string, number> = {}) => {
    const process = demoDraft(demoMachine('P-11'), values).controls().process;
    return loopAnswer(spec, question, loopAhead(spec, { question, process, sensor: { measures: 'pressure', low: 0, high: 1e6 } }), bar);
  };
  test('is told in the sensor’s unit, and a loop that swings is an error', () => {
    expect(said('demand')).toMatchObject({ severity: 'good', sentence: expect.stringMatching(/4\.\d bar to 4\.\d bar, back within/) });
    expect(said('demand', { [code('P-11', 'proportionalGain')]: 12, [code('P-11', 'integralTime')]: 0.3 })).toMatchObject({
      severity: 'error',
      sentence: expect.stringContaining('swings between'),
    });
  });
  test('a swing that was seen is told with its figures and its cause', () => {
    const s: Swinging = { period: 3, feedback: 5, output: 8, growth: 1.3, periods: 4, cause: 'too tight', cure: null };
    expect(swingText(s, bar)).toMatch(/±0\.5 bar every 3\.0 s, and grows\. The controller is too firm/);
    expect(swingText({ ...s, growth: 1, cause: 'sticks' }, bar)).toContain('something sticks');
  });
});

/** A step on one lag with dead time, as lines of figures. */
const samples = Array.from({ length: 400 }, (_, i) => {
  const t = i / 10;
  return { t, u: t < 8 ? 30 : 35, y: 3 + (t < 9 ? 0 : 0.8 * (1 - Math.exp(-(t - 9) / 4))) };
});
const of = { top: 50, sensor: { measures: 'pressure', low: 0, high: 10, unit: 'bar' } as const, signal: AnalogueSignal.liveZero };
const fitted = (text: string) => {
  const table = readRecordingCsv(text);
  if (!table.ok) throw new Error(table.sentence);
  const read = loopRecordOf(table.columns, guessChoice(table.columns), of);
  if (!read.ok) throw new Error(read.sentence);
  const test = stepTest(read.record);
  if (!test.ok) throw new Error(test.why);
  return { table, test };
};

describe('a recording of any layout', () => {
  const comma = (x: number) => x.toFixed(3).replace('.', ',');
  const clock = (t: number) => `14:${String(2 + Math.floor(t / 60)).padStart(2, '0')}:${(t % 60).toFixed(1).padStart(4, '0')}`;
  test.each([
    ['commas, points, seconds', ['Time,Output Hz,Pressure bar', ...samples.map((s) => [s.t, s.u, s.y.toFixed(4)].join(','))].join('\n')],
    [
      'semicolons, decimal commas, words before, a blank line, times of day',
      [
        'Recorder 7;;',
        'made by nobody;;',
        '',
        'Zeit;Frequenz Hz;Druck bar',
        ...samples.map((s) => [clock(s.t), comma(s.u), comma(s.y)].join(';')),
      ].join('\r\n'),
    ],
    [
      'tabs, milliseconds, columns the other way round',
      ['p bar\tfreq Hz\tt ms', ...samples.map((s) => [s.y.toFixed(4), s.u, s.t * 1000].join('\t'))].join('\n'),
    ],
  ])('%s', (_, text) => {
    const { test } = fitted(text);
    // 5 Hz are 10 %, 0.8 bar are 8 %
    expect(test.best.model.gain).toBeCloseTo(0.8, 2);
    expect(test.best.model.lags[0]).toBeCloseTo(4, 0);
    expect(test.best.model.deadTime).toBeCloseTo(1, 0);
  });

  test('without any words the columns are told by how they go, and their units by hand', () => {
    const table = readRecordingCsv(samples.map((s) => [s.t.toFixed(1), s.u, s.y.toFixed(4)].join('|')).join('\n'));
    if (!table.ok) throw new Error(table.sentence);
    const read = loopRecordOf(table.columns, { ...guessChoice(table.columns), outputUnit: 'Hz' }, of);
    expect(read.ok && stepTest(read.record)).toMatchObject({ ok: true, best: { model: { gain: expect.closeTo(0.8, 1) } } });
  });

  test('a column in mA is scaled by the terminal', () => {
    const text = ['t;hz;PV mA', ...samples.map((s) => [comma(s.t), comma(s.u), comma(4 + 1.6 * s.y)].join(';'))].join('\n');
    expect(fitted(text).test.baseline).toBeCloseTo(30, 1);
  });

  test('what is no recording is told, and nothing is guessed from it', () => {
    expect(readRecordingCsv('one line')).toMatchObject({ ok: false, sentence: expect.stringContaining('too few') });
    expect(readRecordingCsv(Array.from({ length: 50 }, () => 'words, only, words').join('\n'))).toMatchObject({ ok: false });
    const table = readRecordingCsv(['t,hz,bar', ...samples.map((s, i) => [i === 200 ? 1 : s.t, s.u, s.y].join(','))].join('\n'));
    if (!table.ok) throw new Error(table.sentence);
    const choice = { time: 0, timeUnit: 's', output: 1, outputUnit: 'Hz', feedback: 2, feedbackUnit: 'sensor' } as const;
    expect(loopRecordOf(table.columns, choice, of)).toMatchObject({ ok: false, sentence: expect.stringContaining('goes back') });
    expect(loopRecordOf(table.columns, { ...choice, feedback: 1 }, of)).toMatchObject({
      ok: false,
      sentence: expect.stringContaining('of their own'),
    });
    expect(Object.values(stepRefusals).every((s) => s.endsWith('.'))).toBe(true);
  });

  test('a time that goes through midnight goes on', () => {
    const text = [
      't;hz;bar',
      ...samples.map((s, i) =>
        [i < 100 ? `23:59:${(50 + i / 10).toFixed(1)}` : `00:00:${((i - 100) / 10).toFixed(1).padStart(4, '0')}`, s.u, s.y.toFixed(4)].join(';'),
      ),
    ].join('\n');
    const table = readRecordingCsv(text);
    if (!table.ok) throw new Error(table.sentence);
    expect(present(table.columns[0]).values.at(-1)).toBeCloseTo(39.9, 3);
  });
});

test('the recommended values are told with their figures, and one that swings is not called good', () => {
  const { proposals, recommended } = proposePid({ kind: 'settling', gain: 1.2, lags: [4, 0], deadTime: 1 });
  const best = present(proposals.find((p) => p.rule === recommended));
  expect(whyRecommended(best)).toMatch(/settles in \d+(\.\d)? s.*Ms 1\.\d\d/);
  expect(verdictOf(best).severity).toBe('good');
  const wild = present(proposals.find((p) => p.rule === 'ziegler-nichols PI'));
  expect(wild.worst.sensitivity).toBeGreaterThan(2);
  expect(verdictOf(wild).severity).toBe('error');
});
