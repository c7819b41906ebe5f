import { as, expect, heldUntil, holdAct, outputHertz, stands, test, typeOnPad, unitOf, writeDraft, type Stack } from './stack';
import { present } from '@yare/core';
import type { Page } from '@playwright/test';

const unit = unitOf['C-21'];

/** Types a figure into a row of the sheet. */
async function enter(page: Page, row: string, figure: string): Promise<void> {
  await page.getByTestId(row).tap();
  await typeOnPad(page, figure);
  await page.getByTestId('entry-set').tap();
}

/** A hand at the plant, not at the application. */
const atPlant = async (page: Page, stack: Stack, act: object) => {
  const answer = await page.request.post(`${stack.url}/api/v1/machines/C-21/bench`, { data: { author: 'Fitter', ...act } });
  expect(answer.ok()).toBe(true);
};
const shaft = async (page: Page, stack: Stack): Promise<number> =>
  ((await (await page.request.get(`${stack.url}/api/v1/machines/C-21/bench`)).json()) as { seen: { shaftSpeed: number } }).seen.shaftSpeed;

/** Its shaft at a frequency, rpm: four poles, less the slip of a loaded motor at little speed. */
const shaftAt = (hertz: number) => 0.7 * 30 * hertz;

/** Holds the button until it turns, looks which way, and lets go. */
async function holdAndLook(page: Page, stack: Stack, hertz: number): Promise<number> {
  let seen = 0;
  await heldUntil(page, stack, unit, `a shaft at ${hertz} Hz`, async () => {
    // the shaft as it is once the output is there, however long asking takes
    const there = (await outputHertz(stack, unit)) > hertz - 0.5;
    seen = await shaft(page, stack);
    return there && Math.abs(seen) > shaftAt(hertz);
  });
  await page.mouse.up();
  await stands(stack, unit);
  return seen;
}

/** The isolator of the machine, on the bench: a hand at the plant, not at the page. */
async function isolator(page: Page, stack: Stack, on: 0 | 1): Promise<void> {
  const answer = await page.request.post(`${stack.url}/api/v1/machines/C-21/bench`, { data: { author: 'Tom Reed', handles: { power: on } } });
  expect(answer.ok()).toBe(true);
}

/** Checks that pass by looking, one after another: each is answered, stays with its mark, and the next is opened by hand. */
async function pass(page: Page, ids: readonly string[]): Promise<void> {
  for (const [i, id] of ids.entries()) {
    if (i > 0) await page.getByTestId('next-check').tap();
    await page.getByTestId(`pass-${id}`).tap();
    await expect(page.getByTestId(`undo-${id}`)).toBeVisible();
  }
}

/** The machine before power. */
async function surveyAndBeforePower(page: Page, stack: Stack): Promise<void> {
  await test.step('work plan: nothing is proved yet, leaving says what stays open', async () => {
    await page.goto(`${stack.url}/m/C-21`);
    await expect(page.getByTestId('stage-survey')).toContainText('not recorded');
    await page.getByTestId('stop-here').tap();
    await expect(page.getByText(/Leaving the work now leaves unproved: Survey/)).toBeVisible();
    await page.getByRole('button', { name: 'Leave it so' }).tap();
    await expect(page.getByText(/Ines Calder left .* with unproved: Survey, Before power/)).toBeVisible();
    await page.getByRole('button', { name: 'The work goes on' }).tap();
    await page.getByTestId('stage-survey').tap();
  });

  await test.step('survey: supply, place, cable', async () => {
    await page.getByTestId('survey-why').fill('Imported belt, new drive');
    await page.getByTestId('survey-why').blur();
    await enter(page, 'survey-ambient', '38');
    await enter(page, 'survey-altitude', '90');
    await enter(page, 'survey-cableLength', '60');
    await expect(page.getByText(/pulses reflect at the motor .* Plan an output choke/)).toBeVisible();
    await enter(page, 'survey-cableLength', '22');
    await expect(page.getByText('Ines Calder,')).toBeVisible();
    await page.getByRole('button', { name: 'Go on to Before power' }).tap();
  });

  await test.step('before power: in the safe order; a wet winding and an uneven supply do not pass', async () => {
    await expect(page.getByText(/reports 5\d\d\sV on its DC bus: it is not dead/)).toBeVisible();
    await expect(page.getByTestId('pass-isolated')).toHaveAttribute('aria-disabled', 'true');
    await isolator(page, stack, 0);
    await expect(page.getByText(/no longer answers; its last reading was|tells nothing of its DC bus/)).toBeVisible();
    await pass(page, ['isolated', 'mounted', 'motorEarth', 'links']);
    await page.getByTestId('next-check').tap();
    await enter(page, 'figure-insulation', '3');
    await enter(page, 'figure-winding', '20');
    await expect(
      page.getByText(/0\.8\sMΩ corrected to 40\s°C, by the law of the winding that gives less, is below 5\sMΩ: do not connect it/),
    ).toBeVisible();
    await enter(page, 'figure-insulation', '400');
    await page.getByTestId('record-insulation').tap();
    await page.getByTestId('next-check').tap();
    await pass(page, ['motorPhases', 'supplyEarth', 'supplyPhases', 'controlRows']);
    await isolator(page, stack, 1);
    await expect(page.getByTestId('state-word')).toHaveText('Ready');
    await page.getByTestId('next-check').tap();
    for (const [row, volts] of [
      ['L1–L2', '401'],
      ['L2–L3', '362'],
      ['L3–L1', '403'],
    ] as const)
      await enter(page, `figure-${row}`, volts);
    await expect(page.getByText(/6\.9\s% unbalance: above 5\s% no motor may run/)).toBeVisible();
    await enter(page, 'figure-L2–L3', '398');
    await page.getByTestId('record-lineVoltages').tap();
    await expect(page.getByText('10 of 10 passed')).toBeVisible();
  });
}

/** What the plate says and the drive carries. */
async function plateToProtection(page: Page): Promise<void> {
  await test.step('plate: dual voltage with its links; a 460 V motor on 400 V is told', async () => {
    await page.getByRole('button', { name: 'Go on to Plate' }).tap();
    await page.getByTestId('plate-leads').tap();
    await page.getByRole('radio', { name: '9, dual voltage' }).tap();
    await expect(page.getByRole('img', { name: /High volts, halves in series: T4 to T7/ })).toBeVisible();
    await page.getByTestId('other-connection').tap();
    await expect(page.getByTestId('plate-current')).toContainText('7.8');
    await expect(page.getByText(/The plate says 230\sV for this connection and the supply has 400\sV/)).toBeVisible();
    await page.getByRole('button', { name: 'Use the 460 V connection, 3.90 A' }).tap();
    await expect(page.getByTestId('plate-current')).toContainText('3.9');
    await expect(page.getByText(/from 52\.2\sHz on the drive has no more volts to give/)).toBeVisible();
    await page.getByRole('button', { name: 'Limit to 52.2 Hz' }).tap();
    if (await page.getByTestId('plate-copy').isVisible()) await page.getByTestId('plate-copy').tap();
    await page.getByRole('button', { name: 'Go on to Drive' }).tap();
  });

  await test.step('drive: big enough by rows, as found kept, the other region told', async () => {
    await expect(page.getByTestId('derating-ambient')).toContainText('38 °C');
    await expect(page.getByText('49 % to spare').first()).toBeVisible();
    await page.getByTestId('region-50').tap();
    await page.getByTestId('factory-start').tap();
    await expect(page.getByText(/takes the factory values of 50\sHz/)).toBeVisible();
    await page.getByTestId('factory-start').tap();
    await page.getByTestId('family-withy').tap();
    await expect(page.getByTestId('size-W0.2')).toContainText('too small');
    await page.getByRole('button', { name: 'Go on to Protection' }).tap();
  });

  await test.step('protection: the drive’s own current as overload is told with its way out', async () => {
    await expect(page.getByTestId('overload-curve')).toBeVisible();
    await enter(page, 'setting-7a', '5.8');
    await expect(page.getByText(/is the drive’s own current, as from the factory. The plate says 3\.90\sA/)).toBeVisible();
    await page.getByRole('button', { name: 'Use the plate’s 3.90 A' }).tap();
    await expect(page.getByTestId('setting-7a')).toContainText('3.9');
  });
}

/** The draft into the drive, and which way it turns. */
async function writeAndDirection(page: Page, stack: Stack): Promise<void> {
  await test.step('write: what changes, kept', async () => {
    await page.goto(`${stack.url}/m/C-21/write`);
    await expect(page.getByTestId('diff-1d')).toContainText('in drive 5.8 A');
    await writeDraft(page);
    await expect(page.getByText(/values written, read back and kept through power-off/)).toBeVisible();
    await page.getByTestId('against-as-found').tap();
    await expect(page.getByTestId('diff-1d')).toContainText('as found 5.8 A');
  });

  await test.step('direction: wrong way, cured in the drive, proved again', async () => {
    await page.goto(`${stack.url}/m/C-21/direction`);
    await page.getByTestId('clear').tap();
    expect(await holdAndLook(page, stack, 5)).toBeLessThan(-100);
    await page.getByTestId('wrong-way').tap();
    await expect(page.getByText('Change two motor leads over')).toBeVisible();
    await page.getByTestId('turn-round').tap();
    await expect(page.getByTestId('diff-2h')).toContainText('Two changed over');
    await writeDraft(page);
    await expect(page.getByText(/1 value written, read back and kept/)).toBeVisible();
    // back at the step that asked for it
    await page.getByTestId('back-to-asked').tap();
    await page.getByTestId('clear').tap();
    expect(await holdAndLook(page, stack, 5)).toBeGreaterThan(100);
    await page.getByTestId('right-way').tap();
    await expect(page.getByText(/Ines Calder, .*: the right way at up to [45]\.\d\sHz, recording \d+/)).toBeVisible();
    await page.getByRole('button', { name: 'Go on to Tune' }).tap();
  });
}

/** Begins measuring until it ends as it should: a page or server that was slow for a moment rightly ends it, and a hand begins again. */
async function measuredTo(page: Page, end: RegExp, begin: () => Promise<void>): Promise<void> {
  const ended = page.getByText(end);
  const broken = page.getByText(/Stopped before it had finished|press again/);
  do {
    await begin();
    await expect(ended.or(broken).first()).toBeVisible();
    await page.mouse.up();
  } while (!(await ended.isVisible()));
}

/** What ended the last one goes as the next begins; one that is broken off at once shows it again before anybody sees it gone. */
const begun = (page: Page): Promise<void> =>
  expect(page.getByText(/Stopped before|could not be measured/))
    .toHaveCount(0, { timeout: 5000 })
    .catch(() => undefined);

/** Measuring is begun, and stopped on its way; one that a slow server has ended before is begun again. */
async function stoppedByHand(page: Page): Promise<void> {
  const [start, stop] = [page.getByTestId('start-tune'), page.getByTestId('stop-tune')];
  await expect(async () => {
    if ((await stop.count()) === 0) {
      if (((await start.textContent()) ?? '').includes('First confirm')) await page.getByTestId('clear').tap();
      await start.tap();
    }
    const percent = async () =>
      (await stop.count()) > 0 ? Number.parseInt(await page.getByTestId('tune-progress').innerText({ timeout: 2000 })) : 0;
    await expect.poll(percent, { timeout: 10_000 }).toBeGreaterThan(5);
    await stop.tap({ timeout: 5000 });
  }).toPass();
  await expect(page.getByText(/Stopped before it had finished/)).toBeVisible();
}

/** Measured at standstill and turning. */
async function tuneBothWays(page: Page, stack: Stack): Promise<void> {
  await test.step('tune: asked first, stopped by hand, measured at standstill', async () => {
    await expect(page.getByTestId('start-tune')).toContainText('First say whether it is coupled');
    await page.getByTestId('coupled').tap();
    await expect(page.getByTestId('tune-rotating')).toHaveAttribute('aria-disabled', 'true');
    await expect(page.getByTestId('tune-standstill')).toHaveAttribute('aria-checked', 'true');
    await stoppedByHand(page);
    // asked anew: somebody may have gone to the shaft
    await expect(page.getByTestId('start-tune')).toContainText('First confirm');
    await measuredTo(page, /holds it in working memory only/, async () => {
      const start = page.getByTestId('start-tune');
      // asked anew for every run, and not for one that never began
      if (!((await start.textContent()) ?? '').includes('Measure at standstill')) await page.getByTestId('clear').tap();
      await expect(start).toContainText('Measure at standstill');
      await start.tap();
      await begun(page);
    });
    expect((await stack.read(unit, 116))[0]).toBe(1);
    await expect(page.getByTestId('tuned-1j')).toContainText('estimate');
    await page.getByTestId('keep-tune').tap();
    await expect(page.getByText(/Measured, kept and in the draft: Ines Calder/)).toBeVisible();
    expect((await stack.read(unit, 116))[0]).toBe(0);
    await expect(page.getByText(/settings? differs? from the drive/)).toHaveCount(0);
  });

  await test.step('tune turning: with the belt on it fails with its reason, taken off it measures the no-load current', async () => {
    await page.getByTestId('free').tap();
    await page.getByTestId('tune-rotating').tap();
    const hold = async () => {
      // asked anew for every run, and not for one that never began
      if (!((await page.getByTestId('hold').textContent()) ?? '').includes('Hold to measure')) await page.getByTestId('clear').tap();
      await expect(page.getByTestId('hold')).toContainText('Hold to measure');
      const box = present(await page.getByTestId('hold').boundingBox());
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.down();
      await begun(page);
    };
    await measuredTo(page, /It could not be measured\. The motor carries a load/, hold);
    await stands(stack, unit);
    await atPlant(page, stack, { fault: { id: 'coupling', trigger: 'now' } });
    await measuredTo(page, /holds it in working memory only/, hold);
    await page.getByTestId('keep-tune').tap();
    await expect(page.getByText(/no-load current \d\.\d+\sA/i).first()).toBeVisible();
    await atPlant(page, stack, { fault: { id: 'coupling', trigger: null } });
  });
}

/** The last proofs, and what makes them stale. */
async function proveTheRest(page: Page, stack: Stack): Promise<void> {
  await test.step('turn it: a whole run counts as the proof of Motion; then everything is proved', async () => {
    await page.goto(`${stack.url}/m/C-21/turn`);
    await enter(page, 'turn-frequency', '52.2');
    await page.getByTestId('clear').tap();
    expect(await holdAndLook(page, stack, 52.2)).toBeGreaterThan(1400);
    await page.getByRole('button', { name: 'Count it as the proof of Motion' }).tap();
    await expect(page.getByText(/Kept as the proof of Motion/)).toBeVisible();
    await page.goto(`${stack.url}/m/C-21`);
    await expect(page.getByText('8 of 12 proved')).toBeVisible();
  });

  await test.step('a setting changed in the drive makes the proofs that stood on it stale, and no others', async () => {
    await page.goto(`${stack.url}/m/C-21/motion`);
    await enter(page, 'setting-3a', '2.5');
    await page.getByTestId('go-write').tap();
    await holdAct(page, 'write');
    await expect(page.getByText(/1 value written/)).toBeVisible();
    await page.goto(`${stack.url}/m/C-21`);
    await expect(page.getByTestId('stage-motion')).toContainText('to be proved again: acceleration time 3a changed');
    await expect(page.getByTestId('stage-direction')).toContainText('turns the right way');
  });
}

test('C-21 from its NEMA plate on a 400 V supply: as found to tuned, kept and proved', async ({ page, stack }) => {
  await as(page, 'Ines Calder');

  await surveyAndBeforePower(page, stack);
  await plateToProtection(page);
  await writeAndDirection(page, stack);
  await tuneBothWays(page, stack);
  await proveTheRest(page, stack);
});

test('a write broken off half-way is told line by line and gone on with', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/F-32/write`);
  await page.getByTestId('extent-all').tap();
  const job = async () =>
    (await (await page.request.get(`${stack.url}/api/v1/machines/F-32/write`)).json()) as { lines: Array<{ result: string }> } | null;
  const verified = async () => (await job())?.lines.filter((l) => l.result === 'verified').length ?? 0;
  await expect(async () => {
    // a hold that a busy page broke off wrote nothing
    if ((await page.getByTestId('write').count()) > 0) await holdAct(page, 'write');
    await expect.poll(verified, { intervals: [10], timeout: 10_000 }).toBeGreaterThan(5);
  }).toPass();
  await stack.bench.stop();
  await expect(page.getByText(/The link was lost\. \d+ of \d+ values were written and verified, none kept yet/)).toBeVisible();
  await page.reload();
  await expect(page.getByTestId('go-on')).toContainText(/Hold to write the rest: \d+ values/);
  await expect(page.getByTestId('line-20/8')).toContainText('not written');
  await holdAct(page, 'go-on');
  await expect(page.getByText('The drive does not answer. Nothing was written', { exact: false })).toBeVisible();
  await stack.startBench();
  await expect(page.getByTestId('state-word')).not.toHaveText('No link');
  await holdAct(page, 'go-on');
  await expect(page.getByText(/values written, read back and kept through power-off/)).toBeVisible();
  await expect(page.getByText(/Draft and drive agree/)).toBeVisible();
});

test('a template, another machine, a short list, a lock and a revision brought back', async ({ page, stack }) => {
  await as(page, 'Tom Reed');
  await page.goto(`${stack.url}/m/M-55/start`);
  await page.getByTestId('template-general').tap();
  await expect(page.getByTestId('start-w22')).toContainText('the full-load current of the plate');
  await page.getByTestId('from-machine').tap();
  await page.getByTestId('copy-C-07').tap();
  await expect(page.getByTestId('left-w22')).toContainText('follows this motor’s full-load current');
  await expect(page.getByTestId('left-w10')).toContainText('is shorter than here');
  await expect(page.getByTestId('start-w33')).toContainText('C-07: 9b');
  await page.getByTestId('take-start').tap();
  await expect(page.getByText(/taken into the draft of M-55. Nothing was written to the drive/)).toBeVisible();

  await page.goto(`${stack.url}/m/M-55/settings`);
  await page.getByTestId('search').fill('time');
  await page.getByTestId('fold-order').tap();
  await page.getByTestId('short-list-name').fill('Ramps');
  await page.getByTestId('short-list-save').tap();
  await expect(page.getByTestId('short-list-Ramps')).toContainText('Shown');
  await page.getByTestId('by-task').tap();
  await expect(page.getByRole('heading', { name: 'Stop and brake' })).toBeVisible();
  await page.getByTestId('files').tap();
  await page.getByTestId('lock-code').fill('4711');
  await page.getByTestId('lock-set').tap();
  await expect(page.getByText(/Locked by Tom Reed/)).toBeVisible();
  await page.goto(`${stack.url}/m/M-55/motion`);
  await enter(page, 'setting-w10', '9');
  await expect(page.getByText(/The settings of M-55 are locked by Tom Reed/)).toBeVisible();
  await page.getByRole('button', { name: 'Put back what was there' }).tap();
  await page.goto(`${stack.url}/m/M-55/settings`);
  await page.getByTestId('files').tap();
  await page.getByTestId('lock-code').fill('1234');
  await page.getByTestId('lock-set').tap();
  await expect(page.getByText(/That is not the code.*The next is taken in 1\ss/)).toBeVisible();
  // during the pause not even the right one is tried
  await expect.poll(() => stack.query('select machine_id from settings_locks where not_before > now()')).toEqual([]);
  await page.getByTestId('lock-code').fill('4711');
  await page.getByTestId('lock-set').tap();
  await expect(page.getByText(/Locked by Tom Reed/)).toHaveCount(0);

  await page.goto(`${stack.url}/m/M-55/revisions`);
  await page.getByTestId('revision-draft-1').tap();
  await page.getByRole('button', { name: /Bring \d+ back into the draft/ }).tap();
  await page.goto(`${stack.url}/m/M-55/compare`);
  await page.getByTestId('side-b').tap();
  await page.getByTestId('side-b-C-07').tap();
  await expect(page.getByText(/differ, \d+ agree/)).toBeVisible();
});
