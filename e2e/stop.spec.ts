import { as, expect, holdUntilTurning, outputHertz, stands, test } from './stack';

/** Each way of losing the hand on the button must stop the motor on the bench. */
test.describe('hold to run stops', () => {
  test.beforeEach(async ({ page, stack }) => {
    await as(page, 'Ines Calder');
    await page.goto(`${stack.url}/m/C-07/turn`);
    await holdUntilTurning(page, stack, 6, 5);
  });

  test('when the tab is hidden', async ({ page, stack }) => {
    await page.evaluate(() => {
      Object.defineProperty(document, 'hidden', { configurable: true, get: () => true });
      Object.defineProperty(document, 'visibilityState', { configurable: true, get: () => 'hidden' });
      document.dispatchEvent(new Event('visibilitychange'));
    });
    await stands(stack, 6);
    await expect(page.getByText(/It was stopped/)).toBeVisible();
  });

  test('when the page is closed', async ({ page, stack }) => {
    await page.close();
    await stands(stack, 6);
  });

  test('when the page is left for another', async ({ page, stack }) => {
    await page.goto('about:blank');
    await stands(stack, 6);
  });

  test('when a second finger touches', async ({ page, stack }) => {
    await page.getByTestId('hold').dispatchEvent('pointerdown', { isPrimary: false, pointerId: 9, button: 0, pointerType: 'touch' });
    await stands(stack, 6);
  });

  test('when the server dies: the drive stops by itself', async ({ stack }) => {
    const before = await outputHertz(stack, 6);
    expect(before).toBeGreaterThan(5);
    await stack.server.stop('SIGKILL');
    // how soon is measured by the drill of lost holds, which knows what is a busy machine's
    await expect.poll(() => outputHertz(stack, 6), { intervals: [50] }).toBeLessThan(before - 0.5);
    await stands(stack, 6);
    await stack.startServer();
  });

  test('when the link from server to drive is lost, and nothing restarts when it is back', async ({ page, stack }) => {
    await stack.bench.stop('SIGKILL');
    await expect(page.getByTestId('state-word')).toHaveText('No link');
    await stack.startBench();
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    // a motor that starts again by itself would show within this
    await page.waitForTimeout(1500);
    expect(await outputHertz(stack, 6)).toBe(0);
  });
});

test('hold to run stops when the network between page and server goes dead for a second', async ({ page, stack }) => {
  let dead = false;
  await page.routeWebSocket(/\/api\/v1\/live/, (socket) => {
    const server = socket.connectToServer();
    socket.onMessage((m) => void (dead || server.send(m)));
    server.onMessage((m) => void (dead || socket.send(m)));
  });
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/C-07/turn`);
  await holdUntilTurning(page, stack, 6, 5);
  dead = true;
  await expect.poll(() => outputHertz(stack, 6), { intervals: [50] }).toBeLessThan(9);
  await stands(stack, 6);
  await page.mouse.up();
});

test('two people: the second is told who has command', async ({ page, browser, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/C-07/turn`);
  await page.getByTestId('clear').tap();
  const other = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await as(other, 'Tom Reed');
  await other.goto(`${stack.url}/m/C-07/turn`);
  await other.getByTestId('clear').click();
  await holdUntilTurning(page, stack, 6, 3);
  await expect(other.getByTestId('hold')).toContainText('Turning already: Ines Calder, hold to run');
  await page.mouse.up();
  await stands(stack, 6);
  await other.close();
});
