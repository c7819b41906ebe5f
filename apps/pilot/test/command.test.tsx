import { act, cleanup, fireEvent, screen, within } from '@testing-library/react';
import { router } from 'expo-router';
import { bookById } from '@yare/books';
import type { LiveSample } from '@yare/contract';
import { present, type CommandMode, type HoldBack, type SpeedGiver, type StartGiver } from '@yare/core';
import { live } from '../src/data/live';
import { CommandScreen } from '../src/features/command/CommandScreen';
import { HandOffAutoScreen } from '../src/features/hand-off-auto/HandOffAutoScreen';
import { PresetsScreen } from '../src/features/presets/PresetsScreen';
import { TerminalsScreen } from '../src/features/terminals/TerminalsScreen';
import { freshServer, open, row, settled, touch, standsAs, touchRow, touchText, type, type FakeServer } from './fakeServer';
import { FakeSocket, liveSample, socketNow } from './fakeSocket';

const mockRoute = { tag: 'C-07' };
jest.mock('expo-router', () => ({ router: { navigate: jest.fn() }, useLocalSearchParams: () => mockRoute, usePathname: () => '/' }));

let server: FakeServer;
beforeAll(() => {
  Object.assign(globalThis, { WebSocket: FakeSocket });
  live.subscribe(() => undefined);
  socketNow().onopen?.();
});

/** The machine of the page, with its drive holding its draft. */
function standsHere(tag: string, change: Record<string, number> = {}): void {
  mockRoute.tag = tag;
  standsAs(server, tag, change);
}
beforeEach(() => {
  server = freshServer();
  standsHere('C-07');
});
afterEach(() => live.samples.clear());

interface Says {
  mode?: CommandMode;
  start?: StartGiver;
  speed?: SpeedGiver;
  held?: HoldBack[];
  closed?: number[];
  analogue?: number;
}
let at = Date.now();
/** What a drive says over the link, in the words of its family. */
async function says(
  { mode = 'remote', start = 'start button', speed = 'keypad', held = [], closed = [], analogue = 0 }: Says,
  change: Partial<LiveSample> = {},
): Promise<void> {
  const { told } = bookById('osier-g');
  at += 500;
  const words = {
    mode: present(told.mode[mode]),
    startedBy: present(told.start[start]),
    speedBy: present(told.speed[speed]),
    heldBack: held.reduce((bits, h) => bits | (1 << present(told.held[h])), 0),
    inputs: closed.reduce((bits, i) => bits | (1 << i), 0xc000),
    outputs: 0,
    analogue,
    second: 0,
  };
  await act(async () => socketNow().hear({ kind: 'live', samples: [liveSample(mockRoute.tag, at, { words, ...change })] }));
  await settled();
}
const drafted = (tag = 'C-07') => server.bodies('PUT', `/machines/${tag}/draft`).flatMap((b) => b.changes as Array<{ code: string; value: number }>);

describe('Command', () => {
  test('says that it does not know while the drive does not answer', async () => {
    await open(<CommandScreen />);
    expect(screen.getByText(/who has command now is not known/)).toBeTruthy();
    expect(screen.queryByTestId('given-back')).toBeNull();
  });

  test('one sentence from the drive’s own words, the raw word beside it, and a knob that does nothing named', async () => {
    await open(<CommandScreen />);
    await says({ speed: 'preset', held: ['not asked'], closed: [1, 3, 5], analogue: 60 });
    expect(screen.getByText('The start button at D1 starts it; preset 1 of 15 Hz sets its speed. It waits for the start button at D1.')).toBeTruthy();
    expect(screen.getByText('The signal at A1 sets nothing: the speed is preset 1 of 15 Hz.')).toBeTruthy();
    await touchRow('fold-words');
    expect(row('word-held').textContent).toContain('register 123: 0x0800');
    await touchRow('fold-permissives');
    expect(row('permissive-not-asked').textContent).toContain('Holds it back');
    await touchRow('fold-others');
    expect(screen.getByText('Stop button pressed (D2)')).toBeTruthy();
  });

  test('a start that is ignored is named with what wins, and a trip comes before everything', async () => {
    standsHere('C-07', { '5a': 1 });
    await open(<CommandScreen />);
    await says({ start: 'keypad', held: ['not asked'], closed: [0, 1, 5] });
    expect(screen.getByText('The start button at D1 starts nothing: the start key of the drive’s keypad starts it.')).toBeTruthy();
    await says({ held: ['tripped', 'not asked'], closed: [1, 5] }, { trip: { code: 1, name: 'x', sentence: 'y' }, state: 'tripped' });
    expect(screen.getByText(/It has tripped: find the cause/)).toBeTruthy();
  });

  test('given back is counted only while the drive says that nobody has command over the link', async () => {
    await open(<CommandScreen />);
    await says({ held: ['borrowed', 'not asked'], closed: [1, 5] }, { holder: 'other' });
    expect(screen.queryByTestId('given-back')).toBeNull();
    await says({ held: ['not asked'], closed: [1, 5] });
    await touchRow('given-back');
    expect(server.bodies('POST', '/machines/C-07/proofs')).toEqual([
      expect.objectContaining({ stage: 'command', item: 'given back', outcome: 'passed' }),
    ]);
    expect(screen.getByText(/Given back: seen by Ines Calder/)).toBeTruthy();
  });

  test('a way to wire it goes into the draft in one tap, and what cannot be is told', async () => {
    await open(<CommandScreen />);
    await touchRow('fold-ways');
    await touch(screen.getByRole('radio', { name: 'Buttons forward, reverse and stop, three preset speeds' }));
    expect(screen.getByText(/Reset button: no input is left for it/)).toBeTruthy();
    await touchRow('take-way');
    // D3 was the reset and is the button for reverse
    expect(drafted()).toEqual([expect.objectContaining({ code: '6c', value: 17, source: 'chosen' })]);
  });
});

describe('Terminals', () => {
  test('a conflict names both jobs and both settings, and every way out is one tap', async () => {
    standsHere('C-07', { '6c': 5 });
    await open(<TerminalsScreen />);
    expect(screen.getByText(/D3 \(6c\) and D4 \(6d\) both have the job Preset bit 0/)).toBeTruthy();
    await touchText('Leave D3 unused');
    expect(drafted()).toEqual([expect.objectContaining({ code: '6c', value: 0 })]);
    expect(screen.queryByText(/both have the job/)).toBeNull();
  });

  test('what hangs at an input is noted as it is drawn, and a race shows both sides', async () => {
    await open(<TerminalsScreen />);
    expect(row('device-D2').textContent).toContain('push button, closed at rest');
    await touchRow('device-D2');
    fireEvent.change(row('label-D2'), { target: { value: 'S2 Stop' } });
    fireEvent.blur(row('label-D2'));
    await settled();
    expect(present(server.of('C-07').wiring).wiring.inputs.D2).toEqual({ device: 'push button', label: 'S2 Stop', atRest: 'closed' });
    const theirs = { revision: 9, author: 'Ruth Hale', at: 'x', wiring: { inputs: {}, unit: null } };
    server.special.push((r) =>
      r.method === 'PUT' && r.path.endsWith('/wiring')
        ? { status: 409, body: { type: 'x', title: 'x', status: 409, detail: 'x', current: theirs } }
        : undefined,
    );
    await touch(screen.getByRole('radio', { name: 'Open at rest' }));
    expect(screen.getByText('Ruth Hale changed the wiring while you were typing.')).toBeTruthy();
  });

  test('wire by wire: rest first, then each there and back; what was found outlives the page, and command goes back when it is asked to', async () => {
    await open(<TerminalsScreen />);
    await says({ held: ['not asked'], closed: [1, 5] });
    await touchRow('try-wires');
    expect(server.bodies('POST', '/machines/C-07/still').length).toBeGreaterThan(0);
    const look = async (closed: number[], times = 1) => {
      for (let i = 0; i < times; i++) await says({ held: ['borrowed'], closed }, { holder: 'here' });
    };
    await look([1, 3, 5], 3);
    expect(screen.getByText(/Preset bit 0 \(D4\) does not stand at rest now|\(D4\) does not stand at rest now/)).toBeTruthy();
    await look([1, 5], 3);
    await touchRow('wire-at-rest');
    expect(screen.getByText(/^D1: Press Start button/)).toBeTruthy();
    // the wire of D3 lies where that of D1 should; half a movement says nothing
    await look([1, 2, 5], 5);
    expect(screen.getByText(/It answers\. Let go/)).toBeTruthy();
    expect(row('wire-D1').textContent).not.toContain('instead of');
    expect(row('wire-stop').getAttribute('aria-disabled')).toBe('true');
    await look([1, 5], 5);
    expect(row('wire-D1').textContent).toContain('Start button answers at D3 instead of D1');
    expect(row('wire-D1').textContent).not.toContain('Change them back');
    await touchRow('wire-nothing');
    expect(row('wire-D2').textContent).not.toContain('does not answer');
    await touchRow('wire-nothing');
    expect(row('wire-D2').textContent).toContain('D2 has voltage all the time');
    await touchRow('wire-skip');
    expect(row('wire-D3').textContent).toContain('D3 was not tried');
    expect(screen.queryByTestId('wire-proof')).toBeNull();
    // leaving gives nothing back: somebody may have a finger on the start button
    cleanup();
    expect(server.bodies('POST', '/machines/C-07/still/end')).toHaveLength(0);
    await open(<TerminalsScreen />);
    await touchRow('try-wires');
    await look([1, 5], 3);
    expect(row('wire-D1').textContent).toContain('answers at D3 instead of D1');
    await touchRow('wire-stop');
    expect(server.bodies('POST', '/machines/C-07/still/end')).toHaveLength(1);
    expect(row('try-wires')).toBeTruthy();
  });

  test('kept still by a page that was left: every page says until when, and gives command back on asking', async () => {
    await open(<TerminalsScreen />);
    const until = at + 30_000;
    await says({ held: ['borrowed'], closed: [1, 5] }, { holder: 'here', stillUntil: until });
    expect(row('state-strip').textContent).toMatch(/Panel starts nothing until \d\d:\d\d:\d\d/);
    await touchText('Every button is let go: give command back now');
    expect(server.bodies('POST', '/machines/C-07/still/end')).toHaveLength(1);
  });

  test('somebody else acts on the machine: the check says so and nothing is watched', async () => {
    server.special.push((r) =>
      r.path.endsWith('/still')
        ? { status: 409, body: { type: 'x', title: 'Claimed', status: 409, detail: 'Ruth Hale holds C-07 to run at this moment.' } }
        : undefined,
    );
    await open(<TerminalsScreen />);
    await says({ held: ['not asked'], closed: [1, 5] });
    await touchRow('try-wires');
    expect(screen.getByText(/Ruth Hale holds C-07 to run/)).toBeTruthy();
    expect(screen.queryByTestId('wire-nothing')).toBeNull();
    await touchRow('wire-stop');
  });

  test('the strip is told in words too, with what is closed now', async () => {
    await open(<TerminalsScreen />);
    await says({ held: ['not asked'], closed: [1, 5] });
    const strip = present(screen.getAllByRole('img').find((i) => /D2: Stop, opens/.test(i.getAttribute('aria-label') ?? '')));
    expect(strip.getAttribute('aria-label')).toContain('D2: Stop, opens, closed');
    expect(strip.getAttribute('aria-label')).not.toContain('D1: Start pulse, closed');
  });
});

describe('Presets', () => {
  test('a speed is typed in the belt’s own unit and goes into the draft as the drive holds it', async () => {
    await open(<PresetsScreen />);
    await touchRow('unit-m/min');
    expect(row('preset-1').textContent).toContain('19.8');
    // 1.1 m/s at 50 Hz: 33 m/min are 25 Hz
    await type('preset-1', '33');
    expect(drafted()).toEqual([expect.objectContaining({ code: '9a', value: 25 })]);
  });

  test('a machine without a unit of its own gets one: so much of it at the nameplate’s frequency', async () => {
    standsHere('M-55');
    await open(<PresetsScreen />);
    expect(screen.queryByTestId('unit-strokes/min')).toBeNull();
    await touchRow('fold-unit');
    await type('own-unit', '120');
    expect(present(server.of('M-55').wiring).wiring.unit).toEqual({ name: 'strokes/min', value: 120, frequency: 50 });
    await touchRow('unit-strokes/min');
    // 300 rpm of four poles are 10 Hz, 24 of 120 strokes
    expect(row('preset-1').textContent).toContain('24');
  });

  test('on the bench the belt itself is measured, at a speed that stands, and what it does becomes the unit', async () => {
    const seen = { kind: 'conveyor', seen: { beltSpeed: 0.58 } };
    server.special.unshift(({ path }) => (path === '/machines/C-07/bench' ? { status: 200, body: seen } : undefined));
    await open(<PresetsScreen />);
    await touchRow('fold-unit');
    const turns = (outputFrequency: number, change: Partial<LiveSample> = {}) =>
      says({ speed: 'preset', closed: [1, 3, 5] }, { state: 'running', outputFrequency, reference: 25, ...change });
    await turns(18);
    expect(screen.getByText(/run it at a steady speed of 5 Hz or more/)).toBeTruthy();
    await turns(25, { searching: true });
    expect(screen.queryByTestId('take-belt')).toBeNull();
    await turns(25);
    expect(screen.getByText('Take what the belt does: 34.8 m/min at 25.0 Hz')).toBeTruthy();
    await touchRow('take-belt');
    expect(present(server.of('C-07').wiring).wiring.unit).toEqual({ name: 'm/min', value: 34.8, frequency: 25 });
    // 15 Hz of preset 1 are so much by what was measured, not by the belt's record
    await touchRow('unit-m/min');
    expect(row('preset-1').textContent).toContain('20.9');
  });

  test('a minus sign where reverse is forbidden is told with both ways out', async () => {
    standsHere('C-07', { '2c': 0, '9b': -30 });
    await open(<PresetsScreen />);
    expect(screen.getByText(/Preset 2 asks for −30 Hz and gives 0 Hz: reverse is forbidden/)).toBeTruthy();
    await touchText('Turn it forward at 30 Hz');
    expect(drafted()).toEqual([expect.objectContaining({ code: '9b', value: 30 })]);
  });

  test('a speed counts as measured once it is reached with its switches, and is kept with its figure', async () => {
    await open(<PresetsScreen />);
    const turns = (outputFrequency: number) => says({ speed: 'preset', closed: [1, 3, 5] }, { state: 'running', outputFrequency });
    await turns(12);
    expect(screen.queryByTestId('keep-presets')).toBeNull();
    // passed on the way is not reached, nor is the output of a drive that looks for a turning motor
    await turns(15);
    await turns(18);
    await says({ speed: 'preset', closed: [1, 3, 5] }, { state: 'running', outputFrequency: 15, searching: true });
    await says({ speed: 'preset', closed: [1, 3, 5] }, { state: 'running', outputFrequency: 15, searching: true });
    expect(screen.queryByTestId('keep-presets')).toBeNull();
    for (let i = 0; i < 3; i++) await turns(15);
    expect(row('preset-1').textContent).toContain('measured 15.0 Hz');
    await touchRow('keep-presets');
    expect(server.bodies('POST', '/machines/C-07/proofs')).toEqual([
      expect.objectContaining({ item: 'preset 1', settings: expect.arrayContaining(['9a', '6d', '6e', '2b']) }),
    ]);
  });
});

describe('Hand-off-auto', () => {
  test('is tried on the screen, and proved once every position was seen to do what it should', async () => {
    standsHere('P-11');
    await open(<HandOffAutoScreen />);
    await touchRow('try-hand');
    expect(screen.getByText('From off to hand: it starts, at 25 Hz; the signal at A2 sets the speed.')).toBeTruthy();
    const stays = async (say: Says, change: Partial<LiveSample>) => {
      for (let i = 0; i < 4; i++) await says(say, change);
    };
    const off: Says = { mode: 'off', start: 'nothing', held: ['selector off'], closed: [1, 5] };
    const hand: Says = { mode: 'hand', start: 'hand contact', speed: 'second analogue', closed: [1, 3, 5] };
    await says(off, { state: 'held' });
    // on the way from hand to auto it is off for a moment
    expect(row('position-off').textContent).not.toContain('stood still');
    await stays(off, { state: 'held' });
    expect(row('position-off').textContent).toContain('stood still');
    expect(within(row('permissive-selector-off')).getByText('Holds it back')).toBeTruthy();
    await stays(hand, { state: 'running', outputFrequency: 50, searching: true });
    expect(row('position-hand').textContent).not.toContain('ran at');
    await stays(hand, { state: 'running', outputFrequency: 25 });
    expect(screen.queryByTestId('keep-selector')).toBeNull();
    // what was seen outlives the page
    cleanup();
    await open(<HandOffAutoScreen />);
    expect(row('position-hand').textContent).toContain('ran at 25.0 Hz');
    await stays({ start: 'auto contact', speed: 'process', closed: [1, 4, 5] }, { state: 'running', outputFrequency: 31 });
    await touchRow('keep-selector');
    expect(server.bodies('POST', '/machines/P-11/proofs')).toEqual([expect.objectContaining({ item: 'selector', outcome: 'passed' })]);
    expect(screen.getByText(/hand: ran at 25.0 Hz; off: stood still; auto: ran at 31.0 Hz/)).toBeTruthy();
  });

  test('a family without it says so, one that could leads to the ways', async () => {
    standsHere('M-55');
    await open(<HandOffAutoScreen />);
    expect(screen.getByText(/Withy has no hand-off-auto/)).toBeTruthy();
    standsHere('C-07');
    await open(<HandOffAutoScreen />);
    await touchText('Go to Command');
    expect(router.navigate).toHaveBeenLastCalledWith('/m/C-07/command');
  });
});
