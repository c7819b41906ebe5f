import { TextDecoder } from 'node:util';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { recordingFrom } from '@yare/commissioning/recording';
import { present, type DriveRecord, type LearnResult, type MachineSpec } from '@yare/core';
import type { Arming, RecorderStatus, RecordingData, RecordingImport, RecordingMeta, TripNew } from '@yare/contract';
import { router } from 'expo-router';
import { useArmings } from '../src/data/recorder';
import { RecordingScreen } from '../src/features/recordings/RecordingScreen';
import { RecordingsScreen } from '../src/features/recordings/RecordingsScreen';
import type { ChartProps } from '../src/ui/chart/pane';
import { fileContents, packedRecording, type Contents } from '../src/workers/readRecording';
import { freshServer, open, row, settled, standsAs, touch, touchText, type as typeFigure, type FakeServer } from './fakeServer';

const mockRoute: { tag: string; id?: string } = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));
// a chart needs a frame of some width: what it is given is looked at instead
let mockChart: ChartProps | null = null;
jest.mock('../src/ui/chart/Chart', () => ({
  Chart: (props: ChartProps) => {
    mockChart = props;
    return null;
  },
}));
// the worker's work, done here
let mockContents: Contents | null = null;
const mockWork = {
  lookInto: async (files: ReadonlyArray<{ name: string; bytes: Uint8Array }>, comma?: boolean) => {
    const { looked, ...rest } = fileContents(files, comma);
    mockContents = rest;
    return looked;
  },
  packed: async (of: Parameters<typeof packedRecording>[1]) => packedRecording(mockContents, of),
};
jest.mock('../src/data/recordingWorker', () => ({ recordingWorker: () => mockWork }));
// what a fit would give, in place of seconds of fitting
let mockFit: LearnResult;
let mockFittedTo = 0;
jest.mock('../src/data/lookAhead', () => ({
  ...jest.requireActual<typeof import('../src/data/lookAhead')>('../src/data/lookAhead'),
  learnInWorker: async (_: MachineSpec, records: readonly DriveRecord[]) => {
    mockFittedTo = records.length;
    return mockFit;
  },
}));

// every browser has it, this DOM does not
Object.assign(globalThis, { TextDecoder });

let server: FakeServer;
let status: RecorderStatus;
const text = () => present(document.body.textContent);
/** A touch on a row, once it is there. */
const tapRow = async (id: string) => touch(await screen.findByTestId(id));
const choice = (name: string | RegExp) => touch(screen.getByRole('radio', { name }));
const chart = () => present(mockChart);

/** A run of 20 s: it stands until `from`, then is up at 40 Hz, until it stops at 15 s. */
const run = (id: number, from: number): RecordingData => {
  const time = Array.from({ length: 201 }, (_, i) => i / 10);
  const meta: RecordingMeta = {
    ...{
      id,
      tag: 'P-11',
      kind: 'run',
      title: `Run ${id}`,
      author: 'Ines Calder',
      startedAt: '2026-01-02T03:04:00Z',
      duration: 20,
      samples: 201,
      complete: true,
    },
    channels: [
      { key: 'outputFrequency', name: 'Output', unit: 'Hz', decimals: 1 },
      { key: 'busVoltage', name: 'DC bus', unit: 'V', decimals: 0 },
    ],
    marks: [{ time: from, label: 'Start' }],
  };
  const turning = (t: number) => t >= from && t < 15;
  return { meta, time, data: { outputFrequency: time.map((t) => (turning(t) ? 40 : 0)), busVoltage: time.map((t) => (turning(t) ? 530 : 560)) } };
};
const runs = [run(4, 5), run(3, 8)];

beforeEach(() => {
  mockRoute.tag = 'P-11';
  mockRoute.id = '4';
  mockChart = null;
  act(() => useArmings.setState({ 'P-11': undefined }));
  server = freshServer();
  standsAs(server, 'P-11', {});
  status = { armed: null, lastId: null, ended: null };
  server.special.unshift(({ method, path, body }) => {
    const ok = (b: unknown) => ({ status: 200, body: b });
    const found = runs.find((r) => path === `/recordings/${r.meta.id}`);
    if (found) return ok(found);
    if (path === '/machines/P-11/recorder/end') status = { armed: null, lastId: 9, ended: null };
    else if (path === '/machines/P-11/recorder' && method === 'POST')
      status = {
        armed: { arming: body.arming as Arming, author: 'Ines Calder', at: '2026-01-02T03:04:05Z', triggeredAt: null, held: 4, pace: 21, made: 0 },
        ...{ lastId: null, ended: null },
      };
    if (path.startsWith('/machines/P-11/recorder')) return ok(status);
    if (path === '/machines/P-11/recordings' && method === 'GET') return ok({ recordings: runs.map((r) => r.meta), next: null });
    if (path === '/machines/P-11/recordings') return ok({ ...present(runs[0]).meta, id: 12 });
    if (path === '/machines/P-11/trips') return ok({ entry: { id: 5 } });
    return undefined;
  });
  (router.navigate as jest.Mock).mockClear();
});

describe('the model fitted to a run', () => {
  const fitted = (spread: number): LearnResult => ({
    ok: true,
    learned: { inertia: { times: 1, spread } },
    inertia: { measured: true, value: 0.05, spread: 0.05 * spread },
    left: { current: 0.2, busVoltage: 1.5, torque: 1.6, process: 0 },
  });
  /** Run 4 with a current, which a fit needs. */
  const charted = () => {
    const of = present(runs[0]);
    const channels = [...of.meta.channels, { key: 'motorCurrent', name: 'Motor', unit: 'A', decimals: 1 }];
    const recording = { ...of, meta: { ...of.meta, channels }, data: { ...of.data, motorCurrent: of.time.map(() => 5) } };
    server.special.unshift(({ method, path }) => {
      if (path === '/recordings/4') return { status: 200, body: recording };
      return method === 'PUT' && path === '/machines/P-11/learned' ? { status: 200, body: {} } : undefined;
    });
  };
  const keeps = async () => {
    charted();
    await open(<RecordingScreen />);
    await tapRow('learn');
    await screen.findByTestId('learned-inertia');
    const told = text();
    await touchText('Use the fitted model');
    await settled();
    expect(text()).toContain('Kept: every look-ahead');
    return told;
  };

  test('one that tells the inertia well says its ± and asks for no other', async () => {
    mockFit = fitted(0.03);
    expect(await keeps()).toContain('± 0.0029 kg·m²');
    expect(text()).not.toContain('This run tells the inertia');
    expect(screen.queryByText('Go to Motion')).toBeNull();
  });

  test('one that tells little of it says what to run next, and goes there', async () => {
    mockFit = fitted(0.07);
    expect(await keeps()).toContain('This run tells the inertia to ±\u00a014\u00a0% only.');
    await touchText('Go to Motion');
    expect(router.navigate).toHaveBeenCalledWith('/m/P-11/motion');
  });

  const inUse = (recordingId: number) => {
    const { machine } = server.of('P-11');
    const values = { inertia: { times: 1, spread: 0.07 } };
    machine.learned = { revision: 1, values, recordingId, alsoRecordingId: null, author: 'Ines Calder', at: '2026-01-02T03:04:00Z' };
  };
  const kept = () => server.bodies('PUT', '/machines/P-11/learned')[0];

  test('a second run is fitted together with the one the model in use came from, and both are named', async () => {
    inUse(3);
    mockFit = fitted(0.05);
    const told = await keeps();
    expect(told).toContain('Both runs together tell the inertia to ±\u00a010\u00a0% only.');
    expect(told).toContain('recordings 3 and 4:');
    expect(mockFittedTo).toBe(2);
    expect(kept()).toMatchObject({ recordingId: 4, alsoRecordingId: 3 });
  });

  test('what does not fit both can be fitted to this run alone', async () => {
    inUse(3);
    mockFit = { ok: false, sentence: 'Model and recording stay 4.0 A and 31 % torque apart.' };
    charted();
    await open(<RecordingScreen />);
    expect(text()).toContain('from this run and recording 3 together');
    await tapRow('learn');
    expect(await screen.findByText(/stay 4.0 A/)).toBeTruthy();
    mockFit = fitted(0.03);
    await tapRow('learn-alone');
    await screen.findByTestId('learned-inertia');
    expect(mockFittedTo).toBe(1);
  });

  /** The rated speed, written at an instant. */
  const speedWritten = (at: string) => {
    const { sheets } = server.of('P-11');
    const inDrive = present(sheets.inDrive);
    sheets.inDrive = { ...inDrive, values: { ...inDrive.values, '1e': { ...present(inDrive.values['1e']), value: 2925, at } } };
  };

  test('a run from before the drive was told another motor is said to be, and not fitted together with one after it', async () => {
    inUse(3);
    mockFit = fitted(0.03);
    mockFittedTo = 0;
    speedWritten('2026-01-02T03:00:00Z');
    charted();
    const before = { ...present(runs[1]), meta: { ...present(runs[1]).meta, startedAt: '2026-01-02T02:00:00Z' } };
    server.special.unshift(({ path }) => (path === '/recordings/3' ? { status: 200, body: before } : undefined));
    await open(<RecordingScreen />);
    expect(text()).not.toContain('changed in the drive');
    await tapRow('learn');
    expect(
      await screen.findByText('Recording 3 was made before Rated speed changed in the drive, so it does not fit together with this run.'),
    ).toBeTruthy();
    expect(mockFittedTo).toBe(0);
  });

  test('a run older than what the drive holds now says so before it is fitted', async () => {
    inUse(3);
    speedWritten('2026-01-02T05:00:00Z');
    charted();
    await open(<RecordingScreen />);
    expect(text()).toContain('Rated speed changed in the drive after this run.');
    expect(text()).not.toContain('recording 3 together');
  });

  test('an earlier run that cannot be fetched is told, and this one can be fitted alone', async () => {
    inUse(77);
    charted();
    await open(<RecordingScreen />);
    await tapRow('learn');
    expect(await screen.findByText(/^The fit to both failed: /, {}, { timeout: 10_000 })).toBeTruthy();
    expect(screen.getByTestId('learn-alone')).toBeTruthy();
  });
});

describe('the recorder', () => {
  test('is armed with what was set, says what it waits for, and is disarmed', async () => {
    await open(<RecordingsScreen />);
    expect(text()).toContain('not armed');
    await tapRow('recorder');
    await tapRow('trigger-kind');
    await choice(/A figure goes through a level/);
    await tapRow('trigger-channel');
    await choice(/^Motor, A$/);
    await typeFigure('trigger-level', '12.5');
    await choice('downwards');
    await typeFigure('recorder-before', '30');
    await tapRow('recorder-arm');
    expect(server.bodies('POST', '/machines/P-11/recorder')[0]?.arming).toEqual({
      trigger: { kind: 'edge', channel: 'motorCurrent', way: 'falling', value: 12.5 },
      channels: ['outputFrequency', 'motorCurrent', 'busVoltage', 'torque', 'power', 'motorHeat', 'feedback'],
      ...{ before: 30, after: 10, every: 20, again: false },
    });
    expect(text()).toContain('Recording begins when Motor falls through 12.5\u00a0A.');
    expect(row('recorder-pace').textContent).toContain('21');
    await tapRow('recorder-end');
    expect(text()).toContain('not armed');
  });

  test('what is set is kept until it is armed; at least one figure is recorded', async () => {
    act(() =>
      useArmings.setState({
        'P-11': { trigger: { kind: 'now' }, channels: ['busVoltage'], before: 5, after: 60, every: 100, again: true },
      }),
    );
    await open(<RecordingsScreen />);
    await tapRow('recorder');
    await tapRow('recorder-channels');
    await tapRow('record-busVoltage');
    expect(row('record-busVoltage').textContent).toContain('recorded');
    await tapRow('record-torque');
    await tapRow('recorder-again');
    expect(row('recorder-arm').textContent).toContain('Record now');
    await tapRow('recorder-arm');
    // there is no before where it begins at once
    expect(server.bodies('POST', '/machines/P-11/recorder')[0]?.arming).toEqual({
      ...{ trigger: { kind: 'now' }, channels: ['busVoltage', 'torque'], before: 0, after: 60, every: 100, again: false },
    });
  });

  test('one that ended by itself says why', async () => {
    status = { armed: null, lastId: 4, ended: 'It has made 50 recordings and stopped by itself.' };
    await open(<RecordingsScreen />);
    expect(text()).toContain('The recorder is no longer armed. It has made 50 recordings');
  });

  test('one whose link answers slowly says so, whoever armed it', async () => {
    status = {
      armed: {
        ...{ author: 'Wen Adair', at: '2026-01-02T03:04:05Z', triggeredAt: '2026-01-02T03:05:05Z', held: 20, pace: 80, made: 3 },
        arming: { trigger: { kind: 'trip' }, channels: ['torque'], before: 20, after: 10, every: 20, again: true },
      },
      ...{ lastId: 4, ended: null },
    };
    await open(<RecordingsScreen />);
    await waitFor(() => expect(text()).toContain('The link does not answer faster.'), { timeout: 20_000 });
    expect(text()).toContain('Armed by Wen Adair');
    await tapRow('recorder-last');
    expect(router.navigate).toHaveBeenCalledWith('/m/P-11/recordings/4');
  });
});

describe('a file of another instrument', () => {
  const file = (name: string, content: string): File =>
    ({ name, arrayBuffer: async () => Uint8Array.from(Buffer.from(content)).buffer }) as unknown as File;
  const choose = async (...files: File[]) => {
    fireEvent.change(row('recording-file'), { target: { files } });
    await settled();
  };
  const table = ['Time (ms);Bus (V);Hum (dB)', ...Array.from({ length: 30 }, (_, i) => `${i * 50};${560 + i},5;${i}`)].join('\n');

  test('is looked into, put right and taken in', async () => {
    await open(<RecordingsScreen />);
    await choose(file('night shift.csv', table));
    await screen.findByTestId('taken-1');
    expect(row('taken-1').textContent).toContain('DC bus, V');
    expect(row('taken-2').textContent).toContain('Hum, dB');
    await tapRow('taken-2');
    await choice('Leave it out');
    fireEvent.change(row('taken-title'), { target: { value: 'The night it tripped' } });
    await tapRow('take-in');
    await waitFor(() => expect(router.navigate).toHaveBeenCalledWith('/m/P-11/recordings/12'));
    const sent = present(server.bodies('POST', '/machines/P-11/recordings')[0]) as unknown as RecordingImport;
    expect(sent).toMatchObject({ title: 'The night it tripped', startedAt: null, channels: [{ key: 'busVoltage', name: 'Bus', unit: 'V' }] });
    const bytes = (base64: string) => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const packed = new Uint8Array([...bytes(sent.time), ...bytes(present(sent.values[0]))]).buffer;
    const back = recordingFrom({ channels: sent.channels.map((c) => ({ ...c, decimals: 1 })) } as RecordingMeta, packed);
    expect(back.time[2]).toBeCloseTo(0.1, 9);
    expect(back.data.busVoltage?.[2]).toBe(562.5);
  });

  test('whose commas may be either is asked about, and taken in as was said', async () => {
    await open(<RecordingsScreen />);
    await choose(file('meter.csv', ['t (s),Bus (V)', ...Array.from({ length: 30 }, (_, i) => `${i},"562,125"`)].join('\n')));
    await screen.findByText(/“562,125” may be thousands or thousandths/);
    await choice('562.125: a decimal comma');
    await waitFor(() => expect(screen.queryByText(/may be thousands or thousandths/)).toBeNull());
    await tapRow('take-in');
    await waitFor(() => expect(server.bodies('POST', '/machines/P-11/recordings')).toHaveLength(1));
    const { values } = server.bodies('POST', '/machines/P-11/recordings')[0] as unknown as RecordingImport;
    const first = new Float32Array(Uint8Array.from(atob(present(values[0])), (c) => c.charCodeAt(0)).buffer);
    expect(first[0]).toBeCloseTo(562.125, 2);
  });

  test('that cannot be read says why, and nothing is taken in', async () => {
    await open(<RecordingsScreen />);
    await choose(file('relay.cfg', 'x'));
    await screen.findByText(/the samples are in the \.dat file beside it\. Choose both together\./);
    await choose(file('notes.txt', 'one line'));
    await screen.findByText(/too few for a recording/);
    expect(server.bodies('POST', '/machines/P-11/recordings')).toEqual([]);
  });
});

describe('one recording', () => {
  test('figures between two cursors', async () => {
    await open(<RecordingScreen />);
    await screen.findByText('Run 4');
    act(() => {
      chart().onPinned?.(4);
      chart().onCursor?.(6);
    });
    expect(text()).toContain('Between the cursors, 2.00 s');
    // half of it at rest: 560 V until the step at 5 s, 530 V from it on, joined by a line of 0.1 s
    expect(row('between-busVoltage').textContent).toContain('530 to 560');
    expect(row('between-busVoltage').textContent).toContain('544');
    act(() => chart().onPinned?.(null));
    expect(text()).not.toContain('Between the cursors');
  });

  test('another one is laid on it by what happens in both, and moved by hand', async () => {
    await open(<RecordingScreen />);
    await tapRow('over-choose');
    await tapRow('over-3');
    // the same mark stands on the same mark
    await screen.findByText('Start, 5.00 s');
    await screen.findByText('Start, 8.00 s');
    const laid = () => present(chart().panes[0]?.series[1]);
    expect(laid()).toMatchObject({ dashed: true, label: 'No 3' });
    expect(laid().time[80]).toBeCloseTo(5, 6);
    expect(chart().domain).toEqual([-3, 20]);
    await touchText(/^its moment/);
    await choice('Beginning, 0.00 s');
    expect(laid().time[0]).toBeCloseTo(5, 6);
    await typeFigure('over-shift', '1.5');
    expect(laid().time[0]).toBeCloseTo(1.5, 6);
    await tapRow('over-off');
    expect(chart().panes[0]?.series).toHaveLength(1);
  });

  test('is removed with a reason, after what that does was said; one something rests on says so and stays', async () => {
    let refused = true;
    server.special.push(({ method, path }) => {
      if (method !== 'POST' || path !== '/recordings/4/remove') return undefined;
      const detail = 'Recording 4 stays: the case of a trip rests on it.';
      return refused ? { status: 409, body: { type: 'x', title: 'In use', status: 409, detail } } : { status: 200, body: {} };
    });
    await open(<RecordingScreen />);
    await tapRow('remove-recording');
    expect(text()).not.toContain('Remove for good');
    fireEvent.change(row('remove-why'), { target: { value: 'wrong machine' } });
    expect(text()).toContain('Recording 4 and its marks are gone for good.');
    await touchText('Remove for good');
    expect(await screen.findByText(/the case of a trip rests on it/)).toBeTruthy();
    refused = false;
    await touchText('Remove for good');
    expect(server.bodies('POST', '/recordings/4/remove').at(-1)).toEqual({ why: 'wrong machine', author: 'Ines Calder' });
    await waitFor(() => expect(router.navigate).toHaveBeenCalledWith('/m/P-11/recordings'));
  });

  test('a trip seen in it begins a case with what stood at the cursor', async () => {
    await open(<RecordingScreen />);
    await screen.findByTestId('seen-trip');
    act(() => chart().onCursor?.(6));
    await tapRow('seen-trip');
    expect(text()).toContain('at the cursor, 6.00 s');
    await tapRow('seen-11');
    const told = present(server.bodies('POST', '/machines/P-11/trips')[0]) as unknown as TripNew;
    expect(told).toMatchObject({ code: 11, seenIn: { recordingId: 4, at: 6 }, snapshot: { outputFrequency: 40, busVoltage: 530 } });
    expect(router.navigate).toHaveBeenCalledWith('/m/P-11/trip/5');
  });
});
