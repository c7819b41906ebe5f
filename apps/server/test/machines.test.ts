import { bookById, DriveSettings, factoryValue, settingsOf } from '@yare/books';
import { drivenFromMotor, type SettingRole, present } from '@yare/core';
import { latest, startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });

const plate = {
  standard: 'IEC',
  power: 4,
  powerUnit: 'kW',
  voltage: 400,
  connection: 'delta',
  current: 7.9,
  frequency: 50,
  speed: 1450,
  powerFactor: null,
  efficiency: null,
  design: null,
  serviceFactor: null,
} as const;
const machine = (change: object = {}) => ({
  author,
  tag: 'P-50',
  name: 'Wash water pump',
  area: 'Boiler house',
  kind: 'pump',
  bookId: 'sallow',
  size: 'S4',
  region: 50,
  unitId: 50,
  supply: { voltage: 400, frequency: 50 },
  plate,
  ...change,
});

test('a machine is put on record with a draft from factory and plate, and an estimate of what it drives', async () => {
  const made = await call('POST', '/machines', machine({ name: '  Wash   water pump ' }));
  expect(made.statusCode).toBe(200);
  expect(made.json()).toMatchObject({
    tag: 'P-50',
    name: 'Wash water pump',
    site: 'Brackwater Maltings',
    drivenEstimated: true,
    unitId: 50,
    region: 50,
  });
  expect(made.json().driven).toEqual(drivenFromMotor('pump', plate));
  expect((await call('GET', '/machines')).json().map((m: { tag: string }) => m.tag)).toContain('P-50');

  const { draft, inDrive } = await latest(stack.app, 'P-50');
  const setting = (role: SettingRole) => new DriveSettings(bookById('sallow'), 'S4', {}, 50).need(role);
  const stamped = present(settingsOf(bookById('sallow'), 'S4').find((s) => s.plate === 'current'));
  expect(draft.values[stamped.code]).toMatchObject({ value: 7.9, source: 'plate', author });
  const up = setting('accelerationTime');
  expect(draft.values[up.code]).toMatchObject({ value: factoryValue(up, 50), source: 'factory' });
  expect(inDrive).toBeNull();
});

test.each([
  ['a tag that is taken', { tag: 'P-11', unitId: 51 }, 409, 'tag', 'P-11 already'],
  ['an address that is taken', { tag: 'P-51', unitId: 1 }, 409, 'unitId', 'the drive of P-11'],
  ['a size the family has not', { tag: 'P-51', unitId: 51, size: 'S9999' }, 422, 'size', 'no size S9999'],
  ['a family nobody knows', { tag: 'P-51', unitId: 51, bookId: 'alder' }, 422, 'bookId', 'alder'],
  ['a tag of another form', { tag: 'p 51', unitId: 51 }, 400, 'tag', 'pattern'],
  ['a name of nothing but spaces', { tag: 'P-51', unitId: 51, name: '   ' }, 400, 'name', 'empty'],
  ['an address no drive can have', { tag: 'P-51', unitId: 248 }, 400, 'unitId', '247'],
])('%s is refused and nothing is left behind', async (_what, change, status, field, text) => {
  const answer = await call('POST', '/machines', machine(change));
  expect(answer.statusCode).toBe(status);
  expect(answer.json().field).toBe(field);
  expect(answer.json().detail).toContain(text);
  expect((await call('GET', '/machines/P-51')).statusCode).toBe(404);
});

test('of two who take the same address at the same moment one gets it', async () => {
  const answers = await Promise.all(['C-60', 'C-61'].map((tag) => call('POST', '/machines', machine({ tag, unitId: 60, kind: 'conveyor' }))));
  expect(answers.map((a) => a.statusCode).sort()).toEqual([200, 409]);
});

test('what the survey takes down goes before the estimate, and can be taken back', async () => {
  const survey = {
    why: '',
    voltage: 400,
    frequency: 50,
    phases: 3,
    ambient: null,
    altitude: null,
    cableLength: null,
    screened: null,
    lineVoltages: null,
    insulation: null,
  };
  const estimate = (await call('GET', '/machines/P-50')).json().driven;
  const driven = { ...estimate, flow: 31, head: 24 };
  expect((await call('PUT', '/machines/P-50/survey', { author, revision: 0, survey: { ...survey, driven } })).statusCode).toBe(200);
  expect((await call('GET', '/machines/P-50')).json()).toMatchObject({ driven, drivenEstimated: false });
  const impossible = await call('PUT', '/machines/P-50/survey', { author, revision: 1, survey: { ...survey, driven: { ...driven, head: 0 } } });
  expect(impossible.statusCode).toBe(400);
  await call('PUT', '/machines/P-50/survey', { author, revision: 1, survey: { ...survey, driven: null } });
  expect((await call('GET', '/machines/P-50')).json()).toMatchObject({ driven: estimate, drivenEstimated: true });
});

test('what was worked out from the plate is worked out anew when it is corrected; what somebody typed stays', async () => {
  const before = (await call('GET', '/machines/P-50')).json();
  const { revision, plate } = before.plate;
  expect(
    (await call('PUT', '/machines/P-50/plate', { author, revision, plate: { ...plate, power: plate.power / 5, current: plate.current / 5 } }))
      .statusCode,
  ).toBe(200);
  const after = (await call('GET', '/machines/P-50')).json();
  expect(after.driven.inertia).toBeLessThan(before.driven.inertia / 3);
  expect(after.driven.flow).toBeLessThan(before.driven.flow / 3);
  expect(after.drivenEstimated).toBe(true);
  const { survey, revision: surveys } = (await call('GET', '/machines/P-50/survey')).json();
  await call('PUT', '/machines/P-50/survey', { author, revision: surveys, survey: { ...survey, driven: { ...after.driven, flow: 31 } } });
  await call('PUT', '/machines/P-50/plate', { author, revision: revision + 1, plate });
  expect((await call('GET', '/machines/P-50')).json().driven).toEqual({ ...before.driven, flow: 31 });
});

test('a machine goes where its drive answers: an address given up is linked by the one that takes it', async () => {
  const record = (unitId: number) => ({ author, unitId });
  expect((await call('PUT', '/machines/P-43/record', record(1))).json().detail).toContain('the drive of P-11');
  expect((await call('PUT', '/machines/P-43/record', record(99))).json().unitId).toBe(99);
  await call('PUT', '/machines/P-50/record', { author, name: 'Wash pump' });
  const moved = await call('PUT', '/machines/P-50/record', record(4));
  expect(moved.json()).toMatchObject({ unitId: 4, name: 'Wash pump', area: 'Boiler house' });
  expect((await call('PUT', '/machines/P-50/record', { author, area: ' ' })).statusCode).toBe(400);
  await until(async () => (await latest(stack.app, 'P-50')).inDrive !== null);
  const { events } = (await call('GET', '/audit?tag=P-50')).json();
  expect(events.map((e: { action: string }) => e.action)).toEqual(expect.arrayContaining(['record', 'new machine']));
});

describe('a machine that was put on record', () => {
  test.each([
    ['withy', 'W0.7', { power: 0.55, current: 1.5, speed: 1400 }, { way: 2 }],
    ['osier-g', 'G4', {}, { way: 2 }],
    ['sallow', 'S4', {}, { mode: 2 }],
  ] as const)('stands on the bench when asked for, with a %s fresh from its box that starts from its panel', async (bookId, size, figures, go) => {
    const tag = `B-${bookId.length}`;
    const unitId = 100 + bookId.length;
    const made = await call('POST', '/machines', machine({ tag, unitId, bookId, size, kind: 'agitator', plate: { ...plate, ...figures } }));
    expect(made.statusCode).toBe(200);
    const before = await call('GET', `/machines/${tag}/bench`);
    expect([before.statusCode, before.json().title]).toEqual([404, 'Not at the bench']);
    expect((await call('PUT', `/machines/${tag}/bench`, { author })).json()).toMatchObject({ tag, kind: 'agitator', powered: true });
    await until(async () => (await latest(stack.app, tag)).inDrive !== null);
    const drive = present(stack.bench.drives.get(unitId));
    expect(drive.machine.trip).toBeNull();
    await call('POST', `/machines/${tag}/bench`, { author, panel: go });
    await until(async () => drive.running && drive.machine.frequency > 1);
  });

  test('is built anew where its record says, and not where another stands', async () => {
    expect((await call('PUT', '/machines/P-50/bench', { author })).json().detail).toContain('At address 4 of the bench stands P-43.');
    await call('PUT', '/machines/P-50/record', { author, unitId: 51 });
    expect((await call('PUT', '/machines/P-50/bench', { author })).statusCode).toBe(200);
    await call('PUT', '/machines/P-50/record', { author, unitId: 52 });
    expect((await call('PUT', '/machines/P-50/bench', { author })).statusCode).toBe(200);
    expect((await call('PUT', '/machines/P-11/bench', { author })).json().detail).toContain('ships with the bench');
    expect([stack.bench.drives.has(51), stack.bench.drives.get(52)?.demo.tag]).toEqual([false, 'P-50']);
  });
});
