import { latest, startStack, until, type Stack } from './stack';
import { present } from '@yare/core';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const put = (tag: string, revision: number, changes: unknown, author = 'Ines Calder') =>
  stack.app.inject({ method: 'PUT', url: `/api/v1/machines/${tag}/draft`, payload: { revision, author, changes } });
const write = (tag: string, revision: number, codes: string[]) =>
  stack.app.inject({ method: 'POST', url: `/api/v1/machines/${tag}/write`, payload: { revision, author: 'Ines Calder', codes } });
const change = (code: string, value: number) => [{ code, value, source: 'chosen' }];

test('the plant is listed with what differs from each drive', async () => {
  const machines = (await stack.app.inject({ url: '/api/v1/machines' })).json<Array<{ tag: string; differences: number }>>();
  expect(machines.map((m) => m.tag)).toEqual(['P-11', 'P-41', 'P-42', 'P-43', 'F-32', 'C-07', 'C-21', 'M-55']);
  expect(present(machines[0]).differences).toBeGreaterThan(3);
});

test('an edit makes a new revision with author and source; the loser of a race is told and shown the other side', async () => {
  const { draft } = await latest(stack.app, 'C-07');
  expect((await put('C-07', draft.revision, change('3a', 7.5))).statusCode).toBe(200);
  const lost = await put('C-07', draft.revision, change('3a', 9), 'Tom Reed');
  expect(lost.statusCode).toBe(409);
  expect(lost.headers['content-type']).toContain('application/problem+json');
  expect(lost.json().detail).toContain('Ines Calder changed the draft');
  expect(lost.json().current.values['3a'].value).toBe(7.5);
  const now = await latest(stack.app, 'C-07');
  expect(now.draft.revision).toBe(draft.revision + 1);
  expect(now.draft.values['3a']).toMatchObject({ value: 7.5, source: 'chosen', author: 'Ines Calder' });
});

test('two edits at the very same time: one wins, one is told', async () => {
  const { draft } = await latest(stack.app, 'C-21');
  const codes = (await Promise.all([put('C-21', draft.revision, change('3a', 5)), put('C-21', draft.revision, change('3a', 6))])).map(
    (r) => r.statusCode,
  );
  expect(codes.sort()).toEqual([200, 409]);
});

test.each([
  ['out of range', '3a', 5000, 'Acceleration time takes 0.1 to 3600 s; 5000 s is outside.'],
  ['no such choice', '3g', 7, 'On stop has no choice 7.'],
  ['contradiction', '2a', 90, 'Minimum frequency must not exceed maximum frequency, which is 60 Hz.'],
  ['unknown code', '9z', 1, 'This drive has no setting 9z.'],
])('%s is refused with a sentence and its field', async (_name, code, value, sentence) => {
  const { draft } = await latest(stack.app, 'C-21');
  const answer = await put('C-21', draft.revision, change(code, value));
  expect(answer.statusCode).toBe(422);
  expect(answer.json()).toMatchObject({ detail: sentence, field: code });
  expect((await latest(stack.app, 'C-21')).draft.revision).toBe(draft.revision);
});

test('bad requests are problem documents', async () => {
  for (const [method, url, payload, status] of [
    ['GET', '/api/v1/machines/X-9', undefined, 404],
    ['GET', '/api/v1/machines/nonsense', undefined, 400],
    ['GET', '/api/v1/nothing', undefined, 404],
    ['PUT', '/api/v1/machines/P-11/draft', { revision: 'x' }, 400],
    ['GET', '/api/v1/recordings/99', undefined, 404],
  ] as const) {
    const answer = await stack.app.inject({ method, url, ...(payload && { payload }) });
    expect([url, answer.statusCode]).toEqual([url, status]);
    expect(answer.headers['content-type']).toContain('application/problem+json');
    expect(answer.json().detail).toBeTruthy();
  }
});

test('plate edits are revisions too', async () => {
  const get = async () => (await stack.app.inject({ url: '/api/v1/machines/P-11' })).json().plate;
  const before = await get();
  const edit = (plate: unknown, revision: number) =>
    stack.app.inject({ method: 'PUT', url: '/api/v1/machines/P-11/plate', payload: { revision, author: 'Ines Calder', plate } });
  expect((await edit({ ...before.plate, current: 13.9 }, before.revision)).statusCode).toBe(200);
  expect((await edit(before.plate, before.revision)).statusCode).toBe(409);
  expect((await edit({ ...before.plate, current: -1 }, before.revision + 1)).statusCode).toBe(400);
  expect((await edit(before.plate, before.revision + 1)).statusCode).toBe(200);
  expect((await get()).revision).toBe(before.revision + 2);
});

describe('write to drive', () => {
  test('values are written, read back, verified and kept', async () => {
    const { draft } = await latest(stack.app, 'P-11');
    const report = (await write('P-11', draft.revision, ['3b', '1d', '7a'])).json();
    expect(report).toMatchObject({ outcome: 'kept', sentence: '3 values written, read back and kept through power-off.' });
    expect(report.lines.map((l: { result: string }) => l.result)).toEqual(['verified', 'verified', 'verified']);
    expect(report.inDrive.values['1d'].value).toBe(13.6);
    const drive = present(stack.bench.drives.get(1));
    expect(drive.values['3b']).toBe(3);
    expect(drive.keptState().values['3b']).toBe(3);
  });

  test('what the drive will round is stored rounded and verified as such', async () => {
    const { draft } = await latest(stack.app, 'M-55');
    const edited = (await put('M-55', draft.revision, change('w22', 0.26))).json();
    const report = (await write('M-55', edited.revision, ['w22'])).json();
    expect(report.lines[0]).toMatchObject({ asked: 0.26, stored: 0.3, readBack: 0.3, result: 'verified' });
  });

  test('settings that contradict one another on the way are written in the order the drive takes', async () => {
    // minimum above the old maximum: only accepted after the maximum has been raised
    const { draft } = await latest(stack.app, 'C-07');
    const edited = (await put('C-07', draft.revision, [...change('2a', 55), ...change('2b', 70)])).json();
    const report = (await write('C-07', edited.revision, ['2a', '2b'])).json();
    expect(report.outcome).toBe('kept');
    expect(report.inDrive.values['2a'].value).toBe(55);
  });

  test('a refused value leaves draft and drive as they were', async () => {
    const drive = present(stack.bench.drives.get(5));
    const { draft } = await latest(stack.app, 'F-32');
    const before = { ...drive.values };
    const codes = ['13/1', '13/2', '11/4'];
    // the drive turns, so its motor group is locked: the ramps before it are accepted, then put back
    drive.writeRegister(5110, 4660);
    for (const word of [6, 7, 15]) {
      drive.writeRegister(5100, word);
      drive.writeRegister(5101, 3277);
      drive.advance(5);
    }
    expect(drive.running).toBe(true);
    // whoever runs it goes on saying so: without a word it would stop by itself, on a busy machine before it is written to
    const master = setInterval(() => drive.writeRegister(5100, 15), 50);
    const report = (await write('F-32', draft.revision, codes)).json();
    clearInterval(master);
    expect(report.outcome).toBe('refused');
    expect(report.sentence).toContain(
      'The drive refused Nameplate current 11/4: 54.4 A; this setting is locked while the motor runs. Draft and drive are as they were.',
    );
    expect(drive.values).toEqual(before);
    expect((await latest(stack.app, 'F-32')).draft.revision).toBe(draft.revision);
    await until(() => !drive.running).catch(() => undefined);
  });

  test('a stale revision, an unknown and a read-only setting are told before anything is written', async () => {
    const { draft } = await latest(stack.app, 'P-11');
    expect((await write('P-11', draft.revision + 5, ['3b'])).statusCode).toBe(409);
    expect((await write('P-11', draft.revision, ['9z'])).statusCode).toBe(422);
    expect((await write('P-11', draft.revision, ['9l'])).statusCode).toBe(422);
    const readOnly = (await write('P-11', draft.revision, ['9m'])).json();
    expect(readOnly.detail).toContain('can only be read');
  });
});

test('history cannot be changed, not even by the database user', async () => {
  for (const table of ['sheet_revisions', 'plate_revisions', 'audit_events']) {
    await expect(stack.db(table).update({ author: 'Somebody' })).rejects.toThrow('history');
    await expect(stack.db(table).delete()).rejects.toThrow('history');
  }
});

test('every edit and write is in the log with its author', async () => {
  const { events } = (await stack.app.inject({ url: '/api/v1/audit?tag=P-11' })).json();
  expect(events.map((e: { action: string }) => e.action)).toEqual(expect.arrayContaining(['edit plate', 'write to drive']));
  expect(new Set(events.map((e: { author: string }) => e.author))).toEqual(new Set(['Ines Calder']));
});

test('a setting changed behind our back is read into "in drive"', async () => {
  present(stack.bench.drives.get(2)).writeRegister(6000 + 13 * 32 + 1, 123);
  const sheet = (await stack.app.inject({ method: 'POST', url: '/api/v1/machines/P-41/read', payload: { author: 'Ines Calder' } })).json();
  expect(sheet.values['13/1']).toMatchObject({ value: 61.5, source: 'read from drive' });
});

test('health and OpenAPI', async () => {
  expect((await stack.app.inject({ url: '/api/v1/schemas/settings-file' })).json()).toMatchObject({
    type: 'object',
    required: expect.arrayContaining(['format', 'settings']),
  });
  expect((await stack.app.inject({ url: '/api/v1/health' })).json()).toMatchObject({ ok: true, drives: { linked: 8, of: 8 } });
  const paths = Object.keys((await stack.app.inject({ url: '/api/v1/openapi.json' })).json().paths);
  expect(paths).toEqual(expect.arrayContaining(['/api/v1/machines/{tag}/write', '/api/v1/recordings/{id}']));
});
