import '@yare/books/all';
import { noLink, presetTable, runBegins, SearchWatch, type Observer } from '../src';
import { emergencyObserver } from '../src/seen/emergencySeen';
import { guardsObserver } from '../src/seen/guardsSeen';
import { holdsObserver } from '../src/seen/holdsSeen';
import { presetsObserver } from '../src/seen/presetsSeen';
import { selectorObserver } from '../src/seen/selectorSeen';
import { sleepObserver } from '../src/seen/sleepSeen';
import { stationObserver } from '../src/seen/stationSeen';
import { groundsOfWatch, provedBy, seenFacts, watchAt, watches, watchProving, type WatchedMachine } from '../src/seen/watches';
import { watchIds, type LiveSample } from '@yare/contract';
import { present, type CommandMode } from '@yare/core';
import { demoDraft, demoMachine } from '@yare/demo-plant';

const sample = (s: number, change: Partial<LiveSample> = {}): LiveSample => ({
  ...noLink('P-11', s * 1000),
  ...{ link: 'up', state: 'running', holder: 'terminals', command: 'Terminals' },
  ...change,
});
/** What an observer has found after all samples. */
function seen<P, F>(o: Observer<P, F>, samples: readonly LiveSample[]): F {
  let state = { pending: o.begin, found: o.none };
  for (const s of samples) state = o.look(state.pending, state.found, s);
  return state.found;
}
/** The same sample again and again, ten a second. */
const lasting = (from: number, seconds: number, change: Partial<LiveSample>): LiveSample[] =>
  Array.from({ length: Math.round(seconds * 10) + 1 }, (_, i) => sample(from + i / 10, change));

describe('a search for a turning motor', () => {
  const every = 0.1;
  const searched = [0, 0, 50, 50, ...Array.from({ length: 20 }, (_, i) => 50 - 2.5 * (i + 1)), 2, 4, 6, 8, 10, 10, 10, 6, 3, 0];
  const time = searched.map((_, i) => i * every);
  test('a recorded run begins where the search has ended', () => {
    const begins = runBegins(time, searched);
    expect(Math.max(...searched.slice(begins))).toBe(10);
    // a shaft that was found turning: from its speed on it is a run
    const found = [0, 50, 50, 45, 40, 35, 31, 32.4, 40, 50, 50, 40];
    expect(
      runBegins(
        found.map((_, i) => i * every),
        found,
      ),
    ).toBe(6);
  });
  test('a run up, one that was under way already, and a quick stop are no search', () => {
    const up = [0, 0, 2, 5, 10, 20, 30, 50, 40, 0];
    expect(
      runBegins(
        up.map((_, i) => i * every),
        up,
      ),
    ).toBe(2);
    const under = [50, 50, 40, 20, 0];
    expect(
      runBegins(
        under.map((_, i) => i * every),
        under,
      ),
    ).toBe(0);
    const quick = [0, 50, 50, 50, 50, 50, 50, 50];
    expect(
      runBegins(
        quick.map((_, i) => i * every),
        quick,
      ),
    ).toBe(1);
    expect(runBegins([0, 1], [0, 0])).toBe(2);
  });
  test('live, it is told until the output comes up again', () => {
    const watch = new SearchWatch();
    const told = searched.map((f, i) => watch.look(i * every, f));
    expect(told.indexOf(true)).toBe(2);
    // over before the first speed that is a speed
    expect(told.lastIndexOf(true)).toBeLessThanOrEqual(searched.lastIndexOf(2));
    const plain = new SearchWatch();
    expect([0, 2, 4, 6, 8, 10, 8, 0].some((f, i) => plain.look(i * every, f))).toBe(false);
    // a drive that really is at speed at once is believed after a moment
    const atOnce = new SearchWatch();
    const stood = Array.from({ length: 12 }, (_, i) => atOnce.look(i * every, i === 0 ? 0 : 50));
    expect(stood.at(-1)).toBe(false);
  });
});

describe('the selector', () => {
  const drafted = demoDraft(demoMachine('P-11'));
  const { told } = drafted.book;
  const o = selectorObserver(drafted);
  const at = (mode: CommandMode, change: Partial<LiveSample>): Partial<LiveSample> => ({
    words: { ...noLink('P-11', 0).words, mode: present(told.mode[mode]) },
    ...change,
  });
  test('counts a position only after it did there for a while what it should', () => {
    const hand = at('hand', { outputFrequency: 25 });
    expect(seen(o, lasting(0, 3, hand))).toEqual({ hand: { did: 'ran', frequency: 25 } });
    expect(seen(o, lasting(0, 1, hand))).toEqual({});
    expect(seen(o, lasting(0, 3, at('off', { state: 'ready' })))).toEqual({ off: { did: 'stood' } });
    expect(seen(o, lasting(0, 3, at('remote', { state: 'asleep' })))).toEqual({ auto: { did: 'slept' } });
  });
  test.each<[string, Partial<LiveSample>]>([
    ['a search', at('hand', { outputFrequency: 50, searching: true })],
    ['standing in hand', at('hand', { state: 'held' })],
    ['asked to run and not turning', at('hand', { outputFrequency: 0 })],
    ['running while it is off', at('off', { outputFrequency: 20 })],
    ['asleep in hand', at('hand', { state: 'asleep' })],
    ['a run over the link', at('hand', { outputFrequency: 25, holder: 'here' })],
    ['a drive that says nothing', { ...at('off', { state: 'ready' }), link: 'down' }],
  ])('%s does not count', (_, change) => expect(seen(o, lasting(0, 5, change))).toEqual({}));
});

describe('presets', () => {
  const drafted = demoDraft(demoMachine('C-07'));
  const { told } = drafted.book;
  const o = presetsObserver(drafted);
  const rows = presetTable(drafted).rows;
  const one = present(rows.find((r) => r.number === 1));
  const wanted = present(one.given);
  const closed = presetTable(drafted).contacts.reduce((bits, c) => bits | (one.closed[c.bit] ? 1 << c.input : 0), 1 << 1);
  const says = (change: Partial<LiveSample>): Partial<LiveSample> => ({
    words: { ...noLink('C-07', 0).words, mode: present(told.mode.remote), speedBy: present(told.speed.preset), inputs: closed },
    ...change,
  });
  test('one counts once the output has stood at it', () => {
    expect(seen(o, lasting(0, 2, says({ outputFrequency: wanted })))).toEqual({ 1: wanted });
  });
  test.each<[string, LiveSample[]]>([
    ['passing it on the way', lasting(0, 0.3, says({ outputFrequency: wanted }))],
    ['a search', lasting(0, 3, says({ outputFrequency: wanted, searching: true }))],
    ['another speed', lasting(0, 3, says({ outputFrequency: wanted + 1 }))],
    ['its speed from elsewhere', lasting(0, 3, { outputFrequency: wanted })],
    ['slowing down through it', lasting(0, 3, says({ outputFrequency: wanted, state: 'stopping' }))],
  ])('%s does not count', (_, samples) => expect(seen(o, samples)).toEqual({}));
});

describe('a loop that holds', () => {
  /** what is there at each tenth of a second: feedback around 42 %, output around 60 % */
  const o = holdsObserver((s) => (s.state === 'running' ? { setpoint: 42, feedback: s.feedback, output: s.outputFrequency } : null));
  const stands = (from: number, seconds: number, output = 60) => lasting(from, seconds, { feedback: 42, outputFrequency: output });
  test('a disturbance that was seen, and twenty seconds after it', () => {
    const found = seen(o, [...stands(0, 7), ...lasting(7.2, 2, { feedback: 37, outputFrequency: 75 }), ...stands(10, 25, 70)]);
    expect(present(found)).toMatchObject({ off: 5, output: 15, low: 42, high: 42 });
    expect(present(found).held).toBeGreaterThanOrEqual(20);
    // one that the loop met so well that only its output moved
    expect(present(seen(o, [...stands(0, 7), ...stands(7.2, 25, 70)])).output).toBe(10);
  });
  test('a small one after the end of a run-up counts: a pump on a flat curve hardly moves its output', () => {
    const runUp = Array.from({ length: 30 }, (_, i) => sample(i / 10, { feedback: 41.5, outputFrequency: 60 - (30 - i) / 8 }));
    expect(present(seen(o, [...runUp, ...stands(3, 7), ...stands(10, 25, 57)])).output).toBeGreaterThan(2);
  });
  const shaken = Array.from({ length: 600 }, (_, i) => sample(i / 10, { feedback: 42 + Math.sin(i), outputFrequency: 60 + 1.8 * Math.sin(1.7 * i) }));
  test.each<[string, LiveSample[]]>([
    ['a minute of nothing', stands(0, 60)],
    ['a minute of a noisy output', shaken],
    ['a run-up', [...lasting(0, 5, { feedback: 10, outputFrequency: 80 }), ...stands(5.2, 60)]],
    ['a disturbance it has not come back from', [...stands(0, 7), ...lasting(7.2, 60, { feedback: 37, outputFrequency: 100 })]],
    ['one that is back for ten seconds', [...stands(0, 7), ...lasting(7.2, 2, { feedback: 37, outputFrequency: 75 }), ...stands(10, 10)]],
    [
      'a loop that swings',
      Array.from({ length: 900 }, (_, i) => sample(i / 10, { feedback: 42 + Math.sin(i / 15), outputFrequency: 60 + 8 * Math.cos(i / 15) })),
    ],
    [
      'a stop meanwhile',
      [...stands(0, 7), ...lasting(7.2, 2, { feedback: 37, outputFrequency: 75 }), sample(9.5, { state: 'stopping' }), ...stands(10, 25)],
    ],
  ])('%s does not count', (_, samples) => expect(seen(o, samples)).toBeNull());
});

describe('emergency ventilation', () => {
  const o = emergencyObserver(45);
  const runs = (from: number, seconds: number, outputFrequency = 45, more: Partial<LiveSample> = {}) =>
    lasting(from, seconds, { doing: 'emergency', outputFrequency, ...more });
  const over = (s: number) => sample(s, { state: 'ready' });
  test('a run from its contact to its end, at its speed', () => {
    expect(present(seen(o, [over(0), ...runs(1, 30), over(32)]))).toMatchObject({ frequency: 45, seconds: 31 });
  });
  test.each<[string, LiveSample[]]>([
    ['one that never came to its speed', [...runs(1, 30, 20), over(32)]],
    ['two seconds of it', [...runs(1, 2), over(3.1)]],
    ['the search of a drive that looks for a turning motor', [...runs(1, 30, 50, { searching: true }), over(32)]],
    ['one that goes on', runs(1, 60)],
    ['a link that was lost meanwhile', [...runs(1, 30), sample(31.5, { link: 'down' }), over(32)]],
  ])('%s does not count', (_, samples) => expect(seen(o, samples)).toBeNull());
});

test('trips it ran through before it began are told apart from those it ran through', () => {
  let log = 2;
  const o = emergencyObserver(45, () => log);
  let state = { pending: o.begin, found: o.none };
  for (const s of [sample(0), ...lasting(1, 30, { doing: 'emergency', outputFrequency: 45 }), sample(32, { state: 'ready' })]) {
    state = o.look(state.pending, state.found, s);
    if (s.doing === 'emergency') log = 5;
  }
  expect(state.found).toMatchObject({ ignored: 2 });
});

describe('pumps of a station', () => {
  const run = (...pumps: number[][]) =>
    seen(
      stationObserver,
      pumps.map((p, i) => sample(i, { pumps: p })),
    );
  test('another comes and goes', () => expect(run([1], [1, 2], [2])).toEqual({ staging: { together: [1, 2], left: [2] } }));
  test('one takes the place of another', () => expect(run([2], [3])).toEqual({ replaced: { gone: [2], come: [3] } }));
  test.each<[string, number[][]]>([
    ['all that stop', [[1, 2], []]],
    ['the first that starts', [[], [1]]],
    ['one that comes and stays', [[1], [1, 2]]],
  ])('%s is none', (_, pumps) => expect(run(...pumps)).toEqual({}));
  test('what happened while the link was lost was not seen', () => {
    expect(seen(stationObserver, [sample(0, { pumps: [1, 2] }), sample(1, { link: 'down', pumps: [1, 2] }), sample(2, { pumps: [3] })])).toEqual({});
  });
});

describe('what is watched for', () => {
  const p11 = demoMachine('P-11');
  const drafted = demoDraft(p11);
  const m: WatchedMachine = { driven: p11.driven, driveRevision: 1, drafted, held: drafted };

  test('every test that is proved by watching has one watching, by its own stage', () => {
    for (const id of watchIds) for (const item of watches[id].items(m)) expect(watchProving(watches[id].stage, item, m)).toBe(id);
    expect([watchProving('sleep', 'sleeps', m), watchProving('process', 'sensor', m), watchProving('sleep', 'selector', m)]).toEqual([
      'sleep',
      null,
      null,
    ]);
  });

  test('a test is proved by what was seen of it alone, and takes only that along', () => {
    expect([provedBy('presets', { 1: 15 }, 'preset 1', m), provedBy('presets', { 1: 15 }, 'preset 2', m)]).toEqual([
      { kind: 'preset', frequency: 15 },
      null,
    ]);
    expect(watchAt('presets').without({ 1: 15, 2: 20 }, 'preset 1')).toEqual({ 2: 20 });
    const [hand, off, auto] = [{ did: 'ran', frequency: 25 }, { did: 'stood' }, { did: 'slept' }];
    expect(provedBy('selector', { hand, off }, 'selector', m)).toBeNull();
    expect(provedBy('selector', { hand, off, auto }, 'selector', m)).toEqual({ kind: 'selector', hand, off, auto });
    // what is seen of it so far is told even so
    expect(seenFacts('selector', { hand }, m)).toEqual({ selector: { kind: 'selector', hand } });
    expect(watchAt('guards').without({ dryRun: { did: 'rested' }, noFlow: { did: 'warned' } }, 'dryRun')).toEqual({ noFlow: { did: 'warned' } });
  });

  test('rests on what its tests rely on in the drive, and on nothing else of it', () => {
    const changed = (role: 'sleepFrequency' | 'jogSpeed', value: number): WatchedMachine => {
      const [change] = drafted.change(role, value);
      return { ...m, held: drafted.with({ ...drafted.values, [present(change).code]: present(change).value }) };
    };
    expect(groundsOfWatch('sleep', changed('sleepFrequency', 33))).not.toBe(groundsOfWatch('sleep', m));
    expect(groundsOfWatch('sleep', changed('jogSpeed', 7))).toBe(groundsOfWatch('sleep', m));
    expect(groundsOfWatch('sleep', { ...m, driveRevision: 2 })).not.toBe(groundsOfWatch('sleep', m));
  });

  test('nothing is watched for that needs the drive, before it was read', () => {
    for (const id of ['presets', 'selector', 'emergency', 'holds'] as const) expect(watchAt(id).observer({ ...m, held: null }, () => m)).toBeNull();
  });
});

describe('sleep', () => {
  const asleep = (s: number, more: Partial<LiveSample> = {}) => sample(s, { state: 'asleep', feedback: 44, ...more });
  test('out of its run, and awake by itself', () => {
    expect(seen(sleepObserver, [sample(0), asleep(1), asleep(50), sample(61, { feedback: 38 })])).toEqual({ seconds: 60, fell: 6 });
  });
  test.each<[string, LiveSample[]]>([
    ['a rest after a guard', [sample(0), asleep(1, { doing: 'resting' }), sample(60)]],
    ['asleep when one came', [asleep(0), sample(60)]],
    ['stopped in its sleep', [sample(0), asleep(1), sample(60, { state: 'ready' }), sample(70)]],
    ['a second of it', [sample(0), asleep(1), sample(1.9)]],
    ['a link that was lost meanwhile', [sample(0), asleep(1), sample(30, { link: 'down' }), sample(60)]],
    ['not yet awake', [sample(0), asleep(1), asleep(500)]],
  ])('%s does not count', (_, samples) => expect(seen(sleepObserver, samples)).toBeNull());
});

describe('guards', () => {
  const drafted = demoDraft(demoMachine('P-11'));
  const { trips } = drafted.book;
  const o = guardsObserver(drafted.book);
  const dry = present(trips.find((t) => t.cause === 'dryRun'));
  const tripped = (s: number, code: number) => sample(s, { state: 'tripped', trip: { code, name: '', sentence: '' } });
  test('a guard that acts while one watches: a trip, a rest, a warning, and what a drive does by itself', () => {
    expect(seen(o, [sample(0), tripped(1, dry.code)])).toEqual({ dryRun: { did: 'tripped', code: dry.code } });
    expect(seen(o, [sample(0), sample(1, { warns: ['noFlow'], doing: 'resting' })])).toEqual({ noFlow: { did: 'rested' } });
    expect(seen(o, [sample(0), sample(1, { warns: ['highLoad'] })])).toEqual({ highLoad: { did: 'warned' } });
    expect(seen(o, [sample(0), ...lasting(1, 30, { doing: 'cleaning' }), sample(32)])).toEqual({ cleaning: { did: 'ran', seconds: 31 } });
  });
  test.each<[string, LiveSample[]]>([
    ['a trip that stood there when one came', [tripped(0, dry.code), tripped(1, dry.code)]],
    ['a warning that stood there', [sample(0, { warns: ['noFlow'] }), sample(1, { warns: ['noFlow'] })]],
    ['another trip', [sample(0), tripped(1, present(trips.find((t) => t.cause === 'overcurrent')).code)]],
    ['cleaning that ended by a stop', [sample(0), ...lasting(1, 30, { doing: 'cleaning' }), sample(32, { state: 'ready' })]],
  ])('%s does not count', (_, samples) => expect(seen(o, samples)).toEqual({}));
});
