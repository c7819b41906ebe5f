import { readFileSync, writeFileSync } from 'node:fs';
import { present } from '@yare/core';
import type { Page } from '@playwright/test';
import { as, expect, test, type Stack } from './stack';

type Draft = Record<string, { value: number; source: string; author: string }>;

const draftOf = async (stack: Stack): Promise<Draft> =>
  present(
    (
      await stack.query<{ values: Record<string, { value: number; source: string; author: string }> }>(
        "select values from sheets s join machines m on m.id = s.machine_id where m.tag = 'C-21' and kind = 'draft' order by revision desc limit 1",
      )
    )[0],
  ).values;

/** Searched by what it does, opened, changed, taken back to factory. */
async function searchedAndChanged(page: Page, draft: () => Promise<Draft>): Promise<void> {
  await test.step('searched by what it does, opened, changed, taken back to factory', async () => {
    await page.getByTestId('search').fill('waits on the moon');
    await expect(page.getByText(/^Nothing found/)).toBeVisible();
    await page.getByTestId('search').fill('ramp waits');
    await expect(page.getByTestId('line-3h')).toBeVisible();
    await expect(page.getByTestId('line-1a')).toHaveCount(0);
    await page.getByTestId('search').fill('8b');
    await page.getByTestId('line-8b').tap();
    await expect(page.getByText(/Range 650 to 830\sV, step 1\sV/)).toBeVisible();
    await page.getByTestId('change-8b').tap();
    for (const key of '740') await page.getByTestId('entry').getByRole('button', { name: key, exact: true }).tap();
    await page.getByTestId('entry-set').tap();
    await expect.poll(async () => (await draft())['8b']).toMatchObject({ value: 740, source: 'chosen', author: 'Ines Calder' });
    await page.getByRole('button', { name: 'Back to factory' }).tap();
    await expect.poll(async () => (await draft())['8b']).toMatchObject({ value: 760, source: 'factory' });
    await page.getByRole('button', { name: 'Clear' }).tap();
    await page.getByTestId('filter-read').tap();
    await expect(page.getByTestId('line-9m')).toContainText('read only');
    await page.getByTestId('filter-locked').tap();
    await expect(page.getByTestId('line-1a')).toContainText('only at standstill');
    await expect(page.getByTestId('line-9m')).toHaveCount(0);
    await expect(page.getByTestId('line-3a')).toHaveCount(0);
    await page.getByTestId('filter-all').tap();
  });
}

/** Ten damaged files change nothing, and each names its line. */
async function tenDamaged(page: Page, draft: () => Promise<Draft>, csv: string, outputPath: (name: string) => string): Promise<void> {
  await test.step('ten damaged files change nothing, and each names its line', async () => {
    const before = await draft();
    const lines = csv.split('\r\n');
    const at = (code: string) => lines.findIndex((l) => l.startsWith(`${code},`)) + 1;
    const with3a = (change: (line: string) => string) => lines.map((l) => (l.startsWith('3a,') ? change(l) : l)).join('\r\n');
    const damaged: Array<[text: string, line: number, says: RegExp]> = [
      [lines.slice(1).join('\r\n'), 1, /The first line must name the columns/],
      [with3a((l) => l.replace('3a,', '77x,')), at('3a'), /has no setting "77x"/],
      [with3a((l) => l.replace(',2,', ',quick,')), at('3a'), /"quick" is not a number/],
      [with3a((l) => l.replace(',2,', ',99999,')), at('3a'), /99999\ss is outside/],
      [with3a((l) => l.replace(',s,', ',min,')), at('3a'), /is counted in s, not in "min"/],
      [with3a(() => '3a,Acceleration time,2'), at('3a'), /ends too soon/],
      [[...lines.filter(Boolean), lines[at('3a') - 1]].join('\r\n'), lines.filter(Boolean).length + 1, /stands already in line/],
      [with3a((l) => l.replace('chosen', 'hearsay')), at('3a'), /"hearsay" is not a source/],
      [with3a((l) => l.replace(',2,', ',-4,')), at('3a'), /-4\ss is outside/],
      [present(lines[0]), 1, /holds no settings/],
    ];
    for (const [i, [text, line, says]] of damaged.entries()) {
      const path = outputPath(`bad${i}.csv`);
      writeFileSync(path, text);
      await page.getByTestId('settings-file').setInputFiles(path);
      await expect(page.getByText(`bad${i}.csv was not taken in`)).toBeVisible();
      await expect(page.getByText(`Line ${line}`, { exact: true }).first()).toBeVisible();
      await expect(page.getByText(says).first()).toBeVisible();
    }
    expect(await draft()).toEqual(before);
  });
}

test('the settings sheet: found by meaning, changed, out as a file, a damaged one told by its line, and in again', async ({ page, stack }, info) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/C-21/settings`);
  const draft = () => draftOf(stack);
  await searchedAndChanged(page, draft);
  let csv = '';
  await test.step('out as CSV', async () => {
    await page.getByTestId('files').tap();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-settings-csv').tap()]);
    csv = readFileSync(present(await download.path()), 'utf8');
    expect(csv.split('\r\n')[0]).toBe('Code,Name,Value,Unit,Source,Author,Time');
    expect(csv).toContain('3a,Acceleration time,2,s,chosen');
  });

  await test.step('out and in again, as CSV and as JSON, it is the same sheet', async () => {
    for (const [button, name] of [
      ['save-settings-csv', 'same.csv'],
      ['save-settings-json', 'same.json'],
    ] as const) {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId(button).tap()]);
      const path = info.outputPath(name);
      writeFileSync(path, readFileSync(present(await download.path())));
      await page.getByTestId('settings-file').setInputFiles(path);
      await expect(page.getByText(`${name} reads well; the draft says all of it already.`)).toBeVisible();
    }
  });

  await tenDamaged(page, draft, csv, (name) => info.outputPath(name));
  await test.step('a sound one is taken in as imported, and is in the keypad list', async () => {
    const path = info.outputPath('good.csv');
    writeFileSync(path, csv.replace('3a,Acceleration time,2,s', '3a,Acceleration time,6.5,s'));
    await page.getByTestId('settings-file').setInputFiles(path);
    await expect(page.getByText(/It would change 1 setting of the draft: 3a/)).toBeVisible();
    await page.getByRole('button', { name: 'Take in 1 change' }).tap();
    await expect.poll(async () => (await draft())['3a']).toMatchObject({ value: 6.5, source: 'imported' });
    await expect(page.getByTestId('key-3a')).toContainText('3a → 6.5 s');
  });
});
