import { present, tripMachine, nth } from '@yare/core';
import { startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const get = async (path: string) => stack.app.inject({ method: 'GET', url: `/api/v1${path}` });
const reset = (tag: string) => stack.app.inject({ method: 'POST', url: `/api/v1/machines/${tag}/trip/reset`, payload: { author } });
const stirrer = () => present(stack.bench.drives.get(8));
const log = async (tag: string) => {
  const { events } = (await get(`/audit?tag=${tag}`)).json() as { events: Array<{ action: string; detail: { step?: string; name?: string } }> };
  return events.filter((e) => e.detail?.step !== 'intended').map((e) => [e.action, e.detail?.name ?? e.detail?.step ?? '']);
};

test('a trip is in the log, is told with the book’s sentence, and is reset by a deliberate act; nothing starts by it', async () => {
  const watcher = await stack.ready(author, 'M-55');
  const live = () => watcher.live('M-55');
  stirrer().panel.state.way = 2;
  await until(() => live()?.state === 'running' && stirrer().machine.frequency > 2);
  tripMachine(stirrer().machine, 'overcurrent');
  await until(() => live()?.state === 'tripped');
  await until(async () => (await log('M-55')).some(([action]) => action === 'tripped'));
  const told = (await get('/machines/M-55/trip')).json();
  expect(told).toMatchObject({ code: present(live()?.trip).code, sentence: present(live()?.trip).sentence, live: { state: 'tripped' } });
  expect(Date.parse(told.seenAt)).toBeGreaterThan(Date.now() - 60_000);

  const answer = await reset('M-55');
  expect(answer.json()).toMatchObject({ trip: null, holder: 'terminals' });
  // the start contact is still closed: it waits for a new start, and says so
  await until(() => live()?.state === 'held' && live()?.waits !== null);
  expect(live()?.waits).toEqual({ code: 'start contact', sentence: 'The start contact is still closed: open it, then close it' });
  expect(stirrer().machine.frequency).toBe(0);
  await until(async () => (await log('M-55'))[0]?.[0] === 'trip gone' || (await log('M-55'))[1]?.[0] === 'trip gone');
  expect((await log('M-55')).map(([action]) => action)).toEqual(expect.arrayContaining(['tripped', 'reset trip', 'trip gone']));
  expect((await get('/machines/M-55/trip')).statusCode).toBe(404);

  stirrer().panel.state.way = 1;
  await until(() => live()?.state === 'ready' && live()?.waits === null);
  stirrer().panel.state.way = 2;
  await until(() => live()?.state === 'running');
  stirrer().panel.state.way = 1;
  await until(() => live()?.state === 'ready');
});

test('what has not tripped is not reset, nor what keeps its cause, nor what does not answer; command goes back', async () => {
  await stack.ready(author, 'M-55');
  expect((await reset('M-55')).json()).toMatchObject({ status: 409, detail: 'M-55 has not tripped. Nothing was reset.' });
  // as hot as that it has to cool down first
  stirrer().machine.motorHeat = 1.5;
  await until(() => stirrer().machine.trip !== null);
  const answer = await reset('M-55');
  expect(answer.statusCode).toBe(409);
  expect(answer.json().detail).toMatch(/is still there: the drive does not let go of it while its cause lasts/);
  expect(stirrer().link.holds).toBe(false);
  stirrer().plant.wiring.linkCut = true;
  expect((await reset('M-55')).statusCode).toBe(424);
  stirrer().plant.wiring.linkCut = false;
});

test('a trip that was there before is not logged again when the server starts anew', async () => {
  await until(async () => (await log('M-55')).filter(([a]) => a === 'tripped').length >= 2);
  const ofTrips = async () => (await log('M-55')).filter(([action]) => action === 'tripped' || action === 'trip gone').length;
  const before = await ofTrips();
  const { logTrips } = await import('../src/trips/tripLog');
  const told: Array<(s: object) => void> = [];
  const failed = jest.fn();
  logTrips(stack.db, { onSample: (l: (s: object) => void) => (told.push(l), () => undefined) } as never, failed);
  const { code, name } = (await get('/machines/M-55/trip')).json();
  nth(told, 0)({ tag: 'M-55', link: 'up', trip: { code, name } });
  nth(told, 0)({ tag: 'M-55', link: 'up', trip: { code, name } });
  await stack.db.raw('select 1');
  expect(await ofTrips()).toBe(before);
  expect(failed).not.toHaveBeenCalled();
});
