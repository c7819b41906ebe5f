import { present } from '@yare/core';
import { startStack, until, type Stack } from './stack';

let stack: Stack;
beforeAll(async () => {
  stack = await startStack();
});
afterAll(() => stack.stop());

const author = 'Ines Calder';
const stop = (tag: string) => stack.app.inject({ method: 'POST', url: `/api/v1/machines/${tag}/stop`, payload: { author } });
const driveOf = (tag: string) => present([...stack.bench.drives.values()].find((d) => d.demo.tag === tag));

test('what somebody else holds to run is stopped, both are told by whom, and it is in the log', async () => {
  const holder = await stack.ready('Ruth Hale', 'C-07');
  const belt = driveOf('C-07');
  const press = holder.hold('C-07', 12);
  await until(() => belt.machine.frequency > 3);
  expect((await stop('C-07')).statusCode).toBe(200);
  await until(() => holder.ended(press) !== undefined);
  expect(holder.ended(press)).toMatchObject({ cause: 'stopped', reason: 'Ines Calder stopped it' });
  await until(() => !belt.running);
  holder.fallSilent();
  await until(async () => {
    const { events } = (await stack.app.inject({ method: 'GET', url: '/api/v1/audit?tag=C-07' })).json();
    return events.some((e: { action: string; author: string }) => e.action === 'stop over link' && e.author === author);
  });
});

test('what its panel runs is not stopped from here, and that is said', async () => {
  const phone = await stack.ready(author, 'P-11');
  const pump = driveOf('P-11');
  pump.panel.state.mode = 0;
  await until(() => phone.live('P-11')?.state === 'running' && pump.machine.frequency > 3);
  const refused = await stop('P-11');
  expect([refused.statusCode, refused.json().detail]).toEqual([409, expect.stringContaining('is stopped at its panel')]);
  expect(pump.running).toBe(true);
  pump.panel.state.mode = 1;
  await until(() => !pump.running);
  expect((await stop('X-1')).statusCode).toBe(404);
});
