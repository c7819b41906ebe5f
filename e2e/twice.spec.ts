import { present } from '@yare/core';
import type { Locator, Page } from '@playwright/test';
import { as, expect, outputHertz, test, unitOf, type Stack } from './stack';

/** ms a double tap may be late by on a busy machine and still be one: what newly came is deaf for longer than the longest of them and this. */
const late = 80;
/** How often a machine may be too busy for a double tap. */
const tries = 20;

/** Two touches at one place, so many ms apart by the page's own clock; begun afresh when the machine was too busy for that. */
async function tapTwice(page: Page, apart: number, ready: () => Promise<Locator>): Promise<void> {
  for (let n = 0; n < tries; n += 1) {
    const thing = await ready();
    await thing.scrollIntoViewIfNeeded();
    const { x, y } = await atRest(page, thing);
    await page.evaluate(() => Object.assign(window, { touchedAt: [] }));
    await page.touchscreen.tap(x, y);
    await page.waitForTimeout(apart);
    await page.touchscreen.tap(x, y);
    const [first, second] = await page.evaluate(() => (window as unknown as { touchedAt: number[] }).touchedAt);
    await page.evaluate(drawn);
    if (first !== undefined && second !== undefined && second - first < apart + late) return;
  }
  throw new Error(`In ${tries} tries no two touches came ${apart} ms apart.`);
}

/** The middle of a thing that has stopped moving: a sheet that jumps takes no touch for a moment. */
async function atRest(page: Page, thing: Locator): Promise<{ x: number; y: number }> {
  let last: string | null = null;
  for (;;) {
    const box = present(await thing.boundingBox());
    if (last === JSON.stringify(box)) return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    last = JSON.stringify(box);
    await page.waitForTimeout(400);
  }
}

/** Everything that was asked of the page is drawn. */
const drawn = () => new Promise((done) => requestAnimationFrame(() => setTimeout(() => done(true), 100)));

/** How many checks of a machine are on record as passed. */
async function onRecord(page: Page, stack: Stack, tag: string): Promise<number> {
  const plan = (await (await page.request.get(`${stack.url}/api/v1/machines/${tag}/plan`)).json()) as {
    proofs: Array<{ stage: string; item: string; outcome: string }>;
  };
  return new Set(plan.proofs.filter((p) => p.stage === 'before-power' && p.outcome === 'passed').map((p) => p.item)).size;
}

/** A machine for each, with checks that nobody has passed yet. */
const fresh: Readonly<Record<number, string>> = { 150: 'C-21', 250: 'C-07', 600: 'M-55' };

const power = async (page: Page, stack: Stack, tag: string, on: 0 | 1) => {
  const answer = await page.request.post(`${stack.url}/api/v1/machines/${tag}/bench`, { data: { author: 'Fitter', handles: { power: on } } });
  expect(answer.ok()).toBe(true);
};
const passed = async (page: Page): Promise<number> => Number.parseInt(await page.getByText(/\d+ of 10 passed/).innerText(), 10);

/** Acts that open something: where they stand, and where they lead. */
const opening = [
  ['/', 'link', /^C-07 /, /\/m\/C-07$/],
  ['/m/C-07', 'button', 'Go to Survey', /\/survey$/],
  ['/m/C-07/survey', 'button', 'Go on to Before power', /\/before-power$/],
  ['/m/C-07/plate', 'button', 'Go on to Drive', /\/drive$/],
  ['/m/P-11/motion', 'button', /^Go to Write: /, /\/write$/],
] as const;

type Twice = (ready: () => Promise<Locator>) => Promise<void>;

async function opens(page: Page, stack: Stack, twice: Twice): Promise<void> {
  for (const [path, role, name, to] of opening) {
    await twice(async () => {
      await page.goto(stack.url + path);
      const thing = page.getByRole(role, { name }).first();
      await expect(thing).toBeVisible();
      return thing;
    });
    await expect(page).toHaveURL(to);
  }
}

async function writes(page: Page, stack: Stack, twice: Twice): Promise<void> {
  const register = 1024 + 2 * 32;
  const now = () =>
    Promise.all([
      stack.read(unitOf['P-11'], register, 2),
      stack.query("select j.id from write_jobs j join machines m on m.id = j.machine_id where m.tag = 'P-11'"),
    ]);
  const before = await now();
  await twice(async () => {
    await page.goto(`${stack.url}/m/P-11/write`);
    await page.getByTestId('extent-all').tap();
    await expect(page.getByTestId('write')).toContainText('Hold to write all');
    return page.getByTestId('write');
  });
  await expect(page.getByTestId('write')).toContainText('Hold to write');
  expect(await now()).toEqual(before);
}

async function turns(page: Page, stack: Stack, apart: number, twice: Twice): Promise<void> {
  const runs = () => stack.query("select r.id from recordings r join machines m on m.id = r.machine_id where m.tag = 'P-11'");
  const before = await runs();
  await twice(async () => {
    await page.goto(`${stack.url}/m/P-11/turn`);
    await expect(page.getByTestId('clear')).toHaveAttribute('aria-checked', 'false');
    return page.getByTestId('clear');
  });
  await expect(page.getByTestId('clear')).toHaveAttribute('aria-checked', 'true');
  // the button answers to fingers, not to clicks
  const box = present(await page.getByTestId('hold').boundingBox());
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await page.waitForTimeout(apart);
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await page.evaluate(drawn);
  await expect(page.getByTestId('hold')).toContainText('Hold to run');
  expect([await outputHertz(stack, unitOf['P-11']), await runs()]).toEqual([0, before]);
}

async function takesAnotherDrive(page: Page, stack: Stack, twice: Twice): Promise<void> {
  await twice(async () => {
    await page.goto(`${stack.url}/m/C-07/drive`);
    await page.getByTestId('fold-sizes').tap();
    await expect(page.getByTestId('size-G4')).toBeVisible();
    return page.getByTestId('size-G4');
  });
  await expect(page.getByText(/C-07 gets Osier G G4/)).toBeVisible();
  expect(await stack.query("select size from machines where tag = 'C-07'")).toEqual([{ size: 'G2.2' }]);
}

async function passes(page: Page, stack: Stack, tag: string, twice: Twice): Promise<void> {
  await power(page, stack, tag, 0);
  let before = 0;
  await twice(async () => {
    await page.goto(`${stack.url}/m/${tag}/before-power`);
    const pass = page.locator('[data-testid^=pass-]:not([aria-disabled=true])');
    await expect(pass).toHaveCount(1);
    await expect(page.getByTestId('state-word')).toHaveText('No link');
    // what the page shows before it has heard of what was passed is no count
    before = await onRecord(page, stack, tag);
    await expect(page.getByText(`${before} of 10 passed`)).toBeVisible();
    return pass;
  });
  await expect.poll(() => passed(page)).toBe(before + 1);
  const next = page.getByTestId('next-check');
  await twice(async () => {
    if ((await next.count()) === 0) {
      // the try before opened it already: that one is passed, too
      await page.locator('[data-testid^=pass-]').tap();
      before += 1;
    }
    await expect(next).toBeVisible();
    return next;
  });
  expect(await passed(page)).toBe(before + 1);
  await power(page, stack, tag, 1);
}

for (const apart of [150, 250, 600])
  test(`two touches ${apart} ms apart open, pass, write and turn nothing unread`, async ({ page, stack }) => {
    await page.addInitScript(() =>
      window.addEventListener('click', (e) => (window as unknown as { touchedAt?: number[] }).touchedAt?.push(e.timeStamp), true),
    );
    await as(page, 'Ines Calder');
    const twice: Twice = (ready) => tapTwice(page, apart, ready);
    await opens(page, stack, twice);
    await writes(page, stack, twice);
    await turns(page, stack, apart, twice);
    await takesAnotherDrive(page, stack, twice);
    await passes(page, stack, present(fresh[apart]), twice);
  });
