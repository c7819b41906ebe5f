import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { present, shortestStop, stopFrom, type MachineSpec } from '@yare/core';
import { diagnose, type TripCase } from '@yare/core/trips';
import type { LiveSample, TripDetail } from '@yare/contract';
import { router } from 'expo-router';
import { queryClient } from '../src/data/client';
import { dropCase } from '../src/data/caseNotes';
import { live } from '../src/data/live';
import { Drill } from '../src/features/bench/Drill';
import { CaseScreen, TripScreen } from '../src/features/trip/TripScreen';
import { TripHistoryScreen } from '../src/features/trip/TripHistoryScreen';
import { freshServer, open, row, settled, standsAs, touchRow, touchText, type FakeServer } from './fakeServer';
import { detail, entry, snapshot } from './tripFixture';
import { FakeSocket, liveSample, socketNow } from './fakeSocket';

const mockRoute: { tag: string; id?: string } = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));
// the worker's work, done here
const mockWork = {
  diagnose: async (c: TripCase) => diagnose(c),
  shortest: async (spec: MachineSpec, from: number) => shortestStop(spec, from),
  stop: async (spec: MachineSpec, from: number) => stopFrom(spec, from, 60),
};
jest.mock('../src/data/tripsWorker', () => ({ tripsWorker: () => mockWork }));

let server: FakeServer;
let now: TripDetail;
beforeAll(() => {
  Object.assign(globalThis, { WebSocket: FakeSocket });
  live.subscribe(() => undefined);
  socketNow().onopen?.();
});
beforeEach(() => {
  mockRoute.tag = 'P-11';
  mockRoute.id = '7';
  server = freshServer();
  now = detail();
  act(() => dropCase(7));
  standsAs(server, 'P-11', {});
  server.special.unshift(({ method, path, body }) => {
    const ok = (b: unknown) => ({ status: 200, body: b });
    if (method === 'GET' && path.startsWith('/trips?')) return ok({ trips: [now.entry] });
    if (method === 'GET' && path === '/trips')
      return ok({
        trips: [
          now.entry,
          entry({ id: 3, tag: 'F-32', closed: { cause: 'jam', cure: 'Stone out', proof: 'ran', author: 'Bo', at: '2026-01-01T00:00:00Z' } }),
        ],
      });
    if (path === '/trips/7' || path === '/machines/P-11/trips') return ok(now);
    if (path === '/trips/7/answers') {
      const answers = Object.entries({ ...now.answers, ...(body.answers as object) }).filter(([, a]) => a !== null);
      now = { ...now, answers: Object.fromEntries(answers) as Record<string, string> };
      return ok(now);
    }
    if (path === '/trips/7/close') {
      now = {
        ...now,
        entry: {
          ...now.entry,
          closed: {
            cause: String(body.cause),
            cure: String(body.cure),
            proof: String(body.proof),
            author: 'Ines Calder',
            at: '2026-01-03T00:00:00Z',
          },
        },
      };
      return ok(now);
    }
    if (path === '/machines/P-11/trip')
      return ok({
        code: 11,
        name: 'Bus overvoltage',
        sentence: 'The DC bus rose.',
        seenAt: null,
        live: liveSample('P-11', Date.now(), {}),
        caseId: 7,
      });
    return undefined;
  });
});
afterEach(() => live.samples.clear());

let at = Date.now();
const says = async (change: Partial<LiveSample>, ms = 1000): Promise<void> => {
  at += ms;
  await act(async () => socketNow().hear({ kind: 'live', samples: [liveSample('P-11', at, change)] }));
};
/** The page is left, and what it had fetched is forgotten. */
const putAway = (): void => {
  cleanup();
  queryClient.clear();
};
const text = (): string => document.body.textContent ?? '';

describe('a case', () => {
  test('what happened, the likeliest cause with its figures, the story before', async () => {
    await open(<CaseScreen />);
    await settled();
    expect(text()).toContain('Bus overvoltage at 39.2 Hz, 16.6 A, 815 V on the bus, 40 s after its start.');
    expect(row('cause-first').textContent).toContain('The stop is too short');
    expect(text()).toContain('Torque −64 %: braking');
    expect(text()).toContain('1 setting written to the drive');
    expect(text()).toContain('2 times');
  });

  test('an answer is given in place, goes to the server and can be taken back', async () => {
    now = detail({ snapshot: { ...snapshot, torque: null } });
    await open(<CaseScreen />);
    await settled();
    const asked = row('next-measurement').textContent ?? '';
    expect(asked).toMatch(/min/);
    const [first] = screen.getAllByRole('radio');
    await act(async () => fireEvent.click(present(first)));
    await settled();
    const [given] = server.bodies('POST', '/trips/7/answers');
    const [id] = Object.keys(given?.answers as object);
    await touchRow(`given-${id}`);
    await settled();
    expect(server.bodies('POST', '/trips/7/answers')[1]?.answers).toEqual({ [present(id)]: null });
  });

  test('the cure goes into the draft with its look-ahead, and what was done is noted', async () => {
    standsAs(server, 'P-11', { '3b': 0.3 });
    await open(<CaseScreen />);
    await settled();
    await settled();
    expect(text()).toMatch(
      /Deceleration time [\d.]+ s\..*Stopping from 50 Hz the bus then peaks at about \d+ V, at worst \d+ V \(estimated\); it trips at 800 V/,
    );
    await touchText('Take it into the draft');
    await settled();
    expect(Number(server.of('P-11').sheets.draft.values['3b']?.value)).toBeGreaterThan(0.4);
    expect((screen.getByTestId('close-cure') as HTMLInputElement).value).toMatch(/^Deceleration time/);
  });

  test('a run seen without the trip is the proof; then it closes, and says so', async () => {
    await open(<CaseScreen />);
    await settled();
    await says({ state: 'ready' });
    await says({ state: 'running', outputFrequency: 45, busVoltage: 540, motorCurrent: 12 });
    expect(text()).toContain('Seen: it ran for 0 s up to 45.0 Hz');
    await says({ state: 'stopping', outputFrequency: 20, busVoltage: 640, motorCurrent: 6 }, 9000);
    await says({ state: 'ready', outputFrequency: 0, busVoltage: 560, motorCurrent: 0 });
    await touchText('Take it as the proof');
    fireEvent.change(screen.getByTestId('close-cure'), { target: { value: 'Deceleration 5 s' } });
    await settled();
    await touchRow('close-case');
    await settled();
    expect(server.bodies('POST', '/trips/7/close')[0]).toMatchObject({
      cause: 'stop too short',
      cure: 'Deceleration 5 s',
      proof: expect.stringContaining('highest bus 640 V'),
    });
    expect(text()).toContain('The stop is too short. Deceleration 5 s. Seen: ran for 9 s');
  });

  test('a trip while it is watched takes the proof away again', async () => {
    await open(<CaseScreen />);
    await settled();
    await says({ state: 'running', outputFrequency: 45 });
    await says({ state: 'tripped', outputFrequency: 0, trip: { code: 11, name: 'Bus overvoltage', sentence: 'x' } });
    expect(text()).not.toContain('Seen: it ran');
    expect(row('reset-trip').textContent).toContain('Hold to reset the trip');
  });
});

describe('trips of a machine', () => {
  test('one in force leads to its case at once', async () => {
    await open(<TripScreen />);
    await says({ state: 'tripped', trip: { code: 11, name: 'Bus overvoltage', sentence: 'The DC bus rose.' } });
    await settled();
    await settled();
    expect(row('cause-first').textContent).toContain('The stop is too short');
  });

  test('by the code on the display, or by what it does: two touches, and the case is open', async () => {
    await open(<TripScreen />);
    await says({ state: 'ready' });
    await touchRow('tell-code');
    await touchRow('code-11');
    await settled();
    expect(server.bodies('POST', '/machines/P-11/trips')[0]).toMatchObject({ code: 11, answers: {} });
    expect(router.navigate).toHaveBeenCalledWith('/m/P-11/trip/7');
    await touchRow('tell-words');
    await touchText('It trips when it stops');
    await settled();
    expect(server.bodies('POST', '/machines/P-11/trips')[1]).toMatchObject({ code: null, answers: { moment: 'stopping' } });
  });
});

test('the plant’s trips: open ones first, searched by cause and cure, counted by machine', async () => {
  await open(<TripHistoryScreen />);
  await settled();
  expect(row('trip-7').textContent).toContain('open');
  expect(row('trip-3').textContent).toContain('Something holds the shaft');
  fireEvent.change(screen.getByTestId('trip-search'), { target: { value: 'stone' } });
  await settled();
  expect(screen.queryByTestId('trip-7')).toBeNull();
  expect(row('trip-3').textContent).toContain('F-32');
  fireEvent.change(screen.getByTestId('trip-search'), { target: { value: 'moon' } });
  await settled();
  expect(text()).toContain('None with these words.');
});

describe('what was typed for a case', () => {
  test('is there again after another page, and gone once the case is closed', async () => {
    await open(<CaseScreen />);
    await settled();
    fireEvent.change(screen.getByTestId('close-cure'), { target: { value: 'Valve opened' } });
    fireEvent.change(screen.getByTestId('close-proof'), { target: { value: 'ran all night' } });
    await settled();
    putAway();
    await open(<CaseScreen />);
    await settled();
    expect((screen.getByTestId('close-cure') as HTMLInputElement).value).toBe('Valve opened');
    await touchRow('close-case');
    await settled();
    expect(server.bodies('POST', '/trips/7/close')[0]).toMatchObject({ cure: 'Valve opened', proof: 'ran all night' });
    expect(JSON.parse(localStorage.getItem('yare.cases') ?? '{}').state.at['7']).toBeUndefined();
  });

  test('a closed case is told as it was, with the way to open it again', async () => {
    now = detail({ entry: entry({ closed: { cause: 'jam', cure: 'Stone out', proof: 'ran', author: 'Bo', at: '2026-01-03T00:00:00Z' } }) });
    await open(<CaseScreen />);
    await settled();
    expect(text()).not.toContain('Working it out anew');
    expect(text()).toContain('Something holds the shaft. Stone out. Seen: ran. Bo');
    await touchText(/Open it again/);
    expect(server.bodies('POST', '/trips/7/reopen')).toEqual([]);
    await touchText(/Open it again/);
    expect(server.bodies('POST', '/trips/7/reopen')).toHaveLength(1);
  });
});

test('a drill is begun, goes on without being told, and ends with what it was', async () => {
  const acts: object[] = [];
  const view = (drill: object | null) => ({
    tag: 'P-11',
    drill,
    faults: [{ id: 'jam', name: 'Jam', what: 'Something holds the shaft.', state: 'off', trigger: null }],
  });
  let drill: object | null = null;
  server.special.unshift(({ path }) => (path === '/machines/P-11/bench' ? { status: 200, body: view(drill) } : undefined));
  await open(<Drill tag="P-11" onAct={(a) => acts.push(a)} />);
  await settled();
  await touchRow('drill-begin');
  expect(acts).toEqual([{ drill: 'begin' }]);
  putAway();
  drill = { on: true, was: null };
  await open(<Drill tag="P-11" onAct={(a) => acts.push(a)} />);
  await settled();
  expect(text()).toContain('Something goes wrong with this machine once it is up to speed.');
  expect(text()).not.toContain('Jam');
  await touchRow('drill-end');
  expect(acts[1]).toEqual({ drill: 'end' });
  putAway();
  drill = { on: false, was: 'jam' };
  await open(<Drill tag="P-11" onAct={() => undefined} />);
  await settled();
  expect(text()).toContain('It was: Jam. Something holds the shaft.');
});

test('a drill in its case: the cause is named against the clock, and what decided it is told afterwards', async () => {
  const ended: unknown[] = [];
  const view = (on: boolean) => ({ drill: { on, was: on ? null : 'swell' }, faults: [{ id: 'swell', name: 'Surge', what: 'The line jumps.' }] });
  server.special.unshift(({ method, path, body }) => {
    if (path !== '/machines/P-11/bench') return undefined;
    if (method === 'POST') ended.push(body.drill);
    return { status: 200, body: view(ended.length === 0) };
  });
  await open(<CaseScreen />);
  await waitFor(() => expect(row('drill-say').textContent).toContain('It is: The stop is too short'));
  await touchRow('drill-say');
  expect(ended).toEqual(['end']);
  await screen.findByText(/It was: Surge\. The line jumps\. You said “The stop is too short”/);
  expect(text()).toContain('not found');
  expect(text()).toMatch(/What decided it: by its figures “[^”]+” stands in place \d/);
  expect(text()).toContain('Measured next:');
});

describe('the moment and the minutes before', () => {
  const channel = (key: string, name: string, unit: string) => ({ key, name, unit, decimals: 1 });
  const recording = (id: number, title: string, step: number, n: number) => ({
    meta: {
      ...{ id, tag: 'P-11', title, author: 'Drive', startedAt: '2026-01-02T03:04:00Z', duration: step * (n - 1), samples: n, complete: true },
      channels: [
        channel('outputFrequency', 'Output', 'Hz'),
        channel('motorCurrent', 'Motor', 'A'),
        channel('busVoltage', 'DC bus', 'V'),
        channel('motorHeat', 'Motor heat', '%'),
      ],
      marks: [],
    },
    time: Array.from({ length: n }, (_, i) => i * step),
    data: {
      outputFrequency: Array.from({ length: n }, () => 44),
      motorCurrent: Array.from({ length: n }, (_, i) => (i === 5 ? 20.4 : 8)),
      busVoltage: Array.from({ length: n }, () => 540),
      motorHeat: Array.from({ length: n }, () => 35),
    },
  });
  beforeEach(() => {
    now = detail({ traceId: 11, trendId: 12 });
    server.special.unshift(({ path }) => {
      if (path === '/recordings/11') return { status: 200, body: recording(11, 'Drive’s last 2 s', 0.001, 2000) };
      return path === '/recordings/12' ? { status: 200, body: recording(12, 'Before the trip', 1, 60) } : undefined;
    });
  });

  test('figures stand against their limits and the plate, and how near every other limit came', async () => {
    await open(<CaseScreen />);
    await settled();
    expect(text()).toContain('The last two seconds');
    expect(text()).toContain('stamped 13.6 A; trips at 41 A');
    expect(text()).toContain('trips below 380 and above 800 V');
    expect(text()).toContain('Came to 50 % of a trip');
    expect(text()).toContain('current 20.4 A, trips at 40.8 A');
    expect(text()).toContain('motor overload 35 %, trips at 100 %');
  });

  test('the recording of the minutes before is one touch away', async () => {
    await open(<CaseScreen />);
    await settled();
    await touchText(/Open the recording/);
    expect(router.navigate).toHaveBeenCalledWith('/m/P-11/recordings/12');
  });

  test('figures nobody knows are left out, not shown as nothing', async () => {
    now = detail({ snapshot: { ...snapshot, torque: null, outputVoltage: null, motorHeat: null }, entry: entry({ source: 'display' }) });
    await open(<CaseScreen />);
    await settled();
    expect(text()).not.toContain('Motor voltage');
    expect(text()).not.toContain('Motor heat');
    expect(text()).toContain('as told');
  });
});

describe('how close and how often', () => {
  test('the machine nearest to a trip stands first, with what it is near to', async () => {
    await open(<TripHistoryScreen />);
    await act(async () =>
      socketNow().hear({
        kind: 'live',
        samples: [
          liveSample('P-11', at + 1, { state: 'running', busVoltage: 760, motorHeat: 20, driveTemperature: 40 }),
          liveSample('F-32', at + 1, { state: 'running', busVoltage: 550, motorHeat: 90, driveTemperature: 40 }),
        ],
      }),
    );
    await settled();
    const near = [...document.querySelectorAll('[data-testid^="near-"]')].map((e) => e.getAttribute('data-testid'));
    expect(near).toEqual(['near-F-32', 'near-P-11']);
    expect(row('near-F-32').textContent).toContain('near: motor overload 90 %, trips at 100 %');
    expect(row('near-P-11').textContent).toContain('near: bus high 760 V, trips at 800 V');
  });

  test.each([
    ['Trip', 'Bus overvoltage', '2'],
    ['Machine', 'F-32', '1'],
    ['Hour', `${String(new Date('2026-01-02T03:04:05Z').getHours()).padStart(2, '0')}:00`, '2'],
  ])('counted by %s', async (by, name, n) => {
    await open(<TripHistoryScreen />);
    await settled();
    await act(async () => fireEvent.click(screen.getByRole('radio', { name: by })));
    await settled();
    const found = [...document.querySelectorAll('.row')].find((r) => r.textContent?.startsWith(name));
    expect(found?.textContent).toContain(n);
  });
});
