import {
  random,
  wakingMemory,
  HandSpeed,
  OutputJob,
  SpeedSource,
  StartContact,
  StartSource,
  StopKey,
  SwitchOver,
  InputJob as Job,
  type CommandInputs,
  type Resolution,
} from '../src';
import { outputOn } from '../src/controls/firmware';
import { awake, contacts, drive, settings } from './commandDrive';

describe('two wires', () => {
  // IEC 60204-1, 9.2.3 and 9.2.5.2: a stop overrides a start; a start is given by a deliberate act
  test.each([
    // forward, reverse, enable → runs, Hz
    [0, 0, 1, false, 1],
    [1, 0, 1, true, 1],
    [0, 1, 1, true, -1],
    [1, 1, 1, false, 1],
    [1, 0, 0, false, 1],
  ])('forward %d, reverse %d, enable %d', (forward, reverse, enable, runs, way) => {
    const r = awake(settings())(contacts(forward, reverse, 0, 0, 1, enable));
    expect(r.run).toBe(runs);
    expect(r.reference).toBeCloseTo(way * 27.5, 9);
  });

  test('both contacts at once start nothing, and letting go of one does not either', () => {
    const scan = awake(settings());
    expect(scan(contacts(1, 1, 0, 0, 1, 1)).holds).toContain('both directions');
    expect(scan(contacts(1, 0, 0, 0, 1, 1)).run).toBe(false);
    scan(contacts(0, 0, 0, 0, 1, 1));
    expect(scan(contacts(1, 0, 0, 0, 1, 1)).run).toBe(true);
  });

  test('a contact that acts while closed starts again when the enable closes; one that acts when it closes does not', () => {
    for (const [startContact, again] of [
      [StartContact.level, true],
      [StartContact.edge, false],
    ] as const) {
      const scan = awake(settings({ startContact }));
      expect(scan(contacts(1, 0, 0, 0, 1, 1)).run).toBe(true);
      expect(scan(contacts(1, 0, 0, 0, 1, 0)).run).toBe(false);
      expect(scan(contacts(1, 0, 0, 0, 1, 1)).run).toBe(again);
    }
  });
});

describe('three wires', () => {
  const jobs = [Job.startPulse, Job.stopOpens, Job.reversePulse, Job.direction];
  const three = () => awake(settings({ jobs }));
  // start, stop contact closed, → runs, starting from rest: the start is a pulse, the stop a contact that opens
  test.each([
    [0, 0, false],
    [0, 1, false],
    [1, 0, false],
    [1, 1, true],
  ])('start %d, stop %d', (start, stop, runs) => {
    expect(three()(contacts(start, stop, 0, 0)).run).toBe(runs);
  });

  test('it runs on without the button, a stop ends it for good, and a start held through a stop starts nothing', () => {
    const scan = three();
    scan(contacts(1, 1, 0, 0));
    expect(scan(contacts(0, 1, 0, 0)).run).toBe(true);
    expect(scan(contacts(1, 0, 0, 0)).lost).toContainEqual({ what: 'start', from: 'start button', input: 0, to: 'stop' });
    expect(scan(contacts(1, 1, 0, 0)).run).toBe(false);
    scan(contacts(0, 1, 0, 0));
    expect(scan(contacts(1, 1, 0, 0)).run).toBe(true);
  });

  test('backward by a button of its own, or by a contact that turns the direction round', () => {
    const byButton = three();
    byButton(contacts(0, 1, 1, 0));
    expect(byButton(contacts(0, 1, 0, 0))).toMatchObject({ run: true, start: 'start button', reference: -27.5 });
    const byLevel = three();
    byLevel(contacts(1, 1, 0, 1));
    expect(byLevel(contacts(0, 1, 0, 1)).reference).toBeCloseTo(-27.5, 9);
    expect(byLevel(contacts(0, 1, 0, 0)).reference).toBeCloseTo(27.5, 9);
  });
});

test('a stop that closes again gives nothing back, whatever had started it', () => {
  const jobs = [Job.runForward, Job.stopOpens];
  const byContact = awake(settings({ jobs }));
  byContact(contacts(0, 1));
  expect(byContact(contacts(1, 1)).run).toBe(true);
  byContact(contacts(1, 0));
  expect(byContact(contacts(1, 1))).toMatchObject({ run: false, holds: ['start to be renewed'] });
  const byKey = awake(settings({ jobs, remote: { start: StartSource.keypad, speed: SpeedSource.keypad } }));
  byKey({ ...contacts(0, 1), keypad: { start: true, stop: false } });
  expect(byKey({ keypad: { start: false, stop: false } }).run).toBe(true);
  byKey(contacts(0, 0));
  expect(byKey(contacts(0, 1)).run).toBe(false);
});

describe('nothing starts by itself', () => {
  // IEC 60204-1, 7.5: the return of a supply starts nothing; 9.2.3.4.2: neither does the reset of an emergency stop
  const held = contacts(1, 0, 0, 0, 1, 1);
  const anew = (scan: (c?: Partial<CommandInputs>) => Resolution) => {
    scan(contacts(0, 0, 0, 0, 1, 1));
    return scan(held).run;
  };

  test('a start that is given when power comes has to be given anew', () => {
    const scan = drive(settings());
    expect(scan(held).holds).toEqual(['start to be renewed']);
    expect(scan().run).toBe(false);
    expect(anew(scan)).toBe(true);
  });

  test('a button that is closed when power comes latches nothing', () => {
    const scan = drive(settings({ jobs: [Job.startPulse, Job.stopOpens] }), wakingMemory(false));
    expect(scan(contacts(1, 1)).run).toBe(false);
    expect(scan().run).toBe(false);
  });

  test.each([
    ['safe torque off', { torqueAllowed: false }, { torqueAllowed: true }],
    ['stop key', { keypad: { start: false, stop: true } }, { keypad: { start: false, stop: false } }],
    ['borrowed', { borrowed: true }, { borrowed: false }],
    ['tripped', { trip: 'overvoltage' as const }, { trip: null }],
  ])('%s comes and goes while a run contact is closed', (hold, comes, goes) => {
    const scan = awake(settings());
    expect(scan(held).run).toBe(true);
    expect(scan(comes).holds).toContain(hold);
    expect(scan(goes).run).toBe(false);
    expect(anew(scan)).toBe(true);
  });

  test('command that comes back from the link while the selector stands at hand starts nothing', () => {
    const scan = awake(settings({ jobs: [Job.hand, Job.auto], handSpeed: HandSpeed.keypad }));
    scan({ borrowed: true });
    scan(contacts(1, 0));
    expect(scan({ borrowed: false })).toMatchObject({ mode: 'hand', run: false, holds: ['start to be renewed'] });
    scan(contacts(0, 0));
    expect(scan(contacts(1, 0)).run).toBe(true);
  });

  test('a reset pressed with the start given clears the trip and starts nothing', () => {
    const scan = awake(settings({ jobs: [Job.runForward, Job.resetTrip], restarts: { autoRestarts: 3, restartInterval: 60 } }));
    scan(contacts(1, 0));
    scan({ trip: 'overvoltage' });
    expect(scan(contacts(1, 1)).clearsTrip).toBe(true);
    expect(scan({ ...contacts(1, 0), trip: null }).run).toBe(false);
  });

  test('where restarts are set, it clears the trip itself after its interval and runs on', () => {
    const scan = awake(settings({ jobs: [Job.startPulse, Job.stopOpens], restarts: { autoRestarts: 1, restartInterval: 0.25 } }));
    scan(contacts(1, 1));
    scan(contacts(0, 1));
    expect([scan({ trip: 'undervoltage' }), scan(), scan()].map((r) => r.clearsTrip)).toEqual([false, false, true]);
    expect(scan({ trip: null }).run).toBe(true);
    expect([scan({ trip: 'undervoltage' }), scan(), scan(), scan()].some((r) => r.clearsTrip)).toBe(false);
  });
});

describe('selector, local and remote', () => {
  const jobs = [Job.hand, Job.auto, Job.runForward];
  test('off is off whatever else is closed; both contacts of the selector are a fault', () => {
    expect(awake(settings({ jobs }))(contacts(0, 0, 1))).toMatchObject({ run: false, mode: 'off', holds: ['selector off'] });
    expect(awake(settings({ jobs }))(contacts(1, 1, 0))).toMatchObject({ run: false, holds: ['selector both'] });
  });

  test('hand takes its own speed, auto the process’s', () => {
    const s = settings({ jobs, remote: { start: StartSource.terminals, speed: SpeedSource.process } });
    expect(awake(s)({ ...contacts(1, 0, 0), second: 0.6 })).toMatchObject({ mode: 'hand', start: 'hand contact', run: true, reference: 30 });
    expect(awake(s)(contacts(0, 1, 0))).toMatchObject({ start: 'auto contact', run: true, reference: null, speed: 'process' });
  });

  test('changed over while it runs: it carries on or stops, as set', () => {
    for (const [switchOver, on] of [
      [SwitchOver.carriesOn, true],
      [SwitchOver.stops, false],
    ] as const) {
      const scan = awake(settings({ jobs: [Job.runForward, Job.local], switchOver }));
      expect(scan(contacts(1, 0))).toMatchObject({ mode: 'remote', run: true });
      const local = scan(contacts(1, 1));
      expect(local).toMatchObject({ mode: 'local', start: 'keypad', run: on });
      expect(local.lost).toContainEqual({ what: 'start', from: 'run contact', input: 0, to: 'source' });
    }
  });

  test('an input may do another job in local', () => {
    const s = settings({
      jobs: [Job.runForward, Job.local, Job.secondRamp],
      localJobs: [Job.runForward, Job.local, Job.presetBit0],
      local: { start: StartSource.terminals, speed: SpeedSource.keypad },
    });
    expect(awake(s)(contacts(1, 0, 1))).toMatchObject({ secondRamp: true, preset: 0 });
    expect(awake(s)(contacts(1, 1, 1))).toMatchObject({ secondRamp: false, preset: 1, reference: 10 });
  });
});

describe('keypad and link', () => {
  test('the keypad starts where it may, and elsewhere is told that it lost', () => {
    const keys = { keypad: { start: true, stop: false } };
    expect(awake(settings())(keys).lost).toContainEqual({ what: 'start', from: 'keypad', input: null, to: 'source' });
    const scan = awake(settings({ jobs: [Job.notUsed], remote: { start: StartSource.keypad, speed: SpeedSource.keypad } }));
    expect(scan(keys)).toMatchObject({ run: true, start: 'keypad', reference: 12 });
    expect(scan({ keypad: { start: false, stop: false } }).run).toBe(true);
    expect(scan({ keypad: { start: false, stop: true } }).run).toBe(false);
    expect(scan({ keypad: { start: false, stop: false } }).run).toBe(false);
  });

  test('a controller that falls silent stops it, and does not start it by coming back', () => {
    const scan = awake(settings({ jobs: [Job.notUsed], remote: { start: StartSource.link, speed: SpeedSource.link } }));
    const says = { alive: true, run: true, reference: -22 };
    expect(scan({ link: says })).toMatchObject({ run: true, start: 'link', reference: -22 });
    expect(scan({ link: { ...says, alive: false } })).toMatchObject({ run: false, holds: ['link lost', 'start to be renewed'] });
    expect(scan({ link: says }).run).toBe(false);
    scan({ link: { ...says, run: false } });
    expect(scan({ link: says }).run).toBe(true);
  });
});

// stopping and starting functions are separate, and a start needs a deliberate act (IEC 60204-1, 9.2.3.2)
test('letting go of anything never starts: 40 000 scans of panels, buttons and contacts at random', () => {
  const acts = [Job.runForward, Job.runReverse, Job.startPulse, Job.reversePulse, Job.jogForward, Job.jogReverse, Job.presetBit0, Job.secondRamp];
  const { uniform } = random(22);
  const pick = <T>(all: readonly T[]): T => all[Math.floor(uniform() * all.length)] as T;
  let let_go = 0;
  let starts = 0;
  for (let panel = 0; panel < 400; panel++) {
    const jobs = [Job.stopOpens, ...Array.from({ length: 5 }, () => pick(acts))];
    const scan = drive(
      settings({ jobs, startContact: pick([StartContact.level, StartContact.edge]), stopKey: pick([StopKey.always, StopKey.keypadStart]) }),
    );
    let closed = jobs.map((_, i) => i === 0 || uniform() < 0.3);
    let keypad = { start: false, stop: false };
    let runs = scan({ closed, keypad }).run;
    for (let i = 0; i < 100; i++) {
      const only = uniform() < 0.5;
      // the stop button opens when it is pressed: its letting go is a closing
      const next = closed.map((c, k) => (uniform() < 0.25 ? (only ? k === 0 : uniform() < 0.5) : c));
      const keys = only ? { start: false, stop: false } : { start: uniform() < 0.1, stop: uniform() < 0.1 };
      const now = scan({ closed: next, keypad: keys });
      if (only) {
        let_go++;
        if (!runs) expect({ panel, i, jobs, closed, next, keypad, run: now.run }).toMatchObject({ run: false });
      }
      if (now.run && !runs) starts++;
      ({ run: runs } = now);
      closed = next;
      keypad = keys;
    }
  }
  expect(let_go).toBeGreaterThan(15_000);
  expect(starts).toBeGreaterThan(500);
});

test('an output pulls in at its threshold and lets go below it by its hysteresis', () => {
  const facts = {
    running: true,
    ready: true,
    tripped: false,
    atSpeed: false,
    minimum: 0,
    brakeOpens: false,
    pumps: [],
    warns: false,
    emergency: false,
  };
  const on = (frequency: number, was: boolean) =>
    outputOn(OutputJob.aboveThreshold, { ...facts, frequency }, { frequency: 30.1, hysteresis: 1 }, was);
  expect([on(30, false), on(30.1, false), on(29.2, true), on(29, true)]).toEqual([false, true, true, false]);
});
