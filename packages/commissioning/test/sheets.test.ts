import { bookById, DriveSettings } from '@yare/books';
import { differing, figuresOf, keypadList, newerOf, notAsFactory, runBlock, standsNow, emptySurvey, surveyGround } from '../src';
import { present } from '@yare/core';
import { demoPlant } from '@yare/demo-plant';
import { demoModel } from './model';

const codes = (settings: ReadonlyArray<{ code: string }>) => settings.map((s) => s.code);

describe('draft against drive', () => {
  const drive = (values: Record<string, number>) => new DriveSettings(bookById('withy'), 'W0.2', values, 50);

  test('differs where the drive would store something else; its rounding is no difference', () => {
    // steps of 0.1 A and of 1 s
    expect(codes(differing(drive({ w22: 0.61 }), drive({ w22: 0.6 })))).toEqual([]);
    expect(codes(differing(drive({ w22: 0.61, w10: 5 }), drive({ w22: 0.6, w10: 6 })))).toEqual(['w10']);
  });

  test('what can only be read never differs, and is never not as from the factory', () => {
    const hours = present(drive({}).all.find((s) => s.access === 'read')).code;
    expect(differing(drive({}), drive({ [hours]: 4711 }))).toEqual([]);
    expect(notAsFactory(drive({ [hours]: 4711 }))).toEqual([]);
    expect(codes(notAsFactory(drive({ w10: 7 })))).toEqual(['w10']);
  });

  test('on 60 Hz the factory values are those of 60 Hz', () => {
    const american = new DriveSettings(bookById('osier-g'), 'G4', {}, 60);
    expect(american.role('motorFrequency')).toBe(60);
    expect(notAsFactory(american)).toEqual([]);
    const { code } = american.need('motorFrequency');
    expect(codes(notAsFactory(american.with({ [code]: 50 })))).toEqual([code]);
  });

  test('the newer side: the draft until the drive was changed after it was found', () => {
    const at = (hour: number) => ({ at: `2026-01-01T${String(hour).padStart(2, '0')}:00:00Z` });
    expect(newerOf(at(9), at(8), at(7))).toBe('draft');
    expect(newerOf(at(8), at(9), at(7))).toBe('drive');
    // as it was found: nobody changed it since, however late it was read
    expect(newerOf(at(8), at(9), at(9))).toBe('draft');
    expect(newerOf(at(8), at(9), null)).toBe('drive');
  });

  test('a sheet is its figures by code', () => {
    expect(figuresOf({ '3a': { value: 5 }, '3b': { value: 7 } })).toEqual({ '3a': 5, '3b': 7 });
  });
});

describe('the keypad list', () => {
  test('once the drive was read: what differs from it, as its display shows it', () => {
    const model = demoModel('P-11', { '3a': 5, '3g': 1 }, {});
    const lines = keypadList(model);
    expect(lines.find((l) => l.code === '3a')).toEqual({ code: '3a', name: 'Acceleration time', enter: '5.0 s', means: '' });
    // a choice is keyed in by its number, and said in words beside it
    expect(lines.find((l) => l.code === '3g')).toMatchObject({ enter: '1', means: expect.stringMatching(/[A-Z]/) });
    expect(codes(lines)).toEqual(codes(model.differing));
  });

  test('before it was read: what is not as from the factory', () => {
    const model = demoModel('P-11', { '3a': 5 }, null);
    expect(model.differing).toEqual([]);
    expect(codes(keypadList(model))).toEqual(['3a']);
  });
});

describe('may it run', () => {
  const sample = (change: Partial<Parameters<typeof runBlock>[0]> = {}) =>
    ({ link: 'up', state: 'ready', holder: 'terminals', waits: null, ...change }) satisfies Parameters<typeof runBlock>[0];

  test.each([
    [sample(), null],
    [sample({ link: 'down' }), 'no link'],
    [sample({ state: 'tripped' }), 'tripped'],
    [sample({ state: 'running' }), 'turning'],
    [sample({ state: 'stopping' }), 'turning'],
    // it may wake by itself
    [sample({ state: 'asleep' }), 'asleep'],
    [sample({ state: 'held' }), 'held'],
    [sample({ state: 'held', waits: { code: 'safe torque off', sentence: '' } }), 'held'],
    // a start that waits to be given anew starts nothing by itself
    [sample({ state: 'held', waits: { code: 'start contact', sentence: '' } }), null],
    [sample({ holder: 'other' }), 'other master'],
    // what stands in the way of the link stands before all else
    [sample({ link: 'down', state: 'tripped', holder: 'other' }), 'no link'],
  ])('%j: %s', (s, block) => expect(runBlock(s)).toBe(block));
});

test('what a proof may rely on, as it stands now: drive, plate, survey, settings in the drive; nothing else is known', () => {
  const model = demoModel('C-21', {}, { '2h': 1 });
  const survey = { ...emptySurvey(model.machine), ambient: 35 };
  const now = standsNow(model, survey);
  expect([now('drive'), now('plate'), now('survey')]).toEqual([1, 1, surveyGround(survey)]);
  expect(now('setting 2h')).toBe(1);
  expect(standsNow(demoModel('C-21', {}, null), survey)('setting 2h')).toBeNull();
  expect(now('weather')).toBeUndefined();
});

test('the model of every demo machine is computed from its plate, and says what is wrong with it instead where it is not one', () => {
  for (const { tag } of demoPlant) expect([tag, demoModel(tag, {}, {}).draftSpec.ok]).toEqual([tag, true]);
  const wrong = demoModel('P-11', {}, {}, { powerFactor: 88 });
  expect(wrong.draftSpec).toMatchObject({ ok: false, sentence: expect.stringMatching(/./) });
});
