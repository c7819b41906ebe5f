import { present } from '@yare/core';
import { as, expect, test, typeOnPad, type Stack, holdAct } from './stack';

/** The acceleration time in the newest draft of a machine. */
async function draft3a(stack: Stack, tag = 'C-21'): Promise<number> {
  const [newest] = await stack.query<{ values: Record<string, { value: number }> }>(
    `select values from sheets s join machines m on m.id = s.machine_id where m.tag = $1 and kind = 'draft' order by revision desc limit 1`,
    [tag],
  );
  return present(present(newest).values['3a']).value;
}

test('a drive that is not there: a clear sentence, draft and drive as they were', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/M-55/write`);
  await expect(page.getByTestId('write')).toContainText('Hold to write');
  const before = await page.getByTestId('write').innerText();
  await stack.bench.stop();
  await expect(page.getByTestId('state-word')).toHaveText('No link');
  await holdAct(page, 'write');
  await expect(page.getByText(/The drive does not answer\. Nothing was written; draft and drive are as they were/)).toBeVisible();
  await page.getByTestId('read-drive').tap();
  await expect(page.getByText(/does not answer. What was last read is still shown/)).toBeVisible();
  expect(await page.getByTestId('write').innerText()).toBe(before);
  await stack.startBench();
  await expect(page.getByTestId('state-word')).toHaveText('Ready');
});

test('rounding by a coarse drive is shown before it is written', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/M-55/write`);
  await expect(page.getByText('The draft says 0.61 A; this drive holds steps of 0.1 and will store 0.6 A, 1.6 % less.').first()).toBeVisible();
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
  await expect.poll(() => draft3a(stack, 'C-07')).toBe(7);
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
              "select values from sheets s join machines m on m.id = s.machine_id where m.tag = 'C-07' and kind = 'draft' order by revision desc limit 1",
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
  await expect.poll(() => draft3a(stack)).toBe(8.5);
  await expect(page.getByText(/kept on this device/)).toHaveCount(0);
});
