import { present } from '@yare/core';
import type { Locator, Page } from '@playwright/test';
import { as, expect, outputHertz, test, unitOf, type Stack } from './stack';

/** The page's own clock in this test's hand: it stands, so that a busy machine makes no touch later, and jumps of the sheet are not told. */
function holdClock(): void {
  const own = performance.now.bind(performance);
  let now = own();
  performance.now = () => now;
  Object.defineProperty(PerformanceObserver, 'supportedEntryTypes', { value: [] });
  Object.assign(window, { advance: (ms: number) => (now += ms), letClockRun: () => (performance.now = own) });
}
const advance = (page: Page, ms: number) => page.evaluate((by) => (window as unknown as { advance: (ms: number) => void }).advance(by), ms);
const letClockRun = (page: Page) => page.evaluate(() => void (window as unknown as { letClockRun: () => void }).letClockRun());

/** What was asked of the page until now is drawn: it draws after the next frame. */
const drawn = () => new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done()))));

/** Two touches at one place, so many ms apart by the page's clock, the second on what the first one brought. */
async function tapTwice(page: Page, apart: number, ready: () => Promise<Locator>, brought: () => Promise<void>): Promise<void> {
  const thing = await ready();
  await thing.scrollIntoViewIfNeeded();
  const box = present(await thing.boundingBox());
  const touch = () => page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await touch();
  await brought();
  await advance(page, apart);
  await touch();
  await page.evaluate(drawn);
}

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

/** Acts that open something: where they stand, and where they lead. */
const opening = [
  ['/', 'link', /^C-07 /, /\/m\/C-07$/],
  ['/m/C-07', 'button', 'Go to Survey', /\/survey$/],
  ['/m/C-07/survey', 'button', 'Go on to Before power', /\/before-power$/],
  ['/m/C-07/plate', 'button', 'Go on to Drive', /\/drive$/],
  ['/m/P-11/motion', 'button', /^Go to Write: /, /\/write$/],
] as const;

type Twice = (ready: () => Promise<Locator>, brought: () => Promise<void>) => Promise<void>;

async function opens(page: Page, stack: Stack, twice: Twice): Promise<void> {
  for (const [path, role, name, to] of opening) {
    const led = async () => {
      await expect(page).toHaveURL(to);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    };
    await twice(async () => {
      await page.goto(stack.url + path);
      const thing = page.getByRole(role, { name }).first();
      await expect(thing).toBeVisible();
      return thing;
    }, led);
    await led();
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
  const waits = () => expect(page.getByTestId('write')).toContainText('Hold to write');
  await twice(async () => {
    await page.goto(`${stack.url}/m/P-11/write`);
    await page.getByTestId('extent-all').tap();
    await expect(page.getByTestId('write')).toContainText('Hold to write all');
    return page.getByTestId('write');
  }, waits);
  await waits();
  expect(await now()).toEqual(before);
}

async function turns(page: Page, stack: Stack, twice: Twice): Promise<void> {
  const runs = () => stack.query("select r.id from recordings r join machines m on m.id = r.machine_id where m.tag = 'P-11'");
  const before = await runs();
  const confirmed = () => expect(page.getByTestId('clear')).toHaveAttribute('aria-checked', 'true');
  await twice(async () => {
    await page.goto(`${stack.url}/m/P-11/turn`);
    await expect(page.getByTestId('clear')).toHaveAttribute('aria-checked', 'false');
    return page.getByTestId('clear');
  }, confirmed);
  await confirmed();
  await letClockRun(page);
  // the button answers to fingers, not to clicks
  const box = present(await page.getByTestId('hold').boundingBox());
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await page.touchscreen.tap(box.x + box.width / 2, box.y + box.height / 2);
  await page.evaluate(drawn);
  await expect(page.getByTestId('hold')).toContainText('Hold to run');
  expect([await outputHertz(stack, unitOf['P-11']), await runs()]).toEqual([0, before]);
}

async function takesAnotherDrive(page: Page, stack: Stack, twice: Twice): Promise<void> {
  const asked = () => expect(page.getByText(/C-07 gets Osier G G4/)).toBeVisible();
  await twice(async () => {
    await page.goto(`${stack.url}/m/C-07/drive`);
    await page.getByTestId('fold-sizes').tap();
    await expect(page.getByTestId('size-G4')).toBeVisible();
    return page.getByTestId('size-G4');
  }, asked);
  await asked();
  expect(await stack.query("select size from machines where tag = 'C-07'")).toEqual([{ size: 'G2.2' }]);
}

async function passes(page: Page, stack: Stack, tag: string, twice: Twice): Promise<void> {
  await power(page, stack, tag, 0);
  let before = 0;
  const onePassed = () => expect(page.getByText(`${before + 1} of 10 passed`)).toBeVisible();
  await twice(async () => {
    await page.goto(`${stack.url}/m/${tag}/before-power`);
    const pass = page.locator('[data-testid^=pass-]:not([aria-disabled=true])');
    await expect(pass).toHaveCount(1);
    await expect(page.getByTestId('state-word')).toHaveText('No link');
    // what the page shows before it has heard of what was passed is no count
    before = await onRecord(page, stack, tag);
    await expect(page.getByText(`${before} of 10 passed`)).toBeVisible();
    return pass;
  }, onePassed);
  await onePassed();
  await advance(page, 1000);
  await twice(
    async () => {
      const next = page.getByTestId('next-check');
      if ((await next.count()) === 0) {
        // the second touch lay on the next row, which was there before, and opened it: that one is passed, too
        await page.locator('[data-testid^=pass-]').tap();
        before += 1;
      }
      await expect(next).toBeVisible();
      await advance(page, 1000);
      return next;
    },
    () => expect(page.locator('[data-testid^=pass-]')).toHaveCount(1),
  );
  await onePassed();
  await power(page, stack, tag, 1);
}

for (const apart of [150, 250, 600])
  test(`two touches ${apart} ms apart open, pass, write and turn nothing unread`, async ({ page, stack }) => {
    await page.addInitScript(holdClock);
    await as(page, 'Ines Calder');
    const twice: Twice = (ready, brought) => tapTwice(page, apart, ready, brought);
    await opens(page, stack, twice);
    await writes(page, stack, twice);
    await turns(page, stack, twice);
    await takesAnotherDrive(page, stack, twice);
    await passes(page, stack, present(fresh[apart]), twice);
  });
