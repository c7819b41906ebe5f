import { readFileSync } from 'node:fs';
import { readComtrade } from '@yare/commissioning/recording';
import { as, expect, test, type Stack } from './stack';
import type { Page } from '@playwright/test';

const tag = 'P-11';
const atPump = async (page: Page, stack: Stack, act: object): Promise<void> => {
  const r = await page.request.post(`${stack.url}/api/v1/machines/${tag}/bench`, { data: { author: 'Fitter', ...act } });
  expect(r.ok()).toBe(true);
};
/** A touch that is repeated until what it brings is there: a sheet that has just moved takes none. */
async function touched(page: Page, id: string, there: () => Promise<void>): Promise<void> {
  let first = true;
  await expect(async () => {
    // what a touch opens a second one would shut again: a slow page is looked at once more, and a row that went away with the touch took it
    const late =
      !first &&
      (await there().then(
        () => true,
        () => false,
      ));
    first = false;
    if (late) return;
    if ((await page.getByTestId(id).count()) > 0) await page.getByTestId(id).tap();
    await there();
  }).toPass();
}

test('a start is recorded by its trigger, saved as COMTRADE, taken in again and laid on itself; a trip seen in it begins a case', async ({
  page,
  stack,
}, info) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/${tag}/recordings`);

  await test.step('armed for an edge, it waits and then records', async () => {
    await touched(page, 'recorder', () => expect(page.getByTestId('trigger-kind')).toBeVisible({ timeout: 1500 }));
    await touched(page, 'trigger-kind', () => expect(page.getByText('A figure goes through a level')).toBeVisible({ timeout: 1500 }));
    await expect(async () => {
      await page.getByText('A figure goes through a level').tap();
      await expect(page.getByTestId('trigger-channel')).toBeVisible({ timeout: 1500 });
    }).toPass();
    await touched(page, 'trigger-channel', () => expect(page.getByRole('radio', { name: 'Output, Hz' })).toBeVisible({ timeout: 1500 }));
    await expect(async () => {
      await page.getByRole('radio', { name: 'Output, Hz' }).tap();
      await expect(page.getByTestId('trigger-channel')).toContainText('Output', { timeout: 1500 });
    }).toPass();
    await touched(page, 'recorder-arm', () => expect(page.getByText(/Recording begins when Output rises through 25/)).toBeVisible({ timeout: 5000 }));
    await atPump(page, stack, { panel: { mode: 0, knob: 0.8 } });
    await expect(page.getByText(/^Recording since/)).toBeVisible();
    await expect(page.getByText('not armed')).toBeVisible();
    await atPump(page, stack, { panel: { mode: 1 } });
  });

  const file = info.outputPath('start.cff');
  await test.step('what was recorded is saved without loss', async () => {
    await page.getByText('Recorded when Output rises through 25').first().tap();
    await expect(page.getByTestId('recording')).toBeVisible();
    await page.getByTestId('save-comtrade-text').scrollIntoViewIfNeeded();
    const download = page.waitForEvent('download');
    await touched(page, 'save-comtrade-text', async () => void (await download));
    await (await download).saveAs(file);
    const read = readComtrade([{ name: 'start.cff', bytes: readFileSync(file) }]);
    if (!read.ok) throw new Error(read.sentence);
    const output = Array.from(read.recorded.values[read.recorded.channels.findIndex((c) => c.key === 'outputFrequency')] ?? []);
    expect(read.recorded.marks.map((m) => m.label)).toContain('Trigger');
    const at = Array.from(read.recorded.time).findIndex((t) => t >= (read.recorded.marks.find((m) => m.label === 'Trigger')?.time ?? 0));
    expect(output[at - 1]).toBeLessThan(25);
    expect(output[at]).toBeGreaterThanOrEqual(25);
  });

  await test.step('taken in again, the same mark stands on the same mark', async () => {
    await page.goto(`${stack.url}/m/${tag}/recordings`);
    await page.getByTestId('recording-file').setInputFiles(file);
    await expect(page.getByTestId('taken-title')).toBeVisible();
    await page.getByTestId('taken-title').fill('The start, from the file');
    await touched(page, 'take-in', () => expect(page.getByText('The start, from the file').first()).toBeVisible({ timeout: 5000 }));
    await expect(page.getByTestId('recording')).toBeVisible();
    await page.getByTestId('over-choose').scrollIntoViewIfNeeded();
    await touched(page, 'over-choose', () => expect(page.getByText('Which one?')).toBeVisible({ timeout: 1500 }));
    await expect(async () => {
      await page
        .getByRole('button', { name: /Recorded when Output rises/ })
        .first()
        .tap();
      await expect(page.getByText(/laid over it/)).toBeVisible({ timeout: 3000 });
    }).toPass();
    await expect(page.getByText(/^Trigger, /)).toHaveCount(2);
    await expect(page.getByTestId('over-shift')).toContainText('0.000');
  });

  await test.step('a trip seen in it is a case of its own', async () => {
    await page.getByTestId('seen-trip').scrollIntoViewIfNeeded();
    await touched(page, 'seen-trip', () => expect(page.getByText('Which trip?')).toBeVisible({ timeout: 1500 }));
    await touched(page, 'seen-21', () => expect(page).toHaveURL(/\/trip\/\d+$/, { timeout: 5000 }));
    await expect(page.getByTestId('cause-first')).toBeVisible();
  });
});
