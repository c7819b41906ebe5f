import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Browser, Page } from '@playwright/test';
import { atTheServer } from '../scripts/lib/terminal.mjs';
import { as, expect, holdUntilTurning, stands, test, type Stack } from './stack';

/** A device nobody knows yet, as a phone, over HTTPS. */
async function device(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, ignoreHTTPSErrors: true });
  const page = await context.newPage();
  await as(page, name);
  return page;
}

const secure = (stack: Stack) => stack.url.replace('http:', 'https:');

async function pair(stack: Stack, page: Page, name: string): Promise<void> {
  const { code } = atTheServer(stack.databaseUrl, ['pair']) as { code: string };
  await page.goto(`${secure(stack)}/pair#${code}`);
  await page.getByTestId('pair-name').fill(name);
  await page.getByTestId('pair').tap();
  await expect(page.getByTestId('devices')).toBeAttached();
}

const violations = async (page: Page) =>
  (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()).violations.map((v) => v.id);

test.describe('beyond the server’s own computer', () => {
  let data: string;
  test.beforeAll(async ({ stack }) => {
    data = mkdtempSync(join(tmpdir(), 'yare-pair-'));
    await stack.server.stop();
    await stack.startServer(['--pair-all', '--data', data]);
  });
  test.afterAll(async ({ stack }) => {
    await stack.server.stop();
    await stack.startServer();
    rmSync(data, { recursive: true });
  });

  test('a phone is paired by the code, turns a motor, is put out while it holds, and the motor stops', async ({ browser, stack }) => {
    const phone = await device(browser, 'Ines Calder');
    await phone.goto(`${secure(stack)}/m/C-07/turn`);
    await expect(phone.getByText('The server does not know it yet.')).toBeVisible();
    expect(await violations(phone)).toEqual([]);
    atTheServer(stack.databaseUrl, ['pair']);
    await phone.getByTestId('pair-code').fill('aaaa bbbb');
    await phone.getByTestId('pair').tap();
    await expect(phone.getByText(/That is not a code in force\. Compare it with the server’s screen/)).toBeVisible();
    await pair(stack, phone, 'Phone of Ines');

    const tablet = await device(browser, 'Tom Reed');
    await pair(stack, tablet, 'Tablet');
    await tablet.getByTestId('devices').tap();
    await expect(tablet.getByText('Tablet (this device)')).toBeVisible();
    expect(await violations(tablet)).toEqual([]);

    await phone.goto(`${secure(stack)}/m/C-07/turn`);
    await phone.getByTestId('clear').tap();
    await holdUntilTurning(phone, stack, 6, 3);
    await tablet.getByText('Phone of Ines', { exact: true }).tap();
    await tablet.getByRole('button', { name: 'Remove Phone of Ines' }).tap();
    await stands(stack, 6);
    await expect(phone.getByText(/Somebody removed this device/)).toBeVisible();
    await phone.mouse.up();
    await phone.context().close();
    await tablet.context().close();
  });
});
