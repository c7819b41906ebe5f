import AxeBuilder from '@axe-core/playwright';
import { present } from '@yare/core';
import { as, expect, test, typeOnPad } from './stack';

test('a drive that is not there: a clear sentence, draft and drive as they were', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/M-55/write`);
  await expect(page.getByTestId('write')).toContainText('Write');
  const before = await page.getByTestId('write').innerText();
  await stack.bench.stop();
  await expect(page.getByTestId('state-word')).toHaveText('No link');
  await page.getByTestId('write').tap();
  await expect(page.getByText(/The drive does not answer\. Nothing was written; draft and drive are as they were/)).toBeVisible();
  await page.getByTestId('read-drive').tap();
  await expect(page.getByText(/does not answer. What was last read is still shown/)).toBeVisible();
  expect(await page.getByTestId('write').innerText()).toBe(before);
  await stack.startBench();
  await expect(page.getByTestId('state-word')).toHaveText('Ready', { timeout: 15_000 });
});

test('rounding by a coarse drive is shown before it is written', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/M-55/write`);
  await expect(page.getByText('The draft says 0.61 A; this drive holds steps of 0.1 and will store 0.6 A, 1.6 % off.').first()).toBeVisible();
  await expect(page.getByTestId('diff-w04')).toContainText('0.6');
});

test('two people at one draft: the second sees both sides and chooses', async ({ page, browser, stack }) => {
  await as(page, 'Ines Calder');
  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })).newPage();
  await as(other, 'Tom Reed');
  await page.goto(`${stack.url}/m/C-07/motion`);
  await other.goto(`${stack.url}/m/C-07/motion`);
  await expect(page.getByTestId('setting-3a')).toBeVisible();
  await expect(other.getByTestId('setting-3a')).toBeVisible();
  // the second page hears nothing of the first: its own reading of the sheet is held back
  await other.route('**/sheets', (route) => (route.request().method() === 'GET' ? undefined : route.continue()));
  await page.getByTestId('setting-3a').tap();
  await typeOnPad(page, '7');
  await page.getByTestId('entry-set').tap();
  await expect(page.getByTestId('setting-3a')).toContainText('7.0');
  await page.waitForTimeout(500);
  await other.getByTestId('setting-3a').tap();
  await typeOnPad(other, '9');
  await other.getByTestId('entry-set').tap();
  await expect(other.getByText('Ines Calder changed the draft while you were typing.')).toBeVisible();
  await expect(other.getByText('Acceleration time: yours 9, theirs 7 s')).toBeVisible();
  await other.unroute('**/sheets');
  await other.getByRole('button', { name: 'Keep mine on top' }).tap();
  await expect
    .poll(
      async () =>
        present(
          (
            await stack.query<{ values: Record<string, { value: number; author: string }> }>(
              "select values from sheet_revisions s join machines m on m.id = s.machine_id where m.tag = 'C-07' and kind = 'draft' order by revision desc limit 1",
            )
          )[0],
        ).values['3a'],
    )
    .toMatchObject({ value: 9, author: 'Tom Reed' });
  await other.close();
});

test('without a server what is typed is kept on the device and sent when it is back', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/C-21/motion`);
  await expect(page.getByTestId('setting-3a')).toBeVisible();
  await stack.server.stop();
  await page.getByTestId('setting-3a').tap();
  await typeOnPad(page, '8.5');
  await page.getByTestId('entry-set').tap();
  await expect(page.getByText(/The server does not answer. 1 change is kept on this device/)).toBeVisible();
  await expect(page.getByTestId('setting-3a')).toContainText('8.5');
  await stack.startServer();
  await expect
    .poll(
      async () =>
        present(
          present(
            (
              await stack.query<{ values: Record<string, { value: number }> }>(
                "select values from sheet_revisions s join machines m on m.id = s.machine_id where m.tag = 'C-21' and kind = 'draft' order by revision desc limit 1",
              )
            )[0],
          ).values['3a'],
        ).value,
      { timeout: 15_000 },
    )
    .toBe(8.5);
  await expect(page.getByText(/kept on this device/)).toHaveCount(0);
});

/** Whether the sheet is drawn for the day or for the night, by the brightness of its ground. */
function groundOfSheet(): 'light' | 'dark' {
  let at = document.elementFromPoint(200, 420);
  while (at && getComputedStyle(at).backgroundColor === 'rgba(0, 0, 0, 0)') at = at.parentElement;
  const [red = 0] = /\d+/.exec(at ? getComputedStyle(at).backgroundColor : '') ?? [];
  return Number(red) > 127 ? 'light' : 'dark';
}

for (const path of [
  '/',
  '/new',
  '/m/P-11',
  '/m/P-11/plate',
  '/m/P-11/motion',
  '/m/P-11/write',
  '/m/P-11/turn',
  '/m/P-11/recordings',
  '/m/P-11/bench',
  '/m/C-07/bench',
  ...['survey', 'before-power', 'drive', 'protection', 'direction', 'tune', 'settings', 'start', 'compare', 'revisions'].map((s) => `/m/C-21/${s}`),
]) {
  test(`${path} by day and by night, everything unfolded: WCAG 2.2 AA by axe, nothing wider than the phone`, async ({ page, stack }) => {
    await as(page, 'Ines Calder');
    const errors: string[] = [];
    page.on('pageerror', (e) => errors.push(e.message));
    await page.goto(stack.url + path);
    await page.waitForTimeout(1200);
    const folded = page.locator('[aria-expanded=false]');
    while ((await folded.count()) > 0) {
      const left = await folded.count();
      await folded.first().tap();
      await expect(folded).not.toHaveCount(left);
    }
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme });
      await expect.poll(() => page.evaluate(groundOfSheet)).toBe(colorScheme);
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
      expect(
        violations.map(
          (v) =>
            `${colorScheme} ${v.id}: ${v.nodes
              .map((n) => n.target.join(' '))
              .slice(0, 3)
              .join('; ')}`,
        ),
      ).toEqual([]);
    }
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    expect(errors).toEqual([]);
  });
}
