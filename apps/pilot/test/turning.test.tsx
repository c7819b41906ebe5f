import { act, screen } from '@testing-library/react';
import { router } from 'expo-router';
import { bookById, DriveSettings } from '@yare/books';
import type { ClientMessage, LiveSample, RecordingData, ServerMessage } from '@yare/contract';
import { live } from '../src/data/live';
import { BeforePowerScreen } from '../src/features/before-power/BeforePowerScreen';
import { secondsToDead } from '../src/features/before-power/useBusFall';
import { DirectionScreen } from '../src/features/direction/DirectionScreen';
import { DriveScreen } from '../src/features/drive/DriveScreen';
import { TuneScreen } from '../src/features/tune/TuneScreen';
import { TurnScreen } from '../src/features/turn/TurnScreen';
import { demoSheet } from './demoModel';
import { freshServer, open, row, settled, touchRow, touchText, type, type FakeServer } from './fakeServer';
import { FakeSocket, liveSample, socketNow } from './fakeSocket';

const mockRoute = { tag: 'P-11' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeAll(() => {
  Object.assign(globalThis, { WebSocket: FakeSocket });
  HTMLElement.prototype.setPointerCapture = () => undefined;
  live.subscribe(() => undefined);
  socketNow().onopen?.();
});
beforeEach(() => {
  mockRoute.tag = 'P-11';
  server = freshServer();
  // it has what it was found with, reverse forbidden, and the plate of its motor
  server.of('P-11').sheets.inDrive = demoSheet('P-11', 'in drive', { ...ownDraft('P-11'), '2c': 0 });
  live.runs.clear();
  socketNow().sent = [];
});
afterEach(() => live.letGo());

const ownDraft = (tag: string) => Object.fromEntries(Object.entries(server.of(tag).sheets.draft.values).map(([c, v]) => [c, v.value]));
async function hear(message: ServerMessage): Promise<void> {
  await act(async () => socketNow().hear(message));
  await settled();
}
const stands = (change: Partial<LiveSample> = {}) => hear({ kind: 'live', samples: [liveSample(mockRoute.tag, Date.now(), change)] });
const said = (kind: ClientMessage['kind']) => socketNow().sent.filter((m) => m.kind === kind);
const seconds = (s: number) => act(async () => new Promise((done) => setTimeout(done, 1000 * s)));

let runs = 0;
/** The server gives a ticket for the next press, and that becomes the next run. */
async function ticket(): Promise<void> {
  runs += 1;
  await hear({ kind: 'ticket', ticket: `t${runs}` });
}
/** A finger on the hold button for some seconds, with the ticket the server gave. */
async function hold(forSeconds: number): Promise<void> {
  await ticket();
  const finger = (kind: string) =>
    act(async () => void row('hold').dispatchEvent(Object.assign(new Event(kind, { bubbles: true }), { isPrimary: true, button: 0, pointerId: 1 })));
  await finger('pointerdown');
  await seconds(forSeconds);
  await finger('pointerup');
}

/** What the server says of the run in force: that it has ended. */
const ofRun = (change: Partial<Extract<ServerMessage, { kind: 'run' }>> = {}): ServerMessage => ({
  kind: 'run',
  tag: mockRoute.tag,
  run: runs,
  mine: true,
  phase: 'ended',
  recordingId: null,
  cause: 'let go',
  reason: 'let go',
  ...change,
});

/** The server ends the run in force with a recording that reached a frequency. */
async function ends(reached: number, id = 5): Promise<void> {
  const recording = {
    meta: {
      id,
      complete: true,
      channels: ['outputFrequency', 'motorCurrent', 'busVoltage'].map((key) => ({ key, name: key, unit: '', decimals: 2 })),
    },
    time: [0, 1],
    data: { outputFrequency: [0, reached], motorCurrent: [0, 14.2], busVoltage: [560, 702] },
  } as unknown as RecordingData;
  server.special.push((r) => (r.path === `/recordings/${id}` ? { status: 200, body: recording } : undefined));
  await hear(ofRun({ recordingId: id }));
}

test('another drive than on record is offered as what it says it is', async () => {
  mockRoute.tag = 'C-21';
  await open(<DriveScreen />);
  await stands({ link: 'down', state: 'no link', another: { bookId: 'osier-g', family: 'Osier G', size: 'G4' } });
  expect(screen.getByText(/says that it is Osier G G4\. On record is Osier G G2\.2: nothing is read from it or written to it/)).toBeTruthy();
  await touchText('Take Osier G G4');
  // what it changes is said first
  expect(server.bodies('PUT', '/machines/C-21/drive')).toEqual([]);
  await touchText('That is the drive that stands there');
  expect(server.bodies('PUT', '/machines/C-21/drive')).toEqual([expect.objectContaining({ bookId: 'osier-g', size: 'G4', author: 'Ines Calder' })]);
});

describe('what may not be started is said on the button', () => {
  test.each([
    [{ link: 'down' }, 'No link to the drive'],
    [{ link: 'down', another: { bookId: 'withy', family: 'Withy', size: 'W2.2' } }, 'Another drive answers than the one on record'],
    [{ state: 'tripped', trip: { code: 1, name: 'Motor overload' } }, 'Tripped: Motor overload'],
    [{ state: 'held' }, 'Held: a permissive is missing'],
    [{ state: 'running', command: 'Tom Reed, hold to run' }, 'Turning already: Tom Reed, hold to run'],
    [{}, 'First confirm that it may turn'],
  ] as Array<[Partial<LiveSample>, string]>)('%j', async (state, text) => {
    await open(<TurnScreen />);
    await stands(state);
    expect(row('hold').textContent).toContain(text);
    await hold(0.9);
    expect(said('begin')).toEqual([]);
  });
});

describe('Test run', () => {
  test('a short touch starts nothing; held, it is asked for and repeated; let go, it is released', async () => {
    await open(<TurnScreen />);
    await stands();
    await touchRow('clear');
    expect(row('hold').textContent).toContain('Hold to run at 10 Hz');
    await hold(0.3);
    expect(said('begin')).toEqual([]);
    await hold(1.2);
    expect(said('begin')).toHaveLength(1);
    expect(said('repeat').length).toBeGreaterThan(1);
    expect(said('begin')[0]).toMatchObject({ tag: 'P-11', author: 'Ines Calder', frequency: 10 });
    expect(said('release')).toHaveLength(1);
  });

  test('what the drive makes of a frequency is said before it turns', async () => {
    await open(<TurnScreen />);
    await stands();
    await type('turn-frequency', '80');
    expect(screen.getByText('The drive will run at 50.0 Hz: its maximum frequency.')).toBeTruthy();
    await type('turn-frequency', '-10');
    expect(screen.getByText('Reverse is forbidden in the drive: at −10.0 Hz it stands still.')).toBeTruthy();
    await touchRow('clear');
    expect(row('hold').textContent).toContain('It would not turn: see the frequency');
  });

  test('a run up to full speed and down again counts as the proof of Motion, one to half speed does not', async () => {
    await open(<TurnScreen />);
    await stands();
    await touchRow('clear');
    await hold(0.9);
    await ends(25, 6);
    expect(screen.getByText('The run is kept as recording 6.')).toBeTruthy();
    expect(screen.queryByText(/proof of Motion/)).toBeNull();
    expect(screen.getByText(/Motion is proved by a run to 47\.5.Hz or more and down again; this one came to 25\.0.Hz/)).toBeTruthy();
    // nobody at the shaft is asked anew for every run
    expect(row('hold').textContent).toBe('First confirm that it may turn');
    await touchRow('clear');
    await hold(0.9);
    await ends(50, 7);
    await touchText('Count it as the proof of Motion');
    expect(server.bodies('POST', '/machines/P-11/proofs')).toEqual([
      expect.objectContaining({ stage: 'motion', outcome: 'passed', facts: { kind: 'run', frequency: 50, recording: 7, compared: [] } }),
    ]);
  });

  test('why it was stopped is told', async () => {
    await open(<TurnScreen />);
    await stands();
    await touchRow('clear');
    await hold(0.9);
    await hear(ofRun({ cause: 'tripped', reason: 'the drive tripped: Overcurrent' }));
    expect(screen.getByText('It was stopped: the drive tripped: Overcurrent.')).toBeTruthy();
    await hear({ kind: 'refused', tag: 'P-11', code: 'claimed', sentence: 'Tom Reed has command of P-11.' });
    expect(screen.getByText('Tom Reed has command of P-11.')).toBeTruthy();
  });
});

describe('Direction', () => {
  const turned = async (reached: number) => {
    mockRoute.tag = 'C-21';
    await open(<DirectionScreen />);
    await stands();
    await touchRow('clear');
    await hold(0.9);
    await ends(reached);
  };

  test('what hardly turned is no proof', async () => {
    await turned(0.3);
    expect(screen.getByText('It reached only 0.3 Hz, too slow to see which way. Hold longer.')).toBeTruthy();
    expect(screen.queryByTestId('right-way')).toBeNull();
  });

  test('the right way is kept with what the recording reached, not with what was asked for', async () => {
    await turned(4.2);
    await touchRow('right-way');
    expect(server.of('C-21').proofs).toEqual([
      expect.objectContaining({ stage: 'direction', outcome: 'passed', facts: { kind: 'direction', right: true, frequency: 4.2, recording: 5 } }),
    ]);
    expect(screen.queryByTestId('right-way')).toBeNull();
    await touchText('Go on to Tune');
    expect(router.navigate).toHaveBeenLastCalledWith('/m/C-21/tune');
  });

  test('the wrong way gives both cures; the one in the drive is a changed draft that still has to be written', async () => {
    await turned(5);
    await touchRow('wrong-way');
    expect(screen.getByText(/^It turns the wrong way \(Ines Calder/)).toBeTruthy();
    expect(screen.getByText('Change two motor leads over')).toBeTruthy();
    await touchRow('turn-round');
    expect(server.of('C-21').sheets.draft.values['2h']).toMatchObject({ value: 1, source: 'measured' });
    expect(router.navigate).toHaveBeenLastCalledWith('/m/C-21/write');
  });
});

const withPlate = () => {
  const { machine } = server.of('C-07');
  const plate = new DriveSettings(bookById(machine.bookId), machine.size, {}, machine.region).plate(machine.plate.plate);
  return { ...ownDraft('C-07'), ...Object.fromEntries(plate.map((p) => [p.code, p.value])) };
};
const ready = async () => {
  mockRoute.tag = 'C-07';
  server.of('C-07').sheets.inDrive = demoSheet('C-07', 'in drive', withPlate());
  await open(<TuneScreen />);
  await stands();
  await ticket();
};
const tells = (state: 'busy' | 'done' | 'failed', progress: number, phase: 'running' | 'ended', reason: string | null = null) =>
  hear(ofRun({ phase, cause: state === 'failed' ? 'not measured' : null, reason, tune: { kind: 'standstill', state, progress } }));

describe('Tune', () => {
  test('is refused until somebody says whether it is coupled; coupled offers standstill only', async () => {
    await ready();
    expect(row('start-tune').textContent).toContain('First say whether it is coupled');
    await touchRow('coupled');
    expect(row('tune-rotating').getAttribute('aria-disabled')).toBe('true');
    await touchRow('tune-rotating');
    expect(row('tune-standstill').getAttribute('aria-checked')).toBe('true');
    expect(row('start-tune').textContent).toContain('First confirm that it may be measured');
    await touchRow('free');
    await touchRow('tune-rotating');
    // what turns the motor by itself is held, as any other run
    expect(row('hold')).toBeTruthy();
  });

  test('the plate has to be in the drive first', async () => {
    mockRoute.tag = 'C-07';
    server.of('C-07').sheets.inDrive = demoSheet('C-07', 'in drive', { ...withPlate(), '1d': 5.5 });
    await open(<TuneScreen />);
    await stands();
    await touchRow('coupled');
    expect(row('start-tune').textContent).toContain('First write the plate to the drive');
  });

  test('shows how far it is, is stopped by one touch, and says that nothing was changed', async () => {
    await ready();
    await touchRow('coupled');
    await touchRow('clear');
    await touchRow('start-tune');
    expect(said('begin')[0]).toMatchObject({ tag: 'C-07', tune: 'standstill' });
    await tells('busy', 40, 'running');
    expect(row('tune-progress').textContent).toContain('40');
    await touchRow('stop-tune');
    expect(said('release')).toHaveLength(1);
    await tells('busy', 40, 'ended', 'stopped by hand');
    expect(screen.getByText(/^Stopped before it had finished \(stopped by hand\)\. Nothing was changed in the drive\./)).toBeTruthy();
  });
});

describe('Tune: how it goes and what comes of it', () => {
  test('a failure gives the drive’s reason', async () => {
    await ready();
    await touchRow('coupled');
    await touchRow('clear');
    await touchRow('start-tune');
    await tells('failed', 30, 'ended', 'One motor lead carries no current.');
    expect(screen.getByText('It could not be measured. One motor lead carries no current.')).toBeTruthy();
  });

  test('a link that was lost is no reason of the drive’s', async () => {
    await ready();
    await touchRow('coupled');
    await touchRow('clear');
    await touchRow('start-tune');
    const tune = { kind: 'standstill', state: 'failed', progress: 30 } as const;
    await hear(ofRun({ phase: 'ended', cause: 'link lost', reason: 'the link to the drive was lost', tune }));
    expect(screen.getByText(/^Stopped before it had finished \(the link to the drive was lost\)\. Nothing was changed in the drive\./)).toBeTruthy();
  });

  test('what it measured is read from the drive, kept, copied to the draft and proved in one act', async () => {
    const measured = { '1j': 1.62, '1k': 2.05, '1m': 9.1 };
    server.special.push(({ method, path }) => {
      if (method !== 'POST') return undefined;
      if (path.endsWith('/read')) return { status: 200, body: demoSheet('C-07', 'in drive', { ...withPlate(), ...measured }) };
      return path.endsWith('/keep') ? { status: 200, body: { kept: true } } : undefined;
    });
    await ready();
    await touchRow('coupled');
    await touchRow('clear');
    await touchRow('start-tune');
    await tells('done', 100, 'ended', 'measured');
    expect(screen.getByText(/holds it in working memory only: gone at power-off/)).toBeTruthy();
    expect(row('tuned-1j').textContent).toContain('1.62');
    await touchRow('keep-tune');
    expect(server.of('C-07').sheets.draft.values).toMatchObject({
      '1j': { value: 1.62, source: 'measured' },
      '1m': { value: 9.1, source: 'measured' },
    });
    expect(server.of('C-07').proofs).toEqual([
      expect.objectContaining({
        stage: 'tune',
        outcome: 'passed',
        facts: { kind: 'tune', constants: expect.arrayContaining([{ role: 'statorResistance', value: 1.62, unit: 'Ω', decimals: 3 }]) },
      }),
    ]);
  });
});

describe('Before power, against what the link says', () => {
  test('a live bus cannot be passed as dead; it is shown falling, and passes once the link is silent', async () => {
    mockRoute.tag = 'C-21';
    await stands({ busVoltage: 566 });
    await open(<BeforePowerScreen />);
    expect(screen.getByRole('alert').textContent).toContain('reports 566 V on its DC bus: it is not dead');
    await touchRow('pass-isolated');
    expect(server.of('C-21').proofs).toEqual([]);
    await stands({ busVoltage: 400 });
    expect(row('bus-falling').textContent).toMatch(/falling; below 60.V in about \d+ s at this rate400V/);
    await stands({ link: 'down' });
    expect(screen.queryByRole('alert')).toBeNull();
    expect(screen.getByText(/its last reading was 400.V.*prove it dead with the tester/)).toBeTruthy();
    await touchRow('pass-isolated');
    expect(server.of('C-21').proofs).toMatchObject([{ item: 'isolated', outcome: 'passed' }]);
  });

  test('the time a bus still needs is told by its last readings; one that jitters is not falling', () => {
    expect(
      secondsToDead([
        { at: 0, volts: 560 },
        { at: 1000, volts: 460 },
      ]),
    ).toBeCloseTo(4, 6);
    expect(
      secondsToDead([
        { at: 0, volts: 566 },
        { at: 1000, volts: 564 },
      ]),
    ).toBeNull();
    expect(
      secondsToDead([
        { at: 0, volts: 80 },
        { at: 100, volts: 50 },
      ]),
    ).toBe(0);
  });
});
