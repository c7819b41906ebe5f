import { settingsOf } from '@yare/books';
import { present } from '@yare/core';
import { stageFindings, type Checked, type StageFinding } from '../src';
import type { StampedPlate } from '@yare/core';
import { demoDraft, demoMachine, demoPlant, type DemoMachine } from '@yare/demo-plant';

/** A demo machine's figures with some of them changed. */
function checked(
  tag: string,
  draft: Record<string, number> = {},
  plate: Partial<StampedPlate> = {},
  drive: Partial<Pick<DemoMachine, 'size' | 'region'>> = {},
): Checked {
  const m = { ...demoMachine(tag), ...drive };
  return { settings: demoDraft(m, draft), plate: { ...m.plate, ...plate }, supply: m.supply, driven: m.driven };
}
const find = (c: Checked, id: string): StageFinding | undefined => stageFindings(c).find((f) => f.id === id);
/** The draft after the way out of a finding was taken. */
const after = (c: Checked, f: StageFinding): Checked => ({
  ...c,
  plate: { ...c.plate, ...f.remedy?.plate },
  settings: c.settings.with({ ...c.settings.values, ...Object.fromEntries((f.remedy?.changes ?? []).map((x) => [x.code, x.value])) }),
});

/**
 * The traps, each walked into: where, with what in the draft or on the plate, what is said, and that the way out cures it. Values are those of
 * the demo plant; the trap itself is a fact of the trade (common practice).
 */
const traps: Array<[id: string, c: Checked, says: RegExp, severity: StageFinding['severity']]> = [
  [
    'overload is the drive’s',
    checked('C-21', { '7a': 5.8 }),
    /5\.80 A is the drive’s own current, as from the factory\. The plate says 3\.90 A/,
    'error',
  ],
  ['link time-out too long', checked('C-07', { '5c': 60 }), /Link time-out 5c is 60\.0 s.*Hold to run refuses with more than 1 s/, 'error'],
  ['overload above plate', checked('P-11', { '7a': 16 }), /16\.0 A is 18 % above the plate’s 13\.6 A: the motor is not protected/, 'error'],
  ['overload below plate', checked('P-11', { '7a': 9 }), /9\.00 A is 34 % below the plate’s 13\.6 A: at full load it trips without need/, 'warning'],
  ['limit below plate', checked('P-11', { '4d': 9 }), /current limit of 9\.00 A lies below the plate’s 13\.6 A/, 'warning'],
  ['limit above duty', checked('F-32', { '14/4': 130 }), /carries 68\.2 A for 60 s; the limit of 80\.6 A lies above/, 'warning'],
  ['open is healthy', checked('P-11', { '7d': 1 }), /a broken wire or a pulled plug looks like a healthy machine/, 'warning'],
  ['restarts by itself', checked('C-07', { '7f': 3 }), /this conveyor starts again by itself, up to 3 times/, 'warning'],
  ['chopper above trip', checked('F-32', { '18/1': 1, '18/2': 820 }), /begins at 820 V and the drive trips at 820 V: it can never act/, 'error'],
  ['resistor too small', checked('C-07', { '8a': 1, '8c': 50 }), /50\.0 Ω is below the 164 Ω this size may carry/, 'error'],
  [
    'negative preset',
    checked('C-07', { '2c': 0, '9a': -15 }),
    /Preset speed 1 9a is below zero, which is reverse, and reverse is forbidden: chosen, it stands still/,
    'warning',
  ],
  ['brake not worked', checked('C-07', { '8e': 0 }), /the motor would run against a closed brake/, 'error'],
  ['brake on coasting', checked('C-07', { '3g': 1 }), /the brake then falls in at full speed/, 'error'],
  ['above plate frequency', checked('F-32', { '12/2': 60 }), /power grows with its cube, to 173 %/, 'warning'],
  ['bent curve on constant torque', checked('C-07', { '4a': 1 }), /it will not break away under load/, 'error'],
  ['reverse permitted', checked('P-11', { '2c': 1 }), /A pump has one way round/, 'warning'],
  [
    'start source away',
    checked('P-11', { '5a': 2 }),
    /Start source 5a says Link: the selector and the buttons on the panel start nothing/,
    'warning',
  ],
  ['connection differs', checked('C-07', { '1h': 1 }), /The plate is entered for star and the draft says delta/, 'warning'],
  ['supply below plate', checked('C-21'), /from 52\.2 Hz on the drive has no more volts to give/, 'warning'],
  [
    'supply above plate',
    checked('C-21', {}, { leads: 9, joined: 'parallel', voltage: 230, current: 7.8 }),
    /The plate says 230 V for this connection and the supply has 400 V/,
    'warning',
  ],
];

test.each(traps)('%s is told, and its way out cures it', (id, c, says, severity) => {
  const f = present(find(c, id));
  expect(f.sentence).toMatch(says);
  expect(f.severity).toBe(severity);
  expect(f.remedy?.label).toBeTruthy();
  const left = find(after(c, f), id);
  expect(left === undefined || left.severity === 'good').toBe(true);
});

test('a coarse drive rounds: above 5 % on the overload current it is an error with the safe step as way out', () => {
  const c = checked('M-55', { w22: 0.26 }, { current: 0.26 });
  const f = present(find(c, 'overload rounding'));
  expect(f.sentence).toContain('0.26 A is stored as 0.3 A, 15.4 % more');
  expect(present(f.remedy).changes).toEqual([{ code: 'w22', value: 0.2, source: 'worked out' }]);
  // the demo agitator: 0.61 A becomes 0.6 A, told but small
  expect(present(find(checked('M-55', { w22: 0.61 }), 'overload rounding small')).sentence).toContain('0.61 A is stored as 0.6 A, 1.6 % less');
});

test('on a drive a service factor sets no overload higher (NEMA MG 1 part 30, from memory)', () => {
  const found = find(checked('C-21', { '7a': 4.4 }), 'overload above plate');
  expect(found?.sentence).toContain('Its service factor of 1.15 does not count on a drive');
  expect(find(checked('C-21', { '7a': 3.9 }), 'overload above plate')).toBeUndefined();
});

test('a 50 Hz plate on a 60 Hz factory start tells how many values differ, presets among them', () => {
  const c = checked('P-11', {}, {}, { region: 60 });
  const differing = settingsOf(c.settings.book, c.settings.size).filter((s) => s.access !== 'read' && s.factory50 !== s.factory60);
  expect(present(find(c, 'region')).sentence).toContain(`${differing.length} factory values differ between the two, 7 preset speeds among them`);
  expect(find(checked('P-11'), 'region')).toBeUndefined();
});

test('a supply the size is not made for must not be connected', () => {
  const f = present(find(checked('M-55', {}, {}, { size: 'W0.4D' }), 'wrong supply'));
  expect(f).toMatchObject({ severity: 'error', stage: 'drive' });
  expect(f.sentence).toContain('made for 100 to 132 V; the supply has 400 V. It must not be connected.');
});

// field weakening begins at f_rated · U_supply / U_rated: 60 · 400 / 460 = 52.17 Hz; breakdown torque falls with the square, 75.6 %
test('a 460 V motor on 400 V: where full torque ends, and what is left above', () => {
  expect(present(find(checked('C-21'), 'supply below plate')).sentence).toMatch(/greatest torque is 7[56] % of that at plate volts \(estimate\)/);
  expect(present(find(checked('C-21', { '2b': 52 }), 'supply below plate')).severity).toBe('good');
});

test('two ramps: which is in force is said for each way of choosing them', () => {
  const says = (tag: string, draft: Record<string, number>) => present(find(checked(tag, draft), 'two ramps')).sentence;
  expect(find(checked('P-11', {}), 'two ramps')).toBeUndefined();
  expect(says('P-11', { '3c': 33 })).toContain('33 s up');
  expect(says('P-11', { '3j': 20 })).toContain('below 20.0 Hz 5 s up and 3 s down, from 20.0 Hz on 20 s up');
  expect(says('P-11', { '3j': 70 })).toContain('lies above the maximum');
  expect(says('P-11', { '6c': 8 })).toContain('While Input D3 is closed the second ramps are in force');
});

test('a family without a setting has no finding about it', () => {
  const ids = stageFindings(checked('M-55')).map((f) => f.id);
  expect(ids).not.toContain('chopper above trip');
  expect(ids).not.toContain('brake not worked');
  expect(ids).not.toContain('connection differs');
});

test('the demo plant’s own drafts have no error but those of its story: overloads still as from the factory', () => {
  const errors = demoPlant.flatMap((m) =>
    stageFindings(checked(m.tag))
      .filter((f) => f.severity === 'error')
      .map((f) => `${m.tag} ${f.id}`),
  );
  expect(errors).toEqual(['P-41', 'P-42', 'P-43', 'F-32', 'M-55'].map((tag) => `${tag} overload is the drive’s`));
});

test('a drive far too large for its motor is told, one size larger is not', () => {
  const of = (size: string) => find(checked('P-11', {}, {}, { size }), 'far too large');
  expect(of('G7.5')).toBeUndefined();
  expect(of('G11')).toBeUndefined();
  expect(present(of('G45')).sentence).toMatch(/times the motor’s 13\.60 A/);
});
