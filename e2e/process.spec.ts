import type { Page } from '@playwright/test';
import { as, expect, heldUntil, holdAct, outputHertz, stands, test, typeOnPad, unitOf, writeDraft, type Stack } from './stack';

const tag = 'P-11';
const unit = unitOf[tag];

const atPlant = async (page: Page, stack: Stack, what: object): Promise<void> => {
  const answer = await page.request.post(`${stack.url}/api/v1/machines/${tag}/bench`, { data: { author: 'Fitter', ...what } });
  expect([answer.status(), await answer.text()]).toEqual([200, expect.anything()]);
};

/** A ramp down that the pump stops by without tripping, and everything in the drive. */
async function rampAndWrite(page: Page, stack: Stack): Promise<void> {
  await test.step('a ramp that does not trip, written', async () => {
    await atPlant(page, stack, { panel: { mode: 1 } });
    await stands(stack, unit);
    await page.goto(`${stack.url}/m/${tag}/motion`);
    await page.getByTestId('setting-3b').tap();
    await typeOnPad(page, '10');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByTestId('setting-3b')).toContainText('10.0');
    await page.goto(`${stack.url}/m/${tag}/write`);
    // another walk on this bench may have written it already
    const already = page.getByText(/^Draft and drive agree/);
    await expect(already.or(page.getByTestId(/^diff-/)).first()).toBeVisible();
    if (!(await already.isVisible())) await writeDraft(page);
  });
}

/** Held until the guide says that the feedback stands. */
async function stepHere(page: Page, stack: Stack): Promise<void> {
  await test.step('a step over the link: held, it waits, steps by itself, waits again', async () => {
    await page.goto(`${stack.url}/m/${tag}/process`);
    await page.getByTestId('test-here').tap();
    await expect(page.getByTestId('hold')).toContainText('First confirm that it may turn');
    let stepped = false;
    await heldUntil(page, stack, unit, 'a feedback that stands after the step', async () => {
      stepped ||= await page.getByText(/It has stepped to 40\.0\sHz/).isVisible();
      return page.getByText(/The feedback stands\. Hold on/).isVisible();
    });
    expect(stepped).toBe(true);
    expect(await outputHertz(stack, unit)).toBeCloseTo(40, 0);
    await page.mouse.up();
    await stands(stack, unit);
    await expect(page.getByTestId('step-file')).toContainText('Recording');
    await expect(page.getByTestId('process-gain')).toBeVisible();
  });
}

/** The recommended values into draft and drive; then the loop itself, through a tap opened, until that counts as its proof. */
async function tunedAndProved(page: Page, stack: Stack): Promise<void> {
  await test.step('the recommended values: draft, drive, and seen to hold', async () => {
    await page.getByRole('button', { name: 'Put them into the draft' }).tap();
    await expect(page.getByText(/^recommended · proportional gain/)).toBeVisible();
    await page.goto(`${stack.url}/m/${tag}/write`);
    await expect(page.getByTestId(/^diff-/)).not.toHaveCount(0);
    await writeDraft(page);
    await page.goto(`${stack.url}/m/${tag}/process`);
    await expect(page.getByText(/^Prove it: let it run in auto/)).toBeVisible();
    await atPlant(page, stack, { panel: { mode: 2 } });
    await expect.poll(() => outputHertz(stack, unit)).toBeGreaterThan(20);
    await expect(page.getByText(/^It stands at .* Now open and shut a tap/)).toBeVisible();
    await atPlant(page, stack, { handles: { demand: 15 } });
    await page.getByTestId('keep-holds').tap();
    await expect(page.getByText(/^It held its set point: Ines Calder/)).toBeVisible();
    await tunedLive(page);
    await atPlant(page, stack, { panel: { mode: 1 } });
    await stands(stack, unit);
  });
}

/** Tapped again while what it brings is not there: what has just appeared under a finger is deaf for a moment. */
async function tapUntil(page: Page, id: string, there: () => Promise<boolean>): Promise<void> {
  await expect(async () => {
    if (!(await there())) await page.getByTestId(id).tap();
    // what a tap opens, a second one would shut again: a busy page is given its time
    await expect.poll(there, { timeout: 15_000 }).toBe(true);
  }).toPass();
}

/** A firmer gain written while the loop runs, and taken back by one touch. */
async function tunedLive(page: Page): Promise<void> {
  const good = page.getByTestId('last-good');
  const write = page.getByTestId('write-now');
  await tapUntil(page, 'tune-live', () => good.isVisible());
  const before = (await good.textContent()) ?? '';
  await tapUntil(page, 'firmer', async () => ((await write.textContent()) ?? '').includes('Hold to write proportional gain'));
  await holdAct(page, 'write-now');
  await expect(write).toContainText('Nothing to write');
  await tapUntil(page, 'back-to-good', async () => (await page.getByTestId('back-to-good').getAttribute('aria-disabled')) === 'true');
  await expect(good).toHaveText(before);
  const gain = /proportional gain (\d+\.\d\d)/.exec(before)?.[1] ?? 'no gain';
  await expect(page.getByTestId('setting-10b').last()).toContainText(gain);
}

const comma = (x: number) => x.toFixed(3).replace('.', ',');

test('P-11: from a step over the link to values in the drive and a loop that is seen to hold; a recording of another layout taken in', async ({
  page,
  stack,
}) => {
  await as(page, 'Ines Calder');
  await rampAndWrite(page, stack);
  await stepHere(page, stack);
  await tunedAndProved(page, stack);

  await test.step('another instrument’s recording: semicolons, decimal commas, words before it', async () => {
    const lines = Array.from({ length: 500 }, (_, i) => {
      const t = i / 10;
      return `${comma(t)};${comma(t < 10 ? 35 : 40)};${comma(3 + (t < 11 ? 0 : 1 - Math.exp(-(t - 11) / 3)))}`;
    });
    const file = (text: string, name: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
    await page.getByTestId('recording-file').setInputFiles(file('nothing;in;it', 'empty.csv'));
    await expect(page.getByText(/too few for a recording/)).toBeVisible();
    await page
      .getByTestId('recording-file')
      .setInputFiles(file(['Pump house;;', 'Zeit s;Frequenz Hz;Druck bar', ...lines].join('\r\n'), 'other.csv'));
    await expect(page.getByTestId('step-file')).toContainText('other.csv');
    // 5 Hz are 10 % of the output, 1 bar is 10 % of the range
    await expect(page.getByTestId('process-gain')).toContainText('1.00');
    await expect(page.getByTestId('process-lag')).toContainText(/[23]\.\d\d/);
    await page.reload();
    await expect(page.getByTestId('process-gain')).toContainText('1.00');
  });
});
