import { bookById, settingsOf } from '@yare/books';
import { present } from '@yare/core';
import type { Problem } from '@yare/contract';
import { latest, startStack, until, type Stack } from './stack';

/** One claim on a machine for whatever acts on it. */
let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());
// motors run in real time: a computer that stalls for seconds is given one more try
jest.retryTimes(1, { logErrorsBeforeRetry: true });

const author = 'Ines Calder';
const call = (method: 'GET' | 'POST' | 'PUT', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });
const belt = () => present(stack.bench.drives.get(6));
const ready = (name: string) => stack.ready(name, 'C-07');

/** A draft of C-07 with its link time-out at 60 s. */
async function longTimeout(): Promise<number> {
  const { draft } = await latest(stack.app, 'C-07');
  const changes = [{ code: '5c', value: 60, source: 'chosen' }];
  return (await call('PUT', '/machines/C-07/draft', { author, revision: draft.revision, changes })).json().revision;
}

/** Does something at the moment the drive is written to for the first time. */
function duringWrite(act: () => void): () => void {
  const drive = belt();
  const real = drive.writeRegister.bind(drive);
  let once = true;
  drive.writeRegister = (register: number, word: number) => {
    if (once) act();
    once = false;
    real(register, word);
  };
  return () => (drive.writeRegister = real);
}

/** Writable settings of C-07 that differ or not: a long write. */
async function longWrite() {
  const revision = await longTimeout();
  const writable = settingsOf(bookById('osier-g'), 'G2.2').flatMap((s) => (s.access === 'read' ? [] : [s.code]));
  return call('POST', '/machines/C-07/write', { author, revision, codes: writable });
}

test('a hold pressed during a write that makes the time-out long is refused, with who writes', async () => {
  const tom = await ready('Tom Reed');
  let press: ReturnType<typeof tom.press> | undefined;
  const undo = duringWrite(() => (press = tom.hold('C-07', 10)));
  const report = await longWrite();
  undo();
  expect(report.statusCode).toBe(200);
  await until(() => tom.refused(present(press)) !== undefined);
  expect(tom.refused(present(press))).toMatchObject({
    code: 'claimed',
    sentence: expect.stringContaining('Ines Calder is writing to the drive of C-07'),
  });
  tom.letGo(present(press));
  expect(belt().machine.frequency).toBe(0);
  // and afterwards, with 60 s in the drive, it is refused for that
  expect(belt().values['5c']).toBe(60);
  const again = tom.hold('C-07', 10);
  await until(() => tom.ended(again) !== undefined);
  expect(tom.ended(again)).toMatchObject({ cause: 'time-out too long' });
  tom.letGo(again);
  expect(belt().machine.frequency).toBe(0);
  belt().set('5c', 1);
});

test('while a machine is held, everything else that acts on it is refused and told who holds it', async () => {
  const tom = await ready('Tom Reed');
  const press = tom.hold('C-07', 6);
  await until(() => belt().machine.frequency > 3);
  const { draft } = await latest(stack.app, 'C-07');
  const answers = {
    write: await call('POST', '/machines/C-07/write', { author, revision: draft.revision, codes: ['3a'] }),
    resume: await call('POST', '/machines/C-07/write/resume', { author }),
    keep: await call('POST', '/machines/C-07/keep', { author }),
    read: await call('POST', '/machines/C-07/read', { author }),
    drive: await call('PUT', '/machines/C-07/drive', { author, bookId: 'withy', size: 'W2.2', region: 50 }),
    address: await call('PUT', '/machines/C-07/record', { author, unitId: 77 }),
    bench: await call('PUT', '/machines/C-07/bench', { author }),
  };
  for (const [what, answer] of Object.entries(answers)) {
    const problem = answer.json<Problem>();
    expect([what, answer.statusCode, problem.title, problem.claim]).toEqual([what, 409, 'Claimed', { who: 'Tom Reed', purpose: 'hold' }]);
  }
  // what acts on no drive goes on
  expect((await call('PUT', '/machines/C-07/record', { author, name: 'Malt belt' })).statusCode).toBe(200);
  tom.letGo(press);
  await until(() => tom.ended(press) !== undefined);
  expect((await call('POST', '/machines/C-07/read', { author })).statusCode).toBe(200);
});

test('another drive is refused while the one before is written to', async () => {
  let change: Promise<{ statusCode: number }> | undefined;
  const undo = duringWrite(() => (change = call('PUT', '/machines/C-07/drive', { author: 'Tom Reed', bookId: 'withy', size: 'W2.2', region: 50 })));
  const report = await longWrite();
  undo();
  expect(present(await change).statusCode).toBe(409);
  expect(report.json().outcome).toBe('kept');
  expect((await call('GET', '/machines/C-07')).json().bookId).toBe('osier-g');
  belt().set('5c', 1);
});

test('the time-out is watched during a run: made longer from outside, it ends it', async () => {
  const tom = await ready('Tom Reed');
  const press = tom.hold('C-07', 6);
  await until(() => belt().machine.frequency > 3);
  belt().set('5c', 60);
  await until(() => tom.ended(press) !== undefined);
  expect(tom.ended(press)).toMatchObject({ cause: 'time-out too long', reason: expect.stringContaining('5c is 60 s') });
  expect(belt().running).toBe(false);
  belt().set('5c', 1);
});

test('an acknowledged edit is never of a drive that was just removed', async () => {
  let acknowledged = 0;
  for (let round = 0; round < 8; round += 1) {
    const { draft } = await latest(stack.app, 'M-55');
    const { bookId } = (await call('GET', '/machines/M-55')).json<{ bookId: string }>();
    const other = bookId === 'withy' ? { bookId: 'osier-g', size: 'G0.75' } : { bookId: 'withy', size: 'W0.2' };
    const code = present(Object.keys(draft.values).find((c) => /a$|\d$/.test(c)));
    const edit = { author, revision: draft.revision, changes: [{ code, value: present(draft.values[code]).value, source: 'chosen' }] };
    // both wait for the machine's row
    let both: Array<Promise<{ statusCode: number; json: () => { revision?: number } }>> = [];
    await stack.db.transaction(async (trx) => {
      await trx('machines').where({ tag: 'M-55' }).forUpdate().first('id');
      both = [call('PUT', '/machines/M-55/drive', { author, region: 50, ...other }), call('PUT', '/machines/M-55/draft', edit)];
      if (round % 2) both.reverse();
      await until(async () => {
        const { rows } = await stack.db.raw(`select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`);
        return Number(rows[0].count) >= 1;
      });
    });
    const answers = await Promise.all(both);
    const edited = present(answers[round % 2 ? 0 : 1]);
    const now = await latest(stack.app, 'M-55');
    if (edited.statusCode !== 200) continue;
    acknowledged += 1;
    // taken: then it came first, and the drive was changed after it
    expect(edited.json().revision).toBeLessThan(now.draft.revision);
  }
  expect(acknowledged).toBeLessThan(8);
});
