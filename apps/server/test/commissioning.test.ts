import { present } from '@yare/core';
import { latest, startStack, until, type Stack } from './stack';

let stack: Stack;
let steady = 0;
beforeAll(async () => {
  stack = await startStack({ steady: () => steady });
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });
const survey = {
  why: 'new drive',
  voltage: 400,
  frequency: 50,
  phases: 3,
  ambient: 35,
  altitude: 120,
  cableLength: 18,
  screened: true,
  lineVoltages: null,
  insulation: null,
};
const proof = (change: object = {}) => ({
  author,
  stage: 'direction',
  item: 'direction',
  outcome: 'passed',
  facts: { kind: 'direction', right: true, frequency: 10, recording: null },
  settings: ['2h'],
  plate: true,
  survey: false,
  ...change,
});
const byUnit = (unitId: number) => present(stack.bench.drives.get(unitId));

test('a survey is kept as revisions, feeds the machine, and the loser of a race is told', async () => {
  expect((await call('GET', '/machines/C-21/survey')).json()).toBeNull();
  expect((await call('PUT', '/machines/C-21/survey', { author, revision: 0, survey: { ...survey, voltage: 415 } })).json().revision).toBe(1);
  expect((await call('GET', '/machines/C-21')).json().supply).toEqual({ voltage: 415, frequency: 50, phases: 3 });
  const lost = await call('PUT', '/machines/C-21/survey', { author: 'Tom Reed', revision: 0, survey });
  expect(lost.statusCode).toBe(409);
  expect(lost.json().current.survey.voltage).toBe(415);
  expect((await call('PUT', '/machines/C-21/survey', { author, revision: 1, survey: { ...survey, phases: 2 } })).statusCode).toBe(400);
  expect((await call('PUT', '/machines/C-21/survey', { author, revision: 1, survey })).json().survey).toEqual(survey);
});

test('a proof holds what it relied on as it stood in the drive; the newest of each test is told', async () => {
  await call(
    'POST',
    '/machines/C-21/proofs',
    proof({ outcome: 'failed', facts: { kind: 'direction', right: false, frequency: 10, recording: null } }),
  );
  const answer = (await call('POST', '/machines/C-21/proofs', proof())).json();
  expect(answer.relied).toEqual({ drive: 1, 'setting 2h': 0, 'plate power': 3, 'plate speed': 1760, 'plate connection': 'star' });
  await call(
    'POST',
    '/machines/C-21/proofs',
    proof({ stage: 'before-power', item: 'mounted', facts: { kind: 'look' }, settings: [], plate: false, survey: true }),
  );
  const { proofs } = (await call('GET', '/machines/C-21/plan')).json();
  expect(proofs.map((p: { item: string; outcome: string }) => [p.item, p.outcome])).toEqual([
    ['mounted', 'passed'],
    ['direction', 'passed'],
  ]);
  expect(proofs[0].relied).toEqual({ drive: 1, 'survey ambient': 35 });
});

test('a check that the drive’s own reading contradicts is refused with the reading, and kept once it is so', async () => {
  const check = (item: string, outcome = 'passed') =>
    call('POST', '/machines/C-07/proofs', {
      ...proof({ stage: 'before-power', item, outcome, settings: [], plate: false }),
      facts: item === 'lineVoltages' ? { kind: item, lines: [230, 231, 229], nominal: 230 } : { kind: 'look' },
    });
  const conveyor = byUnit(6);
  await until(async () => (await call('GET', '/machines')).json().find((m: { tag: string }) => m.tag === 'C-07') !== undefined);
  const live = await check('isolated');
  expect(live.statusCode).toBe(409);
  expect(live.json()).toMatchObject({ type: 'urn:yare:problem:contradicted-by-the-drive' });
  expect(live.json().detail).toMatch(/reports 5\d\d V on its DC bus: it is not dead/);
  // that it is not dead may always be said
  expect((await check('isolated', 'failed')).statusCode).toBe(200);
  await call('PUT', '/machines/C-07/survey', { author, revision: 0, survey: { ...survey, lineVoltages: [230, 231, 229] } });
  expect((await check('lineVoltages')).json().detail).toContain('230 V between lines would make about 325 V');
  await call('PUT', '/machines/C-07/survey', { author, revision: 1, survey: { ...survey, lineVoltages: [400, 402, 399] } });
  expect((await check('lineVoltages')).statusCode).toBe(200);
  conveyor.powerOff();
  expect((await check('isolated')).statusCode).toBe(409);
  await until(() => !conveyor.plant.awake);
  expect((await check('isolated')).statusCode).toBe(200);
  conveyor.powerOn();
});

test('proofs are history: the database itself refuses to change one', async () => {
  await expect(stack.db('proofs').update({ outcome: 'passed' })).rejects.toThrow('history');
  await expect(stack.db('survey_revisions').delete()).rejects.toThrow('history');
});

test('who leaves with things unproved is told in the list of machines, until it is taken back', async () => {
  const inList = async (tag = 'M-55') => (await call('GET', '/machines')).json().find((m: { tag: string }) => m.tag === tag);
  const plan = async () => (await call('GET', '/machines/M-55/plan')).json();
  await call('POST', '/machines/M-55/leave', { author, stages: ['tune', 'direction'] });
  const left = { author, stages: ['tune', 'direction'], told: null };
  expect([(await inList()).left, (await plan()).left]).toMatchObject([left, left]);
  // whoever leaves after that is told instead, and no proof was made
  await call('POST', '/machines/M-55/leave', { author: 'Per Lindh', stages: ['direction'] });
  expect(await plan()).toMatchObject({ left: { author: 'Per Lindh', stages: ['direction'] }, proofs: [] });
  for (let again = 0; again < 2; again++) expect((await call('POST', '/machines/M-55/go-on', { author })).json()).toBeNull();
  expect([(await inList()).left, (await plan()).left]).toEqual([null, null]);
  expect(
    await stack.db('audit_events').whereIn('action', ['left the work', 'work goes on']).orderBy('id').select('action', 'author', 'detail'),
  ).toEqual([
    { action: 'left the work', author, detail: { stages: ['tune', 'direction'] } },
    { action: 'left the work', author: 'Per Lindh', detail: { stages: ['direction'] } },
    { action: 'work goes on', author, detail: {} },
  ]);
});

test('which of draft and drive is newer is told where they differ as the drive would store them', async () => {
  const inList = async (tag: string) => (await call('GET', '/machines')).json().find((m: { tag: string }) => m.tag === tag);
  // the drives are read one after another once the bench is there
  for (const tag of ['F-32', 'M-55']) await until(async () => (await inList(tag)).differences !== null);
  expect(await inList('F-32')).toMatchObject({ differences: expect.any(Number), newer: 'draft' });
  // three were chosen; its overload of 0.61 A is stored as 0.6 A, which is what the drive holds
  expect(await inList('M-55')).toMatchObject({ differences: 3, newer: 'draft' });
});

test('another drive: its own book is spoken, the draft begins from factory with the plate, the old sheets stay in the history', async () => {
  const before = (await call('GET', '/machines/P-43/revisions')).json().revisions.length;
  const put = await call('PUT', '/machines/P-43/drive', { author, bookId: 'osier-g', size: 'G4', region: 50 });
  expect(put.statusCode).toBe(200);
  const draft = put.json();
  expect(draft.values['1d']).toMatchObject({ value: 7.9, source: 'plate' });
  // the ramp was chosen in the other family under its own code
  expect(draft.values['3a']).toMatchObject({ value: 4, source: 'chosen' });
  expect(draft.values['9h'].source).toBe('factory');
  const sheets = await latest(stack.app, 'P-43');
  expect(sheets.draft.revision).toBe(draft.revision);
  expect(sheets.inDrive).toBeNull();
  // the bench still has the large family at that address: it answers, and says it is another
  const { revisions } = (await call('GET', '/machines/P-43/revisions')).json();
  expect(revisions.length).toBe(before + 1);
  expect(revisions.at(-1).otherDrive).toBe(true);
  expect((await call('PUT', '/machines/P-43/drive', { author, bookId: 'sallow', size: 'S4', region: 50 })).statusCode).toBe(200);
  await until(async () => (await latest(stack.app, 'P-43')).inDrive !== null);
  expect((await call('GET', '/machines/P-43')).json().driveRevision).toBe(3);
});

test('a drive of another family at the address is told apart from one that is silent', async () => {
  await call('PUT', '/machines/P-42/drive', { author, bookId: 'withy', size: 'W2.2', region: 50 });
  const { default: WebSocket } = await import('ws');
  const address = { port: stack.port };
  const socket = new WebSocket(`ws://127.0.0.1:${address.port}/api/v1/live`);
  const heard: string[] = [];
  socket.on('message', (raw: Buffer) => {
    const m = JSON.parse(raw.toString());
    if (m.kind === 'live') heard.push(...m.samples.map((s: { command: string }) => s.command));
  });
  await new Promise((done) => socket.once('open', done));
  socket.send(JSON.stringify({ kind: 'watch', tags: ['P-42'] }));
  await until(() => heard.includes('Another drive answers: Sallow S4'));
  socket.close();
  await call('PUT', '/machines/P-42/drive', { author, bookId: 'sallow', size: 'S4', region: 50 });
});

test.each([
  ['family', { bookId: 'nothing', size: 'S4' }, 'There is no drive book "nothing".'],
  ['size', { bookId: 'sallow', size: 'S5' }, 'Sallow has no size S5.'],
])('a drive of no known %s is refused', async (_name, drive, sentence) => {
  const answer = await call('PUT', '/machines/P-41/drive', { author, region: 50, ...drive });
  expect(answer.statusCode).toBe(422);
  expect(answer.json().detail).toBe(sentence);
});

test('locked with a code: draft, write and drive are refused until it is opened with the same code', async () => {
  expect((await call('GET', '/machines/M-55/lock')).json()).toBeNull();
  expect((await call('POST', '/machines/M-55/lock', { author, code: '4711' })).json().author).toBe(author);
  const { draft } = await latest(stack.app, 'M-55');
  const edit = { author, revision: draft.revision, changes: [{ code: 'w10', value: 7, source: 'chosen' }] };
  for (const [method, path, body] of [
    ['PUT', '/machines/M-55/draft', edit],
    ['POST', '/machines/M-55/write', { author, revision: draft.revision, codes: ['w10'] }],
    ['PUT', '/machines/M-55/drive', { author, bookId: 'withy', size: 'W0.4', region: 50 }],
  ] as const) {
    const answer = await call(method, path, body);
    expect(answer.statusCode).toBe(423);
    expect(answer.json().detail).toContain('locked by Ines Calder');
  }
  expect((await call('POST', '/machines/M-55/lock', { author, code: '0000' })).statusCode).toBe(409);
  expect((await call('POST', '/machines/M-55/unlock', { author: 'Tom Reed', code: '4712' })).statusCode).toBe(403);
  // the pause after a wrong code is over
  steady += 1000;
  expect((await call('POST', '/machines/M-55/unlock', { author: 'Tom Reed', code: '4711' })).json()).toEqual({ open: true });
  expect((await call('PUT', '/machines/M-55/draft', edit)).statusCode).toBe(200);
  const stored = await stack.db('audit_events').where({ action: 'lock settings' }).first();
  expect(JSON.stringify(stored)).not.toContain('4711');
});

test('motors are saved once by name, listed, and removed', async () => {
  const { plate } = (await call('GET', '/machines/C-21')).json();
  const saved = (await call('POST', '/motors', { author, name: ' 3 hp imported ', plate: plate.plate })).json();
  expect(saved).toMatchObject({ name: '3 hp imported', author });
  expect((await call('POST', '/motors', { author, name: '3 hp imported', plate: plate.plate })).statusCode).toBe(409);
  expect((await call('GET', '/motors')).json()).toHaveLength(1);
  expect((await call('DELETE', `/motors/${saved.id}?author=Ines`)).statusCode).toBe(200);
  expect((await call('DELETE', `/motors/${saved.id}?author=Ines`)).statusCode).toBe(404);
});

test('short lists belong to a family, are written over by name, and know its settings', async () => {
  const put = (codes: string[]) => call('PUT', '/books/osier-g/short-lists', { author, name: 'Belt', codes });
  await put(['3a']);
  expect((await put(['3b', '3a', '3b'])).json().codes).toEqual(['3b', '3a']);
  expect((await put(['w10'])).json().detail).toBe('Osier G has no setting w10.');
  const [list] = (await call('GET', '/books/osier-g/short-lists')).json();
  expect((await call('GET', '/books/withy/short-lists')).json()).toEqual([]);
  expect((await call('DELETE', `/short-lists/${list.id}`)).statusCode).toBe(200);
});

test('revisions of a sheet are listed with what changed, and each can be had whole', async () => {
  const { draft } = await latest(stack.app, 'C-07');
  const edit = {
    author,
    revision: draft.revision,
    changes: [
      { code: '3a', value: 8, source: 'chosen' },
      { code: '3b', value: 9, source: 'chosen' },
    ],
  };
  await call('PUT', '/machines/C-07/draft', edit);
  const { revisions } = (await call('GET', '/machines/C-07/revisions')).json();
  expect(revisions[0]).toMatchObject({ kind: 'draft', revision: draft.revision + 1, author, changed: 2, otherDrive: false });
  expect(revisions.map((r: { kind: string }) => r.kind)).toEqual(expect.arrayContaining(['draft', 'in drive', 'as found']));
  const old = (await call('GET', `/machines/C-07/revisions/draft/${draft.revision}`)).json();
  expect(old.values['3a'].value).toBe(present(draft.values['3a']).value);
  expect((await call('GET', '/machines/C-07/revisions/draft/999')).statusCode).toBe(404);
});

test('keep stores what is in working memory, and says so', async () => {
  byUnit(6).set('3a', 33);
  expect(byUnit(6).isKept('3a')).toBe(false);
  expect((await call('POST', '/machines/C-07/keep', { author })).json()).toEqual({ kept: true });
  expect(byUnit(6).isKept('3a')).toBe(true);
  byUnit(6).plant.wiring.linkCut = true;
  expect((await call('POST', '/machines/C-07/keep', { author })).statusCode).toBe(424);
  byUnit(6).plant.wiring.linkCut = false;
});

test('a write that broke off is told, gone on with, and what had been written is not written again', async () => {
  const d = byUnit(5);
  const codes = ['13/1', '13/2', '13/3', '13/7', '14/2', '20/2', '20/3'];
  const { draft } = await latest(stack.app, 'F-32');
  const values = [61, 62, 63, 11, 2, 143, 2.9];
  const changes = codes.map((code, i) => ({ code, value: values[i], source: 'chosen' }));
  const revision = (await call('PUT', '/machines/F-32/draft', { author, revision: draft.revision, changes })).json().revision;
  let writes = 0;
  const real = d.writeRegister.bind(d);
  d.writeRegister = (register: number, word: number) => {
    if (register > 6000 && ++writes === 4) d.plant.wiring.linkCut = true;
    real(register, word);
  };
  const broken = (await call('POST', '/machines/F-32/write', { author, revision, codes })).json();
  expect(broken.outcome).toBe('link lost');
  expect(broken.lines.map((l: { result: string }) => l.result)).toEqual(['verified', 'verified', 'verified', ...Array(4).fill('not reached')]);
  expect((await call('GET', '/machines/F-32/write')).json()).toMatchObject({ state: 'link lost', author, revision });
  // still away: nothing is lost by trying too soon
  expect((await call('POST', '/machines/F-32/write/resume', { author })).json().outcome).toBe('link lost');
  expect((await call('GET', '/machines/F-32/write')).json().lines).toHaveLength(7);
  d.plant.wiring.linkCut = false;
  writes = 100;
  const resumed = (await call('POST', '/machines/F-32/write/resume', { author: 'Tom Reed' })).json();
  expect(resumed.outcome).toBe('kept');
  expect(writes).toBe(104);
  expect(codes.map((c) => d.values[c])).toEqual(values);
  expect(codes.every((c) => d.isKept(c))).toBe(true);
  expect((await call('POST', '/machines/F-32/write/resume', { author })).statusCode).toBe(409);
  d.writeRegister = real;
});

test('a draft that has changed since does not let an old write go on', async () => {
  const d = byUnit(2);
  const { draft } = await latest(stack.app, 'P-41');
  const put = (revision: number, value: number) =>
    call('PUT', '/machines/P-41/draft', { author, revision, changes: [{ code: '13/1', value, source: 'chosen' }] });
  const { revision } = (await put(draft.revision, 9)).json();
  const real = d.writeRegister.bind(d);
  d.writeRegister = () => {
    d.plant.wiring.linkCut = true;
    real(1, 1);
  };
  await call('POST', '/machines/P-41/write', { author, revision, codes: ['13/1'] });
  d.plant.wiring.linkCut = false;
  d.writeRegister = real;
  await put(revision, 12);
  const answer = await call('POST', '/machines/P-41/write/resume', { author });
  expect(answer.statusCode).toBe(409);
  expect(answer.json().detail).toContain('has changed since that write began: Ramp up 13/1');
});
