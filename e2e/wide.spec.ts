import { as, expect, holdUntilTurning, stands, test } from './stack';
import { present } from '@yare/core';

test('the same walk on a wide screen, by keys', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(stack.url);
  await expect(page.getByTestId('machine-P-11')).toContainText('Ready');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('stage-plate')).toBeVisible();

  await page.keyboard.press('3');
  await expect(page.getByText('Formula: electrical input')).toBeVisible();
  await page.getByTestId('worked-torque').click();
  await expect(page.getByTestId('formula')).toContainText('9550 × 7.500 ÷ 2925 = 24.49 N·m');

  // on a page with figures a digit belongs to one of them: M leads on
  await page.keyboard.press('6');
  await expect(page.getByText('Formula: electrical input').or(page.getByTestId('formula')).first()).toBeVisible();
  await page.keyboard.press('m');
  await page.keyboard.press('6');
  await expect(page.getByText('Look-ahead: start, run, stop')).toBeVisible();
  await expect(page.getByTestId('look-ahead')).toBeVisible();
  await page.getByTestId('setting-3b').click();
  await expect(page.getByTestId('entry-input')).toBeFocused();
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('setting-3b')).toContainText('9.0');
  await page.keyboard.press('z');
  await expect(page.getByTestId('setting-3b')).toContainText('3.0');
  await expect(page.getByRole('button', { name: 'Put back what was there' })).toHaveCount(0);
  const stored = () =>
    stack.query<{ values: Record<string, { value: number }> }>(
      "select values from sheets s join machines m on m.id = s.machine_id where m.tag = 'P-11' and kind = 'draft' order by revision desc limit 1",
    );
  await expect.poll(async () => present(present((await stored())[0]).values['3b']).value).toBe(3);
  await page.getByTestId('setting-3b').click();
  await expect(page.getByTestId('entry-input')).toBeFocused();
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await page.keyboard.press('?');
  await expect(page.getByText('Leave the figure, or this list')).toBeVisible();
  await page.keyboard.press('?');

  await page.keyboard.press('m');
  await page.keyboard.press('7');
  await expect(page.getByTestId('diff-3b')).toContainText('6.0');
  await expect(page.getByTestId('write')).toBeEnabled();
  // the key that leads there does nothing there
  await page.keyboard.press('w');
  await expect(page.getByText(/kept through power-off/)).toHaveCount(0);
  await page.keyboard.down(' ');
  await expect(page.getByText('Keep holding…')).toBeVisible();
  await expect(page.getByText('Keep holding…')).toHaveCount(0);
  await page.keyboard.up(' ');
  await expect(page.getByText(/kept through power-off/)).toBeVisible();
  expect((await stack.read(1, 1024 + 2 * 32 + 1))[0]).toBe(60);

  await page.keyboard.press('t');
  await holdUntilTurning(page, stack, 1, 9.5, true);
  await page.keyboard.up(' ');
  await stands(stack, 1);
  await page.getByRole('button', { name: 'Open the recording' }).click();

  const chart = page.getByTestId('recording');
  await expect(chart).toBeVisible();
  const box = present(await chart.boundingBox());
  await page.mouse.move(box.x + 300, box.y + 50);
  const readOut = page.getByTestId('recording-readout');
  const before = await readOut.innerText();
  await page.mouse.wheel(0, -600);
  await page.mouse.move(box.x + 340, box.y + 50);
  await expect(readOut).not.toHaveText(before);
  await page.mouse.dblclick(box.x + 300, box.y + 50);
  await expect(page.getByText('Command given back')).toBeVisible();
});
