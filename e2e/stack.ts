import { randomBytes } from 'node:crypto';
import { present } from '@yare/core';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import getPort from 'get-port';
import ModbusRTU from 'modbus-serial';
import pg from 'pg';
import { startBench, startServer } from '../scripts/lib/processes.mjs';
import { webFolder } from '../scripts/lib/machine.mjs';

type Program = ReturnType<typeof startServer>;

/** Everything a test runs against, with a hand on each part. */
export interface Stack {
  url: string;
  benchPort: number;
  server: Program;
  bench: Program;
  /** of its database */
  databaseUrl: string;
  /** with further arguments of the server, where given */
  startServer(more?: string[]): Promise<void>;
  startBench(): Promise<void>;
  /** registers of a unit, asked by a Modbus client that is not the application's */
  read(unit: number, register: number, count?: number): Promise<number[]>;
  query<T extends object>(sql: string, values?: unknown[]): Promise<T[]>;
}

export const test = base.extend<object, { stack: Stack }>({
  page: async ({ page }, give) => {
    await tapLikeAHand(page);
    await give(page);
  },
  stack: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const admin = process.env.TEST_DATABASE_URL;
      if (!admin) throw new Error('TEST_DATABASE_URL is missing: run "npm test", which starts a database.');
      const name = `e2e_${randomBytes(5).toString('hex')}`;
      const url = admin.replace(/\/[^/]+$/, `/${name}`);
      const run = async <T extends object>(to: string, sql: string, values?: unknown[]): Promise<T[]> => {
        const client = new pg.Client(to);
        await client.connect();
        try {
          return (await client.query<T>(sql, values)).rows;
        } finally {
          await client.end();
        }
      };
      await run(admin, `create database ${name}`);
      const folder = mkdtempSync(join(tmpdir(), 'yare-e2e-'));
      const port = await getPort({ host: '127.0.0.1' });
      const benchPort = await getPort({ host: '127.0.0.1' });
      const plantPort = await getPort({ host: '127.0.0.1' });
      const stack: Stack = {
        url: `http://127.0.0.1:${port}`,
        benchPort,
        server: undefined as unknown as Program,
        bench: undefined as unknown as Program,
        async startBench() {
          stack.bench = startBench({
            port: benchPort,
            plantPort,
            seed: 11,
            stateFile: join(folder, 'bench.json'),
            logFile: join(folder, 'bench.log'),
          });
          await stack.bench.ready;
        },
        databaseUrl: url,
        async startServer(more = []) {
          stack.server = startServer({
            more,
            port,
            database: url,
            bench: `127.0.0.1:${benchPort}`,
            plant: `127.0.0.1:${plantPort}`,
            staticFolder: webFolder,
            logFile: join(folder, 'server.log'),
          });
          await stack.server.ready;
        },
        async read(unit, register, count = 1) {
          const client = new ModbusRTU();
          await client.connectTCP('127.0.0.1', { port: benchPort });
          client.setID(unit);
          // a busy machine may let it wait
          client.setTimeout(10_000);
          try {
            return (await client.readHoldingRegisters(register, count)).data;
          } finally {
            client.close(() => undefined);
          }
        },
        query: (sql, values) => run(url, sql, values),
      };
      await stack.startBench();
      await stack.startServer();
      await use(stack);
      await stack.server.stop();
      await stack.bench.stop();
      await run(admin, `drop database ${name} with (force)`);
      rmSync(folder, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
});

export { expect };

export const unitOf = { 'P-11': 1, 'P-41': 2, 'P-42': 3, 'F-32': 5, 'C-07': 6, 'C-21': 7, 'M-55': 8 } as const;

/** What the page tells when a touch was not taken. */
const touchNotTaken = 'touch-not-taken';

/** Taps and clicks as a hand does them: one the page did not take, because what it touched had only just come, is given again. */
async function tapLikeAHand(page: Page): Promise<void> {
  await page.addInitScript((told) => {
    Object.assign(window, { notTaken: 0 });
    document.addEventListener(told, () => Object.assign(window, { notTaken: (window as unknown as { notTaken: number }).notTaken + 1 }));
  }, touchNotTaken);
  const touch = Object.getPrototypeOf(page.locator('body')) as Locator & { likeAHand?: true };
  if (touch.likeAHand) return;
  touch.likeAHand = true;
  for (const act of ['tap', 'click'] as const) {
    const own = touch[act];
    touch[act] = async function (this: Locator, options?: object) {
      // a page that went away with the touch took it
      const notTaken = () =>
        this.page()
          .evaluate(() => (window as unknown as { notTaken?: number }).notTaken ?? 0)
          .catch(() => 0);
      let before: number;
      do {
        before = await notTaken();
        await own.call(this, options);
      } while ((await notTaken()) > before);
    };
  }
}

/** Holds an act of the bar until it is done. */
export async function holdAct(page: Page, id: string): Promise<void> {
  // the page that has it may still be on its way; once it was there, it is gone when it is done
  await expect(page.getByTestId(id)).toBeVisible();
  // right after a touch a mouse is taken for its echo, and one second is soon over on a busy machine: then it is held again
  await expect(async () => {
    await page.mouse.up();
    const button = page.getByTestId(id);
    if ((await button.count()) === 0) return;
    // it may go between the one and the other: then it is done as well
    const box = present(await button.boundingBox({ timeout: 2000 }));
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await expect(button.getByText('Keep holding…')).toBeVisible({ timeout: 1500 });
    await expect(page.getByText('Keep holding…')).toHaveCount(0);
  }).toPass();
  await page.mouse.up();
}

/** A page of somebody who has given a name before. */
export async function as(page: Page, name: string): Promise<void> {
  await tapLikeAHand(page);
  await page.addInitScript((author) => {
    if (!localStorage.getItem('yare.device')) localStorage.setItem('yare.device', JSON.stringify({ state: { author, theme: 'device' }, version: 0 }));
  }, name);
}

/** Types a figure on the decimal pad of a phone. */
export async function typeOnPad(page: Page, figure: string): Promise<void> {
  const pad = page.getByTestId('entry');
  for (const key of figure) await pad.getByRole('button', { name: key, exact: true }).tap();
}

export const outputHertz = async (stack: Stack, unit: number): Promise<number> => {
  const word = present((await stack.read(unit, 101))[0]);
  return (word > 32767 ? word - 65536 : word) / 100;
};

/** How long nothing is said of what is waited for, ms. */
const quiet = 30_000;
/** Looks after a press at which a drive that nobody commands was not begun. */
const mostLooks = 200;

/** Whether somebody on the link has command of a drive. */
const commanded = async (stack: Stack, unit: number): Promise<boolean> => (await stack.read(unit, 110))[0] === 1;

/**
 * Presses and holds the button until something has come, as a hand would: a run that a busy machine broke off is begun again once the motor
 * stands; one that goes on is waited for, however long it takes, and what is waited for is told.
 * @param keyboard held by the space bar, and not by a finger
 */
export async function heldUntil(page: Page, stack: Stack, unit: number, what: string, come: () => Promise<boolean>, keyboard = false): Promise<void> {
  const hold = page.getByTestId('hold');
  let told = Date.now();
  const tell = async () => {
    if (Date.now() - told < quiet) return;
    told = Date.now();
    console.log(`  still waiting for ${what}; the drive gives ${await outputHertz(stack, unit)} Hz, the button says "${await hold.innerText()}"`);
  };
  const down = async () => {
    if (keyboard) {
      await hold.focus();
      return page.keyboard.down(' ');
    }
    const box = present(await hold.boundingBox());
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
  };
  for (;;) {
    await (keyboard ? page.keyboard.up(' ') : page.mouse.up());
    await stands(stack, unit);
    // it is asked anew for every run
    const clear = page.getByTestId('clear');
    // a row that has just moved under the finger takes no touch: it is touched until it has taken one; and news of the last run's end,
    // come late on a busy machine, takes the word back, which a person then gives again
    await expect(async () => {
      if ((await clear.getAttribute('aria-checked')) === 'false') await clear.click();
      await expect(clear).toHaveAttribute('aria-checked', 'true', { timeout: 2000 });
      await expect(hold).toContainText('Hold to', { timeout: 5000 });
    }).toPass();
    await down();
    let begun = false;
    for (let looks = 0; ; looks++) {
      if (await come()) return;
      const now = await commanded(stack, unit);
      if (now) begun = true;
      // it has ended, or the press was not taken: another look at what it came to, and it is held again
      else if (begun || looks > mostLooks) {
        if (await come()) return;
        break;
      }
      await tell();
      await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(drawn)));
    }
  }
}

/** Holds the button until the drive turns. */
export const holdUntilTurning = (page: Page, stack: Stack, unit: number, hertz: number, keyboard = false): Promise<void> =>
  heldUntil(page, stack, unit, `an output above ${hertz} Hz`, async () => (await outputHertz(stack, unit)) > hertz, keyboard);

/** The drive stands and command is with the terminals again. */
export async function stands(stack: Stack, unit: number): Promise<void> {
  await expect.poll(async () => [await outputHertz(stack, unit), await commanded(stack, unit)]).toEqual([0, false]);
}

/** A hand at the plant side of a machine. */
export async function atPlant(page: Page, stack: Stack, tag: keyof typeof unitOf, what: object): Promise<void> {
  const answer = await page.request.post(`${stack.url}/api/v1/machines/${tag}/bench`, { data: { author: 'Fitter', ...what } });
  expect(answer.status()).toBe(200);
}

/** A figure of the sheet typed on the pad; its section is opened where it is shut. */
export async function setFigure(page: Page, code: string, text: string, fold?: string): Promise<void> {
  const row = page.getByTestId(`setting-${code}`);
  await expect(async () => {
    if (fold && !(await row.isVisible())) await page.getByTestId(fold).tap();
    await expect(row).toBeVisible({ timeout: 1500 });
  }).toPass();
  await row.tap();
  await typeOnPad(page, text);
  await page.getByTestId('entry-set').tap();
}

/** Writes by hand until everything is in the drive: where a busy machine lost the link, one goes on with the rest, as the page says. */
export async function writeDraft(page: Page): Promise<void> {
  await holdAct(page, 'write');
  const done = page.getByText(/values? written, read back and kept/);
  await expect(async () => {
    // a hold that a busy page broke off wrote nothing
    for (const id of ['go-on', 'write']) if (!(await done.isVisible()) && (await page.getByTestId(id).count()) > 0) await holdAct(page, id);
    await expect(done).toBeVisible({ timeout: 5000 });
  }).toPass();
}

/** The draft written to a pump that is turned off and stands. */
export async function written(page: Page, stack: Stack, tag: keyof typeof unitOf): Promise<void> {
  await atPlant(page, stack, tag, { panel: { mode: 1 } });
  await stands(stack, unitOf[tag]);
  await page.goto(`${stack.url}/m/${tag}/write`);
  await writeDraft(page);
}
