import { percentOf, processStage, readingOf, sensorOf, stageFindings, usesProcess, type Checked } from '@yare/commissioning';
import { stepRefusals, verdictOf, whyRecommended } from '@yare/commissioning/processWords';
import { guessChoice, loopRecordOf, readRecordingCsv } from '@yare/commissioning/recordingCsv';
import { AnalogueSignal, present, type ProcessSensor } from '@yare/core';
import { proposePid, stepTest } from '@yare/core/loop';
import { demoDraft, demoMachine } from '@yare/demo-plant';

const checked = (tag: string, change: Partial<Checked> = {}, values: Record<string, number> = {}): Checked => {
  const m = demoMachine(tag);
  return { settings: demoDraft(m, values), plate: m.plate, supply: m.supply, driven: m.driven, ...change };
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
    expect(processStage.proofs?.map((p) => p.id)).toEqual(['holds']);
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
