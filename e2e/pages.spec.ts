import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { stages } from '@yare/commissioning';
import { as, expect, test } from './stack';

/** Whether the sheet is drawn for the day or for the night, by the brightness of its ground. */
function groundOfSheet(): 'light' | 'dark' {
  let at = document.elementFromPoint(200, 420);
  while (at && getComputedStyle(at).backgroundColor === 'rgba(0, 0, 0, 0)') at = at.parentElement;
  const [red = 0] = /\d+/.exec(at ? getComputedStyle(at).backgroundColor : '') ?? [];
  return Number(red) > 127 ? 'light' : 'dark';
}

/** Text that is smaller than a person reads at arm's length in a dim panel: 15 px, axes of charts 13. */
function tooSmall(): string[] {
  const found = new Set<string>();
  for (const node of document.querySelectorAll('body *')) {
    const own = [...node.childNodes].some((c) => c.nodeType === Node.TEXT_NODE && (c.textContent ?? '').trim() !== '');
    if (!own || node.getClientRects().length === 0) continue;
    const size = Number.parseFloat(getComputedStyle(node).fontSize);
    if (size < (node.closest('svg') ? 13 : 15)) found.add(`${size} px: ${(node.textContent ?? '').slice(0, 40)}`);
  }
  return [...found];
}

const standard = ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'];
const errors: string[] = [];
let page: Page;

// one page for all: what it fetched for one route it has for the next
test.beforeAll(async ({ browser }) => {
  page = await (await browser.newContext()).newPage();
  page.on('pageerror', (e) => errors.push(e.message));
  await as(page, 'Ines Calder');
});
test.afterAll(() => page.context().close());

for (const path of [
  '/',
  '/new',
  '/trips',
  '/m/P-11',
  // with a drive and a draft that differ, a sump and a belt
  '/m/P-11/motion',
  '/m/P-11/write',
  '/m/P-11/bench',
  '/m/C-07/bench',
  '/m/C-07/presets',
  '/m/P-11/hand-off-auto',
  '/m/P-11/process',
  '/m/P-11/sleep',
  '/m/P-11/guards',
  '/m/P-41/station',
  '/m/F-32/emergency',
  ...[...stages.map((s) => s.path), 'start', 'compare', 'revisions'].map((s) => `/m/C-21/${s}`),
])
  test(`${path} by day and by night, everything unfolded: WCAG 2.2 AA by axe, nothing wider than the phone`, async ({ stack }) => {
    errors.length = 0;
    await page.goto(stack.url + path);
    await expect(page.getByRole('heading').first()).toBeVisible();
    await expect(page.getByText(/^(Looking ahead|computing|Reading)/)).toHaveCount(0);
    const folded = page.locator('[aria-expanded=false]');
    const open = page.locator('[aria-expanded=true]');
    while ((await folded.count()) > 0) {
      // what is opened may bring another that is shut
      const before = await open.count();
      // what is still being worked out may move a row away under the thumb: then it is touched again
      await expect(async () => {
        if ((await open.count()) <= before) await folded.first().tap();
        await expect.poll(() => open.count(), { timeout: 3000 }).toBeGreaterThan(before);
      }).toPass();
    }
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme });
      await expect.poll(() => page.evaluate(groundOfSheet)).toBe(colorScheme);
      // by night only the colours are others
      // no frames of other origins here, for which axe would finish in a page of its own; nor sheets
      const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'], preload: false });
      const { violations } = await (colorScheme === 'light' ? axe.withTags(standard) : axe.withRules('color-contrast')).analyze();
      const where = (v: (typeof violations)[number]) => v.nodes.map((n) => n.target.join(' ')).slice(0, 3);
      expect(violations.map((v) => `${colorScheme} ${v.id}: ${where(v).join('; ')}`)).toEqual([]);
    }
    expect(await page.evaluate(tooSmall)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(errors).toEqual([]);
  });

test('what a phone fetches of the application comes in brotli, the page itself too, and gzipped where a browser takes no more', async ({
  page: phone,
  stack,
}) => {
  await as(phone, 'Ines Calder');
  const script = phone.waitForResponse(/_expo\/static\/js/);
  const document = await phone.goto(stack.url);
  expect([document?.headers()['content-encoding'], (await script).headers()['content-encoding']]).toEqual(['br', 'br']);
  const older = await phone.request.get((await script).url(), { headers: { 'accept-encoding': 'gzip' } });
  expect(older.headers()['content-encoding']).toBe('gzip');
  await expect(phone.getByTestId('machine-P-11')).toBeVisible();
});
