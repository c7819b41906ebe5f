import { as, expect, holdUntilTurning, outputHertz, stands, test, unitOf } from './stack';
import { present } from '@yare/core';

test('the bench under the thumb: auto, a valve turned, a fault struck and put right, reset, and learning from a run', async ({ page, stack }) => {
  const unit = unitOf['P-11'];
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/P-11/bench`);
  await expect(page.getByTestId('state-word')).toHaveText('Ready');

  await test.step('auto brings the pressure up, and a closed tap lets the drive slow down', async () => {
    await page.getByTestId('panel-mode-2').tap();
    await expect(page.getByTestId('state-word')).toHaveText('Running');
    await expect.poll(() => outputHertz(stack, unit)).toBeGreaterThan(44.5);
    const before = await outputHertz(stack, unit);
    const less = page.getByRole('button', { name: 'Taps open less' });
    for (let i = 0; i < 8; i++) await less.tap();
    await expect(page.getByTestId('handle-demand')).toContainText('30');
    await expect.poll(() => outputHertz(stack, unit)).toBeLessThan(before - 1);
  });

  await test.step('a fault is armed, strikes, trips, and is put right', async () => {
    await page.getByTestId('fault-wire').tap();
    await page.getByRole('radio', { name: 'Now' }).tap();
    await expect(page.getByTestId('state-word')).toHaveText('Tripped');
    await expect(page.getByText(/Live zero lost\. The 4 to 20 mA signal fell below 3\.6 mA/)).toBeVisible();
    await page.getByTestId('heal-wire').tap();
    await page.getByTestId('panel-mode-1').tap();
    await expect(page.getByTestId('panel-mode-1')).toHaveAttribute('aria-checked', 'true');
    const reset = present(await page.getByTestId('panel-reset').boundingBox());
    await page.mouse.move(reset.x + reset.width / 2, reset.y + reset.height / 2);
    await page.mouse.down();
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    await page.mouse.up();
  });

  await test.step('power off: no link; on again: ready', async () => {
    await page.getByTestId('handle-power').tap();
    await expect(page.getByTestId('state-word')).toHaveText('No link');
    await page.getByTestId('handle-power').tap();
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
  });

  await test.step('a run by hold is learned from, and the look-ahead uses it from then on', async () => {
    await page.goto(`${stack.url}/m/P-11/turn`);
    await page.getByTestId('turn-frequency').tap();
    for (const key of '45') await page.getByTestId('entry').getByRole('button', { name: key, exact: true }).tap();
    await page.getByTestId('entry-set').tap();
    await page.getByTestId('clear').tap();
    await holdUntilTurning(page, stack, unit, 44.5);
    // some seconds at speed, for learning to see the load
    await page.waitForTimeout(3000);
    await page.mouse.up();
    await stands(stack, unit);
    await page.getByRole('button', { name: 'Open the recording' }).tap();
    await page.getByTestId('learn').tap();
    await expect(page.getByTestId('learned-inertia')).toBeVisible();
    await page.getByRole('button', { name: 'Use the fitted model' }).tap();
    await expect(page.getByText(/every look-ahead of this machine uses the fitted model from now on/)).toBeVisible();
    const rows = await stack.query<{ values: Record<string, { times: number; spread: number }>; author: string }>(
      "select values, l.author from learned_revisions l join machines m on m.id = l.machine_id where m.tag = 'P-11'",
    );
    expect(present(rows[0]).author).toBe('Ines Calder');
    expect(present(present(rows[0]).values.inertia).times).toBeGreaterThan(0.4);
    expect(present(present(rows[0]).values.inertia).spread).toBeLessThan(0.4);
    await page.goto(`${stack.url}/m/P-11/motion`);
    await expect(page.getByText('learned from a recording').first()).toBeVisible();
    await expect(page.getByTestId('what-if-coast')).toContainText('The motor stops in');
  });
});
