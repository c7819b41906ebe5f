import type { Page } from '@playwright/test';
import { as, atPlant, expect, outputHertz, setFigure, test, type Stack, unitOf, written } from './stack';

const tag = 'P-11';
const unit = unitOf[tag];

const atPump = (page: Page, stack: Stack, what: object): Promise<void> => atPlant(page, stack, tag, what);
const strip = (page: Page) => page.getByTestId('state-strip');

test('P-11 falls asleep and wakes: the sleep speed found at the pump, the day ahead, and the proof', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  // the machine's time goes five times as fast; the link's and the page's do not
  await atPump(page, stack, { pace: 5 });
  await page.goto(`${stack.url}/m/${tag}/motion`);
  await setFigure(page, '3b', '10');

  await test.step('a sleep speed that never comes is told, with the speed that does', async () => {
    await page.goto(`${stack.url}/m/${tag}/sleep`);
    await expect(page.getByText(/It comes down to 41\.0\sHz only where taps are shut so fast/)).toBeVisible();
    await expect(page.getByTestId('day-chart')).toBeVisible();
    await expect(page.getByText(/It never falls asleep on this day/)).toBeVisible();
    await page.getByTestId('profile-own').tap();
    await page.getByTestId('paste-demand').tap();
    await page.getByTestId('demand-text').fill('5 five');
    await page.getByTestId('take-demand').tap();
    await expect(page.getByText('“five” is no flow.', { exact: false })).toBeVisible();
    await page.getByTestId('demand-text').fill('0 0 0 0 0 0 12 12 12 12 12 12 12 12 12 12 12 12 0 0 0 0 0 0');
    await page.getByTestId('take-demand').tap();
    await expect(page.getByTestId('profile-drawing')).toBeVisible();
  });

  await test.step('a draw it may sleep through, noted while it holds it, becomes the sleep speed', async () => {
    await atPump(page, stack, { panel: { mode: 2 }, handles: { demand: 12 } });
    await expect.poll(() => outputHertz(stack, unit)).toBeGreaterThan(40);
    await expect(page.getByTestId('note-draw')).toContainText('hold');
    await page.getByTestId('note-draw').tap();
    await expect(page.getByTestId('draw-held')).toBeVisible();
    await expect(page.getByText(/that is what less than 3\.4\sm³\/h takes/)).toBeVisible();
    await expect(async () => {
      await page.getByRole('button', { name: 'Take it into the draft' }).last().tap();
      await expect(page.getByText(/that is what less than/)).toHaveCount(0, { timeout: 1500 });
    }).toPass();
    await written(page, stack, tag);
  });

  await test.step('it sleeps with little drawn, wakes when a tap opens, and that counts', async () => {
    await page.goto(`${stack.url}/m/${tag}/sleep`);
    await atPump(page, stack, { panel: { mode: 2 }, handles: { demand: 30 } });
    await expect(strip(page)).toContainText('Running');
    // a sleep in which the link failed for a moment counts for nothing: then it is shown another
    await expect(async () => {
      // behind its check valve it sleeps until somebody opens a tap, and wakes in its own time: a moment's rest counts for no sleep
      await atPump(page, stack, { pace: 5, handles: { demand: 0 } });
      await expect(strip(page)).toContainText('Asleep');
      await expect(page.getByText('It sleeps. Open a tap until it wakes.')).toBeVisible();
      await atPump(page, stack, { pace: 1, handles: { demand: 40 } });
      await expect(strip(page)).toContainText('Running');
      await expect(page.getByTestId('keep-sleeps')).toBeVisible({ timeout: 10_000 });
    }).toPass();
    await page.getByTestId('keep-sleeps').tap();
    await expect(page.getByText(/^Seen to sleep and wake: Ines Calder/)).toBeVisible();
  });
});

test('P-11 runs dry: the guard stops it, it rests, tries again by itself, and that counts', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  // the machine's time goes five times as fast; the link's and the page's do not
  await atPump(page, stack, { pace: 5 });
  await page.goto(`${stack.url}/m/${tag}/motion`);
  await setFigure(page, '3b', '10');
  await page.goto(`${stack.url}/m/${tag}/guards`);

  await test.step('a guard that goes by a load nobody measured is told', async () => {
    await setFigure(page, '11d', '50', 'guard-dryRun');
    await expect(page.getByText(/that was never measured: the guard never acts/)).toBeVisible();
    await setFigure(page, '11c', '42');
    await expect(page.getByText(/that was never measured/)).toHaveCount(0);
    await setFigure(page, '11e', '5');
    await page.getByTestId('setting-11f').tap();
    await page.getByText('Rest, then try again').first().tap();
    await setFigure(page, '11v', '20', 'by-itself-after');
    await written(page, stack, tag);
  });

  await test.step('the well runs empty', async () => {
    await page.goto(`${stack.url}/m/${tag}/guards`);
    await atPump(page, stack, { panel: { mode: 2 }, handles: { demand: 40 } });
    await expect(strip(page)).toContainText('Running');
    await expect(page.getByTestId('load-now')).toBeVisible();
    await atPump(page, stack, { fault: { id: 'air', trigger: 'now' } });
    await expect(strip(page)).toContainText('Guard: starts again by itself');
    await expect(page.getByText(/Seen just now: it stopped, and rests/)).toBeVisible();
    await atPump(page, stack, { fault: { id: 'air', trigger: null } });
    await expect(async () => {
      await page.getByRole('button', { name: 'Count it: seen to act' }).tap();
      await expect(page.getByText(/^Seen: it stopped, and rests before it tries again\. Ines Calder/)).toBeVisible({ timeout: 2000 });
    }).toPass();
    await expect(strip(page)).toContainText('Running');
  });
});
