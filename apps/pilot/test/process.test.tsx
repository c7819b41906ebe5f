import { act, screen } from '@testing-library/react';
import { ProcessScreen } from '../src/features/process/ProcessScreen';
import { notePoints } from '../src/data/loop';
import { stepCsv } from '../src/features/process/StepRun';
import { useEntryStore } from '../src/ui/entryStore';
import { freshServer, open, row, settled, touchRow, touchText, type, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'P-11';
  server = freshServer();
  act(() => useEntryStore.setState({ id: null }));
});
const draft = (code: string) => server.of('P-11').sheets.draft.values[code]?.value;
const alerts = () => screen.queryAllByRole('alert').map((a) => a.textContent);

describe('Process', () => {
  test('the set point is typed in the sensor’s unit, said in % and mA, and kept in % of the range', async () => {
    await open(<ProcessScreen />);
    expect(row('setpoint').textContent).toContain('42.0 % of the range · 10.72 mA');
    await type('setpoint', '3.5');
    await settled();
    expect(row('setpoint').textContent).toContain('35.0 % of the range · 9.60 mA');
    expect(draft('10a')).toBe(35);
    expect(alerts()).toEqual([]);
  });

  test('an action the wrong way round is told and turned by one touch', async () => {
    await open(<ProcessScreen />);
    await touchRow('setting-10d');
    await act(async () => screen.getByRole('radio', { name: /Reverse/ }).click());
    await settled();
    expect(alerts()).toEqual([expect.stringContaining('drives it to full speed')]);
    await touchText('Turn the action round');
    await settled();
    expect(alerts()).toEqual([]);
    expect(draft('10d')).toBe(0);
  });

  test('another unit keeps the figures as they are stamped; what it measures begins anew', async () => {
    await open(<ProcessScreen />);
    await touchRow('sensor-unit');
    await act(async () => screen.getByRole('radio', { name: 'psi' }).click());
    await settled();
    expect(row('sensor-high').textContent).toContain('10psi');
    await touchRow('sensor-measures');
    await act(async () => screen.getByRole('radio', { name: 'Flow' }).click());
    await settled();
    expect(row('sensor-high').textContent).toContain('100m³/h');
  });

  test('a machine whose speed comes from elsewhere says so', async () => {
    mockRoute.tag = 'C-07';
    await open(<ProcessScreen />);
    expect(screen.getByText(/does not come from a process/)).toBeTruthy();
    expect(screen.queryByTestId('setpoint')).toBeNull();
  });

  test('steady points noted at several speeds stand in order, say how steep the process is, and can be left out', async () => {
    act(() =>
      notePoints('P-11', [
        { output: 90, feedback: 60 },
        { output: 60, feedback: 22 },
        { output: 75, feedback: 36 },
      ]),
    );
    await open(<ProcessScreen />);
    expect(row('point-60').textContent).toContain('30.0 Hz');
    expect(row('point-60').textContent).toContain('2.20bar');
    expect(screen.getByText(/1\.7 times as steep at one end/)).toBeTruthy();
    await touchRow('point-60');
    await touchRow('leave-point');
    expect(screen.queryByTestId('point-60')).toBeNull();
    expect(screen.getByText(/at least three speeds/)).toBeTruthy();
    expect(row('note-point').getAttribute('aria-disabled')).toBe('true');
    act(() => notePoints('P-11', []));
  });

  test('before it may turn for a step it has to be confirmed, and what will happen is said', async () => {
    await open(<ProcessScreen />);
    expect(screen.queryByTestId('hold')).toBeNull();
    await touchRow('test-here');
    expect(row('clear').textContent).toContain('will turn at 35.0 Hz while you hold, and step by itself to 40.0 Hz');
    await type('step-by', '30');
    await settled();
    expect(screen.getByText(/does not go from 35\.0 to 65\.0 Hz/)).toBeTruthy();
    expect(row('hold').getAttribute('aria-disabled')).toBe('true');
  });
});

test('of a step test’s recording the rest before, the step and what came after are taken, and the way up and down left out', () => {
  const time = Array.from({ length: 400 }, (_, i) => i / 10);
  const outputFrequency = time.map((t) => (t < 5 ? 7 * t : t < 20 ? 35 : t < 30 ? 40 : Math.max(0, 40 - 8 * (t - 30))));
  const feedback = time.map((t) => (t < 20 ? 30 : 35));
  const csv = stepCsv({ meta: {} as never, time, data: { outputFrequency, feedback } }, [35, 40]) ?? '';
  const lines = csv.split('\n');
  expect(lines[0]).toBe('Time (s);Output (Hz);Feedback (%)');
  const at = (line: string | undefined) => Number(line?.split(';')[0]);
  expect(at(lines[1])).toBeCloseTo(12.9, 1);
  expect(at(lines.at(-1))).toBeCloseTo(30, 0);
  expect(stepCsv({ meta: {} as never, time, data: { outputFrequency: time.map(() => 0), feedback } }, [35, 40])).toBeNull();
});

test('a drive that looked for a turning shaft first, and a level that went there and back, are cut the same way', () => {
  const time = Array.from({ length: 900 }, (_, i) => i / 10);
  const outputFrequency = time.map((t) =>
    t < 1 ? 50 - 50 * t : t < 20 ? Math.min(35, 7 * (t - 1)) : t < 45 ? 43 : t < 80 ? 27 : Math.max(0, 27 - 5 * (t - 80)),
  );
  const feedback = time.map((t) => 50 + t / 100);
  const lines = (stepCsv({ meta: {} as never, time, data: { outputFrequency, feedback } }, [35, 43, 27]) ?? '').split('\n').slice(1);
  const at = (line: string | undefined) => Number(line?.split(';')[0]);
  expect(at(lines[0])).toBeCloseTo(9.9, 1);
  expect(at(lines.at(-1))).toBeCloseTo(80, 0);
  const speeds = lines.map((l) => Number(l.split(';')[1]));
  expect(speeds.filter((f) => ![35, 43, 27].some((hertz) => Math.abs(f - hertz) <= 0.5))).toEqual([]);
});
