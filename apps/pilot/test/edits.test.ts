import type { Sheet, Sheets } from '@yare/contract';
import { present } from '@yare/core';
import { useDevice } from '../src/data/device';
import { dropRefused, editDraft, sendAll, settleConflict, undoLast, useEdits } from '../src/data/edits';
import { keys, queryClient } from '../src/data/client';

const tag = 'P-11';
const sheet = (revision: number, value: number, author = 'Demo plant'): Sheet => ({
  kind: 'draft',
  revision,
  author,
  at: '2026-01-01T00:00:00Z',
  values: { '3a': { value, source: 'factory', author, at: '2026-01-01T00:00:00Z' } },
});
const fetched = jest.fn();
const answer = (status: number, body: unknown) => ({ ok: status < 400, status, json: async () => body });
const settled = () => new Promise((done) => setTimeout(done, 0));
const edits = () => present(useEdits.getState().machines[tag]).draft;
const sent = (n: number) => JSON.parse(fetched.mock.calls[n][1].body);

beforeEach(() => {
  localStorage.clear();
  fetched.mockReset();
  Object.assign(globalThis, { fetch: fetched });
  useEdits.setState({ machines: {}, offline: false });
  useDevice.getState().setAuthor('  Ines  Calder ');
  queryClient.setQueryData<Sheets>(keys.sheets(tag), { draft: sheet(4, 10), inDrive: null, asFound: null });
});

test('an edit goes out on the revision on screen, with its author, and leaves nothing waiting', async () => {
  fetched.mockResolvedValue(answer(200, sheet(5, 7, 'Ines Calder')));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  await settled();
  expect(fetched.mock.calls[0][0]).toBe('/api/v1/machines/P-11/draft');
  expect(sent(0)).toEqual({ revision: 4, author: 'Ines Calder', changes: [{ code: '3a', value: 7, source: 'chosen' }] });
  expect(edits().changes).toEqual({});
  expect(present(queryClient.getQueryData<Sheets>(keys.sheets(tag))).draft.revision).toBe(5);
});

test('what is typed while one edit is on its way goes with the next, on the new revision', async () => {
  let release: (x: unknown) => void = () => undefined;
  fetched.mockImplementationOnce(() => new Promise((done) => (release = done))).mockResolvedValueOnce(answer(200, sheet(6, 8)));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  editDraft(tag, { '3b': { value: 8, source: 'chosen' } });
  expect(fetched).toHaveBeenCalledTimes(1);
  release(answer(200, sheet(5, 7)));
  await settled();
  await settled();
  expect(sent(1)).toMatchObject({ revision: 5, changes: [{ code: '3b', value: 8 }] });
  expect(edits().changes).toEqual({});
});

test('without a server the edit stays, in storage too, and goes out later', async () => {
  fetched.mockRejectedValueOnce(new TypeError('failed')).mockResolvedValueOnce(answer(200, sheet(5, 7)));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  await settled();
  expect(useEdits.getState().offline).toBe(true);
  expect(JSON.parse(present(localStorage.getItem('yare.edits'))).state.machines[tag].draft.changes['3a'].value).toBe(7);
  sendAll();
  await settled();
  expect(useEdits.getState().offline).toBe(false);
  expect(edits().changes).toEqual({});
});

test('the loser of a race keeps its figures until it chooses', async () => {
  const theirs = sheet(5, 9, 'Tom Reed');
  fetched.mockResolvedValueOnce(answer(409, { type: 't', title: 't', status: 409, detail: 'Tom Reed changed it', current: theirs }));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  await settled();
  expect(edits().conflict).toEqual(theirs);
  expect(edits().changes['3a']).toEqual({ value: 7, source: 'chosen' });
  fetched.mockResolvedValueOnce(answer(200, sheet(6, 7, 'Ines Calder')));
  settleConflict(tag, 'draft', 'mine');
  await settled();
  expect(sent(1)).toMatchObject({ revision: 5 });
  expect(edits()).toMatchObject({ changes: {}, conflict: null });
});

test('taking theirs drops mine and sends nothing', async () => {
  fetched.mockResolvedValueOnce(answer(409, { type: 't', title: 't', status: 409, detail: 'x', current: sheet(5, 9, 'Tom Reed') }));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  await settled();
  settleConflict(tag, 'draft', 'theirs');
  await settled();
  expect(fetched).toHaveBeenCalledTimes(1);
  expect(edits().changes).toEqual({});
  expect(present(queryClient.getQueryData<Sheets>(keys.sheets(tag))).draft.author).toBe('Tom Reed');
});

test('a refusal names its field, keeps the figure, and can be put back', async () => {
  fetched.mockResolvedValueOnce(answer(422, { type: 't', title: 't', status: 422, detail: 'Too long.', field: '3a' }));
  editDraft(tag, { '3a': { value: 9999, source: 'chosen' } });
  await settled();
  expect(edits().refused).toEqual({ field: '3a', sentence: 'Too long.' });
  expect(present(edits().changes['3a']).value).toBe(9999);
  dropRefused(tag, 'draft');
  expect(edits()).toMatchObject({ changes: {}, refused: null });
});

test('undo takes the last edit back as a new one', async () => {
  fetched.mockResolvedValue(answer(200, sheet(5, 7)));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } }, { '3a': { value: 10, source: 'factory' } });
  await settled();
  fetched.mockResolvedValue(answer(200, sheet(6, 10)));
  undoLast(tag, 'draft');
  await settled();
  expect(sent(1).changes).toEqual([{ code: '3a', value: 10, source: 'factory' }]);
  undoLast(tag, 'draft');
  await settled();
  expect(fetched).toHaveBeenCalledTimes(2);
});

test('an answer lost on the way is no race: what stands there already is taken as sent', async () => {
  fetched.mockResolvedValue(answer(409, { title: 'Changed meanwhile', detail: 'x', status: 409, current: sheet(6, 7, 'Ines Calder') }));
  editDraft(tag, { '3a': { value: 7, source: 'chosen' } });
  await settled();
  await settled();
  expect(edits()).toMatchObject({ changes: {}, conflict: null, base: 6 });
});
