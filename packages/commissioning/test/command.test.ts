import { bookById, DriveSettings } from '@yare/books';
import { AnalogueOutJob, InputJob, inputsWord, outputSignal, present, StartSource } from '@yare/core';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import {
  enumerateCommand,
  atRest,
  decode,
  otherSpeakers,
  presetTable,
  shownSignals,
  sourceSentences,
  speedUnits,
  stageFindings,
  stripOf,
  truthTable,
  whatStops,
  type AsItStands,
} from '../src';
import { fitJobs, schemes } from '../src/command/fitJobs';

const draft = (tag: string, change: Record<string, number> = {}) => demoDraft(demoMachine(tag), change);
const found = (tag: string, change: Record<string, number> = {}) => {
  const { plate, supply, driven } = demoMachine(tag);
  return stageFindings({ settings: draft(tag, change), plate, supply, driven });
};
const one = (tag: string, id: string, change: Record<string, number> = {}) => present(found(tag, change).find((f) => f.id === id));
const scheme = (id: string) => present(schemes.find((s) => s.id === id));
const labels = (f: ReturnType<typeof one>) => [f.remedy, ...(f.more ?? [])].map((r) => r?.label);

/** What is left to say once a way out was taken. */
const after = (tag: string, id: string, change: Record<string, number>, way: number) => {
  const f = one(tag, id, change);
  const changes = present([f.remedy, ...(f.more ?? [])][way]).changes ?? [];
  return found(tag, { ...change, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) }).map((x) => x.id);
};

describe('who starts it and who sets its speed', () => {
  test('in one sentence, by mode', () => {
    expect(sourceSentences(draft('P-11')).map((s) => s.sentence)).toEqual([
      'The selector at auto (D5) starts it; the process loop sets its speed.',
      'The selector at hand (D4) starts it; the signal at A2 sets its speed.',
    ]);
    expect(sourceSentences(draft('C-21'))[0]?.sentence).toBe('The run contact at D1 starts it; the signal at A1 sets its speed.');
  });

  test('what would happen if the others spoke', () => {
    const would = (from: AsItStands) => Object.fromEntries(otherSpeakers(draft('C-07'), from).map((o) => [o.who, o.would]));
    const rest = atRest(draft('C-07'));
    const said = would(rest);
    expect(said['Start button pressed (D1)']).toContain('it starts, at 10 Hz');
    expect(said['Stop button pressed (D2)']).toContain('nothing starts. The stop contact is open');
    expect(said['Start key of the keypad pressed']).toContain('nothing starts');
    // started by its button, which remembers: a second press is nothing, a stop is one
    const running = would({ ...rest, memory: { ...rest.memory, latched: 1, ran: true } });
    expect(running['Start button pressed (D1)']).toBe('nothing changes');
    expect(whatStops(draft('C-07'), { ...rest, memory: { ...rest.memory, latched: 1, ran: true } })).toEqual(
      expect.arrayContaining(['Stop button pressed (D2)', 'Stop key of the keypad pressed']),
    );
    expect(whatStops(draft('C-07'), rest)).toEqual([]);
    expect(running['Stop button pressed (D2)']).toContain('it stops');
  });

  test('a controller that has started it and falls silent, and a run contact that opens', () => {
    const linked = draft('C-07', { '5a': StartSource.link });
    const { inputs, memory } = atRest(linked);
    const said = (from: AsItStands) => Object.fromEntries(otherSpeakers(linked, from).map((o) => [o.id, `${o.who}: ${o.would}`]));
    expect(said({ inputs, memory }).link).toContain('says run: it starts');
    expect(said({ inputs: { ...inputs, link: { alive: true, run: true, reference: 30 } }, memory }).link).toContain('says stop: it stops');
    const running = { ...inputs, closed: inputs.closed.map((c, i) => c || i === 0) };
    const run = otherSpeakers(draft('C-21'), { ...atRest(draft('C-21')), inputs: running }).find((o) => o.id === `job ${InputJob.runForward}`);
    expect(present(run).who).toContain('opened');
  });
});

test('the truth table of three wires: only the start with the stop closed runs', () => {
  const { terminals, rows } = truthTable(draft('C-07'));
  expect(terminals).toEqual(['D1', 'D2']);
  expect(rows.map((r) => [r.closed.map(Number).join(''), r.outcome])).toEqual([
    ['00', 'stands'],
    ['10', 'stands'],
    ['01', 'stands'],
    ['11', 'runs forward, 10 Hz'],
  ]);
  const selector = truthTable(draft('P-11')).rows.map((r) => r.outcome);
  expect(selector).toEqual(['stands', 'runs forward, 25 Hz', 'runs forward, at what the process asks', 'stands']);
});

describe('decoded from the drive’s own words', () => {
  const held = () => draft('M-55', { w30: 2, w31: 300, w32: -600, w35: 7, w36: 8, w37: 3 });
  const running = (d: DriveSettings, outputFrequency: number, closed: readonly number[]) => {
    const { told } = d.book;
    const contacts = d.inputs.map((_s, i) => closed.includes(i));
    const words = {
      mode: present(told.mode.remote),
      startedBy: present(told.start['start button']),
      speedBy: present(told.speed[closed.includes(2) ? 'preset' : 'keypad']),
      heldBack: 0,
      inputs: inputsWord(contacts, [1, 1]),
      outputs: 0,
      analogue: 0,
      second: 0,
    };
    return decode(d, { words, holder: 'terminals', state: 'running', trip: null, outputFrequency });
  };

  test.each([
    ['forward at the keypad’s speed', 10, [1, 3]],
    ['backward, by the minus sign of preset 1', -20, [1, 2, 3]],
  ] as const)('started by its button, %s: another press changes nothing, and the link claims nothing', (_what, hertz, closed) => {
    const seen = running(held(), hertz, closed);
    expect(seen.resolution).toMatchObject({ run: true, reference: hertz });
    expect(otherSpeakers(held(), seen).find((o) => o.id === `job ${InputJob.startPulse}`)?.would).toBe('nothing changes');
    expect(seen.lost.filter((l) => l.from === 'link')).toEqual([]);
  });
});

describe('conflicts over all modes', () => {
  test('a machine of the demo plant has none of the hard ones', () => {
    for (const tag of ['P-11', 'F-32', 'C-07', 'C-21', 'M-55', 'P-41'])
      expect([tag, found(tag).filter((f) => ['command', 'terminals', 'presets'].includes(f.stage) && f.severity === 'error')]).toEqual([tag, []]);
  });

  test('an input that guards in remote and chooses a preset in local: both jobs, both settings, every way out', () => {
    // D5 is the external trip in remote and preset bit 0 in local
    const change = { '6a': 22, '6e': 9, '6f': 0, '6z': 5 };
    const f = one('C-21', 'two jobs 6e', change);
    expect(f).toMatchObject({ severity: 'error' });
    for (const part of ['D5', 'External trip (6e)', 'Preset bit 0 (6z)', 'in local nobody guards']) expect(f.sentence).toContain(part);
    expect(labels(f)).toEqual(['Let D5 keep its job in local', 'Move External trip to D6']);
    for (const way of [0, 1]) expect(after('C-21', 'two jobs 6e', change, way)).not.toContain('two jobs 6e');
  });

  test('one job at two inputs; either can be left unused', () => {
    const change = { '6c': 5 };
    const f = one('C-07', 'doubled 6d', change);
    expect(f.sentence).toContain('D3 (6c) and D4 (6d) both have the job Preset bit 0');
    for (const way of [0, 1]) expect(after('C-07', 'doubled 6d', change, way)).not.toContain('doubled 6d');
  });

  test('buttons without a stop, half a selector, a brake without a relay', () => {
    expect(labels(one('C-07', 'no stop', { '6b': 0 }))).toEqual(['Give D2 the stop', 'Use a run contact instead of a button']);
    expect(one('P-11', 'half a selector', { '6e': 0 }).sentence).toContain('D4 (6d) is hand and no input is auto');
    expect(one('C-07', 'brake without relay', { '6h': 1 }).sentence).toContain('the brake never opens');
    expect(after('C-07', 'brake without relay', { '6h': 1 }, 1)).not.toContain('brake without relay');
  });

  test('a contact nothing listens to is found by trying every combination', () => {
    expect(one('P-11', 'idle remote 6a', { '6a': 1 }).sentence).toContain('a selector is wired, and its position starts it');
    expect(one('C-21', 'idle remote 6a', { '5a': 1 }).sentence).toContain('Start source 5a says Keypad');
    expect(found('C-21', { '5a': 1 }).map((f) => f.id)).not.toContain('idle remote 6f');
  });

  test('every combination of a drive with eight inputs in every mode', () => {
    const e = enumerateCommand(draft('F-32', { '16/1': 15 }));
    expect(e.rows).toHaveLength(256);
    expect([...e.modes].sort()).toEqual(['hand', 'local', 'off', 'remote']);
  });

  test('speeds: nothing that starts, presets nobody chooses, a threshold that is never reached, restarts by itself', () => {
    const ids = found('C-21', { '6a': 0, '6b': 0, '5b': 3, '6d': 0, '6e': 0, '6g': 7, '6u': 70, '7f': 3, '5e': 1 }).map((f) => f.id);
    for (const id of ['remote nothing starts', 'remote no preset contact', 'threshold too high', 'restarts by itself', 'starts with the power'])
      expect(ids).toContain(id);
  });
});

describe('presets', () => {
  test('a preset of the speed that is there with every switch open anyway: its switch does nothing', () => {
    const { code } = present(draft('C-07').presets[0]);
    const same = draft('C-07').controls().command.keypadSpeed;
    expect(one('C-07', 'preset 1 alike', { [code]: same }).sentence).toContain('with every switch open');
  });

  test('two contacts choose four, and each is what its switches make', () => {
    const { rows, contacts } = presetTable(draft('C-07'));
    expect(contacts.map((c) => c.setting.code)).toEqual(['6d', '6e']);
    expect(rows.map((r) => [r.number, r.closed.map(Number).join(''), r.given])).toEqual([
      [0, '00', 10],
      [1, '10', 15],
      [2, '01', 30],
      [3, '11', 45],
    ]);
  });

  test('four contacts choose sixteen', () => {
    expect(presetTable(draft('C-07', { '6a': 5, '6b': 6, '6c': 7, '6d': 15, '6e': 0 })).rows).toHaveLength(16);
  });

  test('clashes with limits, skip band, reverse and each other', () => {
    const ids = found('C-07', { '2c': 0, '2d': 30, '2e': 4, '9a': -15, '9c': 28 }).filter((f) => f.stage === 'presets');
    expect(ids.map((f) => f.id)).toEqual(['preset 1 limited', 'preset 2 limited', 'preset 3 alike']);
    expect(ids[0]?.sentence).toBe('Preset 1 asks for −15 Hz and gives 0 Hz: reverse is forbidden: chosen, it stands still.');
    expect(labels(present(ids[0]))).toEqual(['Permit reverse', 'Turn it forward at 15 Hz']);
  });

  // common practice: presets as shares of rated speed; 10, 50 and 100 % of 1370 rpm
  test('10, 50 and 100 % of 1370 rpm are 137, 685 and 1370 rpm', () => {
    const d = new DriveSettings(bookById('osier-g'), 'G2.2', { '1d': 50, '1e': 1370 }, 50);
    const named = Object.fromEntries(speedUnits(d, demoMachine('C-07').driven, { unit: null }).map((u) => [u.name, u.perHertz]));
    const rated = d.parameters().motorSpeed;
    expect([10, 50, 100].map((share) => Math.round((share / present(named['%'])) * present(named.rpm) * (1370 / rated)))).toEqual([137, 685, 1370]);
  });

  test('a belt’s own unit comes from its drum, a fan’s from its volume, and any other from what somebody noted', () => {
    const unit = (tag: string, own: { name: string; value: number; frequency: number } | null = null) =>
      speedUnits(draft(tag), demoMachine(tag).driven, { unit: own })[3];
    // 1.1 m/s at 50 Hz
    expect(present(unit('C-07')).perHertz * 50).toBeCloseTo(66, 9);
    expect(present(unit('F-32')).name).toBe('m³/h');
    expect(unit('M-55')).toBeUndefined();
    expect(unit('M-55', { name: 'strokes/min', value: 120, frequency: 50 })).toMatchObject({ name: 'strokes/min', perHertz: 2.4 });
  });
});

describe('jobs for too few inputs', () => {
  test('what guards a machine stays wired, whatever steers it: the smoke contact of a fan', () => {
    for (const s of schemes) {
      const { placed, left } = fitJobs(draft('F-32'), s);
      expect([s.id, [...placed, ...left].some((x) => x.job === InputJob.emergency)]).toEqual([s.id, true]);
    }
    expect(fitJobs(draft('F-32'), scheme('two-wire')).placed.map((p) => p.job)).toContain(InputJob.emergency);
  });

  test('each job finds an input that may carry it, the most important first; what is left out is told with a way', () => {
    const fit = fitJobs(draft('M-55'), scheme('buttons'));
    expect(fit.placed.map((p) => p.job).sort()).toEqual([InputJob.startPulse, InputJob.stopOpens, InputJob.externalTrip, InputJob.presetBit0].sort());
    expect(fit.left.map((l) => [l.job, l.why])).toEqual([
      [InputJob.presetBit1, 'too few'],
      [InputJob.resetTrip, 'too few'],
    ]);
    expect(fitJobs(draft('M-55'), scheme('hand-off-auto'))).toMatchObject({ lacksSpeed: true });
  });

  test('a family that takes some jobs at some inputs only gets them there', () => {
    const d = draft('F-32');
    for (const s of schemes)
      for (const { setting, job } of fitJobs(d, s).placed) expect([s.id, setting.code, d.valueFor(setting, job)]).not.toContain(null);
  });

  test('what stands right already stays', () => {
    expect(fitJobs(draft('C-07'), scheme('buttons')).changes).toEqual([]);
  });
});

test('the strip has every terminal of this size once, and a doubler’s has no third phase', () => {
  const ids = stripOf(draft('C-07'), { inputs: {} }).map((t) => t.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids).toEqual(expect.arrayContaining(['L1', 'D1', 'R2', 'Q1', 'A2', 'S1']));
  const doubler = stripOf(new DriveSettings(bookById('withy'), 'W0.4D', {}, 60), { inputs: {} }).map((t) => t.id);
  expect([doubler.includes('N'), doubler.includes('3')]).toEqual([true, false]);
});

test('an analogue output shows its value as 4 to 20 mA: 40 % is 10.4 mA, backwards no less, beyond its end no more', () => {
  const [shown] = shownSignals(draft('C-07'));
  const { full, unit, job } = present(shown);
  expect([job, unit, full]).toEqual([AnalogueOutJob.outputFrequency, 'Hz', draft('C-07').parameters().maximumFrequency]);
  expect([0, 0.4, -0.4, 1.2].map((share) => outputSignal(share * full, full))).toEqual([4, 10.4, 10.4, 20].map((mA) => expect.closeTo(mA, 9)));
  expect(shownSignals(draft('C-07', { '6w': AnalogueOutJob.nothing }))).toEqual([]);
});
