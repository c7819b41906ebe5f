import type { Page } from '@playwright/test';
import { as, atPlant, expect, holdAct, setFigure, test, type Stack, written } from './stack';

const tag = 'P-11';
const strip = (page: Page) => page.getByTestId('state-strip');
const atPump = (page: Page, stack: Stack, what: object): Promise<void> => atPlant(page, stack, tag, what);

/** Runs it in hand up to speed and stops it again. */
async function runAndStop(page: Page, stack: Stack): Promise<void> {
  await atPump(page, stack, { panel: { mode: 0, knob: 0.9 } });
  await expect(strip(page)).toContainText('45.0');
  await atPump(page, stack, { panel: { mode: 1 } });
}

/** Takes what the page has seen as the proof, says what was done, and closes. */
async function closed(page: Page, cure: string | null): Promise<void> {
  await expect(page.getByText(/Seen: it ran for .* and came to rest/)).toBeVisible();
  await expect(async () => {
    await page.getByRole('button', { name: 'Take it as the proof' }).tap();
    await expect(page.getByTestId('close-proof')).toHaveValue(/no trip$/, { timeout: 1500 });
  }).toPass();
  if (cure !== null) await page.getByTestId('close-cure').fill(cure);
  await expect(async () => {
    await page.getByTestId('close-case').tap();
    await expect(page.getByText(/Ines Calder, \d+ \w+ \d{4}/).last()).toBeVisible({ timeout: 2000 });
    await expect(page.getByTestId('close-case')).toHaveCount(0, { timeout: 1500 });
  }).toPass();
}

test('a stop that is too short: from the plant page to the cause, the cure, the proof', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await atPump(page, stack, { pace: 5 });
  await page.goto(`${stack.url}/m/${tag}/motion`);
  await setFigure(page, '3b', '0.3');
  await written(page, stack, tag);
  await runAndStop(page, stack);

  await test.step('the tripped machine leads straight to its case', async () => {
    await page.goto(stack.url);
    await expect(page.getByTestId(`machine-${tag}`)).toContainText('Bus overvoltage');
    await page.getByTestId(`machine-${tag}`).tap();
    await expect(page.getByTestId('cause-first')).toContainText('The stop is too short');
    await expect(page.getByText(/A stop in 0\.3\ss from 45\sHz peaks at \d+\sV \(estimated\)/)).toBeVisible();
    await expect(page.getByTestId('trip-trace')).toBeVisible();
  });

  await test.step('reset, cured in the draft with its look-ahead, written', async () => {
    await holdAct(page, 'reset-trip');
    await expect(strip(page)).toContainText('Ready');
    await page.goto(`${stack.url}/trips`);
    await page
      .getByRole('button', { name: /P-11 Bus overvoltage/ })
      .first()
      .tap();
    await expect(
      page.getByText(/Stopping from 50\sHz the bus then peaks at about \d+\sV, at worst \d+\sV \(estimated\); it trips at 800\sV/),
    ).toBeVisible({
      timeout: 30_000,
    });
    await expect(async () => {
      await page.getByRole('button', { name: 'Take it into the draft' }).tap();
      await expect(page.getByRole('button', { name: 'Go to Write' })).toBeVisible({ timeout: 1500 });
    }).toPass();
    const here = page.url();
    await written(page, stack, tag);
    await page.goto(here);
    await expect(page.getByTestId('cause-first')).toContainText('The stop is too short');
  });

  await test.step('run again, seen without the trip, closed', async () => {
    await runAndStop(page, stack);
    await closed(page, 'Deceleration time longer');
    await page.goto(`${stack.url}/trips`);
    await expect(page.getByText('cured', { exact: true })).toBeVisible();
  });
});

test('the feedback is lost: measured at the bench, put right, seen to hold again', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await atPump(page, stack, { pace: 5 });
  await page.goto(`${stack.url}/m/${tag}/motion`);
  await setFigure(page, '3b', '10');
  await written(page, stack, tag);
  await atPump(page, stack, { panel: { mode: 2 }, handles: { demand: 40 } });
  await expect(strip(page)).toContainText('Running');
  await atPump(page, stack, { fault: { id: 'wire', trigger: 'now' } });
  await expect(strip(page)).toContainText('Tripped');

  await page.goto(`${stack.url}/m/${tag}/trip`);
  await expect(page.getByTestId('cause-first')).toContainText('The signal wire is broken');
  await page.getByTestId('read-bench').first().scrollIntoViewIfNeeded();
  await expect(async () => {
    await page.getByTestId('read-bench').tap();
    await expect(page.getByText('answered; tap to take it back').first()).toBeVisible({ timeout: 2500 });
  }).toPass();
  await expect(page.getByTestId('cause-first')).toContainText('The signal wire is broken');

  await atPump(page, stack, { fault: { id: 'wire', trigger: null }, panel: { mode: 1 } });
  await holdAct(page, 'reset-trip');
  await expect(strip(page)).toContainText('Ready');
  await page.goto(`${stack.url}/trips`);
  await page.getByRole('button', { name: /P-11/ }).filter({ hasText: 'open' }).first().tap();
  await expect(page.getByTestId('cause-first')).toBeVisible();
  await atPump(page, stack, { panel: { mode: 2 } });
  await expect(strip(page)).toContainText('Running');
  await atPump(page, stack, { panel: { mode: 1 } });
  await closed(page, 'Wire at the sensor put back');
});
