import { stages } from '@yare/commissioning';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { router } from 'expo-router';
import { hardToStop, lookAheadRun, stoppingOptions, present } from '@yare/core';
import type { SheetRevisionPage } from '@yare/contract';
import { queryClient } from '../src/data/client';
import { MachineScreen } from '../src/features/machine/MachineScreen';
import { MotionScreen } from '../src/features/motion/MotionScreen';
import { PlantScreen } from '../src/features/plant/PlantScreen';
import { ProtectionScreen } from '../src/features/protection/ProtectionScreen';
import { CompareScreen } from '../src/features/compare/CompareScreen';
import { RevisionsScreen } from '../src/features/revisions/RevisionsScreen';
import { SettingsScreen } from '../src/features/settings/SettingsScreen';
import { WriteScreen } from '../src/features/write/WriteScreen';
import { demoSheet } from './demoModel';
import { freshServer, open, row, settled, touch, touchRow, touchText, type, type FakeServer } from './fakeServer';

const mockRoute = { tag: 'P-11' };
const mockWork = {
  runs: 0,
  run: async (...a: Parameters<typeof lookAheadRun>) => {
    mockWork.runs += 1;
    return lookAheadRun(...a);
  },
  stopping: async (...[spec, reference, every]: Parameters<typeof stoppingOptions>) => stoppingOptions(spec, reference, every, hardToStop(spec)),
  // asked for beside it, and never answered here
  whatIf: () => new Promise(() => undefined),
  day: () => new Promise(() => undefined),
};
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));
// the worker's work, done here: the same model, the same figures
jest.mock('../src/data/lookAheadWorker', () => ({ lookAheadWorker: () => mockWork }));

let server: FakeServer;
beforeEach(() => {
  mockRoute.tag = 'P-11';
  // a sheet as tall as all of its rows, so that the list draws every one
  Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, value: 9000 });
  Object.defineProperty(HTMLElement.prototype, 'offsetHeight', { configurable: true, value: 57 });
  server = freshServer();
  mockWork.runs = 0;
});
const alerts = () => screen.queryAllByRole('alert').map((a) => a.textContent);
const lines = () => screen.queryAllByTestId(/^line-/).map((l) => present(l.getAttribute('data-testid')).slice(5));
const search = async (text: string) => {
  fireEvent.change(row('search'), { target: { value: text } });
  await settled();
};

describe('Settings sheet', () => {
  test('is searched by code, by name and by meaning', async () => {
    await open(<SettingsScreen />);
    expect(lines().length).toBeGreaterThan(80);
    await search('3b');
    expect(lines()).toEqual(['3b']);
    await search('deceleration');
    expect(lines()).toContain('3b');
    await search('belt');
    expect(lines().length).toBeLessThan(30);
    await search('zzz');
    expect(lines()).toEqual([]);
    expect(screen.getByText(/Nothing|No setting/)).toBeTruthy();
  });

  test('a setting opens into its help, range, step and factory value, and takes a figure', async () => {
    await open(<SettingsScreen />);
    await search('3b');
    await touchRow('line-3b');
    expect(screen.getByText(/Range 0\.1 to 3600\.0 s, step 0\.1 s\./)).toBeTruthy();
    expect(screen.getByText(/^Factory 10\.0 s/)).toBeTruthy();
    await type('change-3b', '8.5');
    expect(server.bodies('PUT', '/machines/P-11/draft')).toEqual([
      { revision: 1, author: 'Ines Calder', changes: [{ code: '3b', value: 8.5, source: 'chosen' }] },
    ]);
    await touchText('Back to factory');
    expect(server.of('P-11').sheets.draft.values['3b']).toMatchObject({ value: 10, source: 'factory' });
    await touchText('Undo');
    expect(server.of('P-11').sheets.draft.values['3b']).toMatchObject({ value: 8.5, source: 'chosen' });
  });

  test('one that hangs on another says so, and the contradiction when it is one', async () => {
    await open(<SettingsScreen />);
    await search('2a');
    await touchRow('line-2a');
    expect(screen.getByText(/^Must .* maximum frequency 2b\.$/)).toBeTruthy();
    await type('change-2a', '60');
    expect(alerts()).toEqual(['Minimum frequency must not exceed maximum frequency, which is 50 Hz.']);
  });
});

describe('Settings sheet: filters, rounding, the lock', () => {
  test('the filters count and show what is not from the factory, not as in the drive, read only', async () => {
    await open(<SettingsScreen />);
    for (const filter of ['changed', 'differing', 'locked', 'read']) {
      const count = Number(present(/\d+/.exec(present(row(`filter-${filter}`).textContent)))[0]);
      await touchRow(`filter-${filter}`);
      expect(lines()).toHaveLength(count);
    }
  });

  test('what is read only offers no change', async () => {
    await open(<SettingsScreen />);
    await touchRow('filter-read');
    const code = present(lines()[0]);
    await touchRow(`line-${code}`);
    expect(screen.getByText('Read only: the drive counts this by itself.')).toBeTruthy();
    expect(screen.queryByTestId(`change-${code}`)).toBeNull();
  });

  test('what the drive will make of a figure is said before it is written', async () => {
    mockRoute.tag = 'M-55';
    await open(<SettingsScreen />);
    await search('w22');
    await touchRow('line-w22');
    await type('change-w22', '0.26');
    expect(screen.getByText('The drive will store 0.3 A.')).toBeTruthy();
  });

  test('no code is taken before it is known whether it would lock or open', async () => {
    let answer: () => void = () => undefined;
    const own = globalThis.fetch;
    globalThis.fetch = (async (url: string, init?: RequestInit) => {
      if (url.endsWith('/lock')) await new Promise<void>((done) => (answer = done));
      return own(url, init);
    }) as typeof fetch;
    await open(<SettingsScreen />);
    await touchRow('files');
    expect(screen.getByText('Reading whether it is locked…')).toBeTruthy();
    expect(screen.queryByTestId('lock-code')).toBeNull();
    globalThis.fetch = own;
    answer();
    expect(await screen.findByTestId('lock-code')).toBeTruthy();
  });

  test('a lock the server keeps is told and refuses in its own words', async () => {
    server.special.push((r) => {
      if (r.path.endsWith('/lock') && r.method === 'GET') return { status: 200, body: { author: 'Tom Reed', at: '2026-01-02T00:00:00Z' } };
      return r.method === 'PUT'
        ? { status: 423, body: { type: 'x', title: 'x', status: 423, detail: 'The settings are locked by Tom Reed.' } }
        : undefined;
    });
    await open(<SettingsScreen />);
    await touchRow('files');
    expect(screen.getByText(/Locked by Tom Reed/)).toBeTruthy();
    await search('3b');
    await touchRow('line-3b');
    await type('change-3b', '8');
    expect(alerts().join()).toContain('The settings are locked by Tom Reed.');
  });
});

describe('Compare and Revisions', () => {
  test('any two sheets, turned round, and those of another family in the codes of the first', async () => {
    server.of('P-11').sheets.inDrive = demoSheet('P-11', 'in drive', { '3a': 7 });
    await open(<CompareScreen />);
    await touchRow('side-b');
    await touchRow('side-b-in-drive');
    expect(row('compare-3a').textContent).toMatch(/5\.0 s.*7\.0 s/);
    await touchText('Swap sides');
    expect(row('compare-3a').textContent).toMatch(/7\.0 s.*5\.0 s/);
    await touchRow('side-b-F-32');
    expect(screen.getByText(/have nothing beside them in/)).toBeTruthy();
  });

  test('a revision is looked at before it is brought back, and brought back as a new one', async () => {
    const revision = { kind: 'draft' as const, revision: 3, author: 'Tom Reed', at: '2026-01-03T10:00:00Z', changed: 2, otherDrive: false };
    const page: SheetRevisionPage = { revisions: [revision, { ...revision, revision: 1, otherDrive: true, changed: 0 }], next: null };
    const own = Object.fromEntries(Object.entries(server.of('P-11').sheets.draft.values).map(([code, v]) => [code, v.value]));
    server.special.push((r) => {
      if (r.path === '/machines/P-11/revisions') return { status: 200, body: page };
      return r.path === '/machines/P-11/revisions/draft/3'
        ? { status: 200, body: demoSheet('P-11', 'draft', { ...own, '3a': 9, '3b': 11 }) }
        : undefined;
    });
    await open(<RevisionsScreen />);
    expect(row('revision-draft-3').textContent).toContain('Tom Reed');
    expect(row('revision-draft-3').textContent).toContain('2 changed');
    // a sheet of the drive before has other codes: nothing to bring back
    await touchRow('revision-draft-1');
    expect(screen.queryByText(/Bring/)).toBeNull();
    await touchRow('revision-draft-3');
    expect(screen.getByText('2 settings of the draft are not as then.')).toBeTruthy();
    expect(server.bodies('PUT', '/machines/P-11/draft')).toEqual([]);
    await touchText('Bring 2 back into the draft');
    expect(server.of('P-11').sheets.draft.values).toMatchObject({ '3a': { value: 9 }, '3b': { value: 11 } });
  });
});

describe('Motion and Protection', () => {
  test('a stop that would trip is told, and the shortest safe one taken in one touch', async () => {
    await open(<MotionScreen />);
    expect(await screen.findByText(/Stopping in 3\.0 s, the DC bus reaches its trip level of 800 V/, {}, { timeout: 20_000 })).toBeTruthy();
    await touch(await screen.findByRole('button', { name: /Use the shortest safe/ }, { timeout: 20_000 }));
    const { value } = present(server.of('P-11').sheets.draft.values['3b']);
    expect(value).toBeGreaterThan(3);
    expect(await screen.findByText(/The DC bus peaks at (about )?\d+ V(, at worst \d+ V)?; it trips at 800 V/, {}, { timeout: 20_000 })).toBeTruthy();
    expect(alerts().join()).not.toMatch(/trips and the motor coasts/);
  });

  test('a fitted run that tells little of the inertia is said to, with the way to another', async () => {
    const values = { inertia: { times: 1, spread: 0.07 } };
    const { machine } = server.of('P-11');
    machine.learned = { revision: 1, values, recordingId: 3, alsoRecordingId: null, author: 'Ines Calder', at: '2026-01-02T03:04:00Z' };
    await open(<MotionScreen />);
    expect(await screen.findByText(/tells the inertia to ±\s14\s% only/)).toBeTruthy();
    // its stop is set, then written, then run
    await touch(await screen.findByRole('button', { name: /^Set the stop to \d+\.\d s/ }, { timeout: 20_000 }));
    expect(present(server.of('P-11').sheets.draft.values['3b']).value).toBeGreaterThan(3);
    await touch(await screen.findByRole('button', { name: /Go to Write$/ }, { timeout: 20_000 }));
    expect(router.navigate).toHaveBeenLastCalledWith('/m/P-11/write');
    cleanup();
    const { draft } = server.of('P-11').sheets;
    server.of('P-11').sheets.inDrive = demoSheet('P-11', 'in drive', Object.fromEntries(Object.entries(draft.values).map(([c, v]) => [c, v.value])));
    await queryClient.invalidateQueries();
    await open(<MotionScreen />);
    await touch(await screen.findByRole('button', { name: /Go to Test run/ }, { timeout: 20_000 }));
    expect(router.navigate).toHaveBeenLastCalledWith('/m/P-11/turn');
  });

  test('the same figures are looked ahead once for all screens', async () => {
    await open(<MotionScreen />);
    await screen.findByText(/the DC bus reaches its trip level/, {}, { timeout: 20_000 });
    // draft and drive differ: a run each
    await waitFor(() => expect(mockWork.runs).toBe(2), { timeout: 20_000 });
    cleanup();
    await open(<ProtectionScreen />);
    expect(screen.getByRole('img', { name: /^Overload: at 150 %/ })).toBeTruthy();
    cleanup();
    await open(<WriteScreen />);
    expect(await screen.findByText(/Looked ahead with this draft: .*the DC bus reaches its trip level/, {}, { timeout: 20_000 })).toBeTruthy();
    expect(mockWork.runs).toBe(2);
  });

  test('the overload of the factory is told against the plate, and the curve drawn for what is set', async () => {
    mockRoute.tag = 'F-32';
    await open(<ProtectionScreen />);
    expect(alerts().join()).toContain('62.0 A is the drive’s own current, as from the factory. The plate says 54.4 A');
    expect(screen.getByRole('img', { name: /^Overload: at 150 % of 62\.00 A/ })).toBeTruthy();
    await touchText(/Use the plate’s 54\.4 A/);
    expect(screen.getByRole('img', { name: /^Overload: at 150 % of 54\.40 A/ })).toBeTruthy();
    expect(server.of('F-32').sheets.draft.values['17/1']).toMatchObject({ value: 54.4, source: 'plate' });
  });
});

describe('Work plan and plant', () => {
  test('leaving says what stays unproved, and whoever comes next sees it', async () => {
    await open(<MachineScreen />);
    // what this machine has no use for is not counted
    const counted = Number(/\d of (\d+) proved/.exec(document.body.textContent ?? '')?.[1]);
    expect(counted).toBeGreaterThan(8);
    expect(counted).toBeLessThan(stages.filter((s) => s.number !== null).length);
    await touchRow('stop-here');
    expect(screen.getByText(/^Leaving the work now leaves unproved: Survey \(supply, place and cable not recorded\); Before power/)).toBeTruthy();
    await touchText('Leave it so');
    expect(server.of('P-11').left).toMatchObject({ stages: expect.arrayContaining(['survey', 'before-power']), author: 'Ines Calder' });
    expect(screen.getByText(/^Ines Calder left .* with unproved: Survey, Before power/)).toBeTruthy();
    await touchText('The work goes on');
    expect(screen.queryByText(/with unproved/)).toBeNull();
  });

  test('the plant by area, and a plant that does not answer', async () => {
    await open(<PlantScreen />);
    expect(screen.getAllByTestId(/^machine-/)).toHaveLength(8);
    await touchRow('machine-C-21');
    expect(router.navigate).toHaveBeenLastCalledWith('/m/C-21');
    server = freshServer();
    server.down = true;
    await open(<PlantScreen />);
    expect((await screen.findByRole('alert', {}, { timeout: 6000 })).textContent).toContain('The server does not answer.');
  });
});
