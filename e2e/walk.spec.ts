import type { Page } from '@playwright/test';
import Papa from 'papaparse';
import { recordingFrom } from '@yare/commissioning/recordingSamples';
import type { RecordingMeta } from '@yare/contract';
import { present } from '@yare/core';
import { readFileSync } from 'node:fs';
import { as, expect, holdUntilTurning, outputHertz, stands, test, typeOnPad, type Stack, writeDraft } from './stack';

test.describe.configure({ mode: 'serial' });

/** A name, the plant, and the plate with its contradictions. */
async function nameAndPlate(page: Page, stack: Stack): Promise<void> {
  await test.step('a name first, once', async () => {
    await page.goto(stack.url);
    await expect(page.getByText('Who is at this device?')).toBeVisible();
    await page.getByTestId('author').fill('  Ines   Calder ');
    await page.getByTestId('author-set').tap();
    await expect(page.getByText('Brackwater Maltings')).toBeVisible();
  });

  await test.step('the plant by area, each machine with its state', async () => {
    for (const area of ['Steep house', 'Kiln', 'Bagging']) await expect(page.getByRole('heading', { name: area })).toBeVisible();
    await expect(page.getByTestId('machine-P-11')).toContainText('Ready');
    await page.getByTestId('machine-P-11').tap();
    await expect(page.getByTestId('stage-plate')).toBeVisible();
    await page.getByTestId('stage-plate').tap();
  });

  await test.step('plate: cos φ typed as 88 is told, with its way out', async () => {
    await expect(page.getByTestId('plate-current')).toContainText('13.6');
    await page.getByTestId('plate-powerFactor').tap();
    await typeOnPad(page, '88');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByText('cos φ cannot be above 1. 88 is 0.88 written in percent.')).toBeVisible();
    await expect(page.getByText('The plate contradicts itself.')).toBeVisible();
    await page.getByRole('button', { name: 'Use 0.88' }).tap();
    await expect(page.getByTestId('plate-powerFactor')).toContainText('0.88');
  });

  await test.step('plate: kW and hp swapped, and a speed that does not fit the frequency', async () => {
    await page.getByTestId('plate-power').tap();
    await page.getByRole('radio', { name: 'hp' }).tap();
    await page.getByTestId('entry-set').tap();
    await expect(page.getByText(/Likeliest: 7.5 looks like kW, not hp/)).toBeVisible();
    await page.getByRole('button', { name: 'Use 7.5 kW' }).tap();
    await page.getByTestId('plate-speed').tap();
    await typeOnPad(page, '1760');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByText(/1760\srpm does not fit 50\sHz/)).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).tap();
    await expect(page.getByTestId('plate-speed')).toContainText('2925');
    await expect(page.getByText(/does not fit/)).toHaveCount(0);
  });

  await test.step('plate: what is worked out opens into its formula; circuit and curves are drawn as estimates', async () => {
    await expect(page.getByTestId('worked-synchronous')).toContainText('3000');
    await expect(page.getByTestId('worked-torque')).toContainText('24.5');
    await page.getByTestId('worked-slip').tap();
    await expect(page.getByTestId('formula')).toContainText('(3000 − 2925) ÷ 3000 = 2.50 %');
    await expect(page.getByRole('img', { name: 'Equivalent circuit of one phase' })).toBeVisible();
    await expect(page.getByTestId('curves')).toContainText('13.6');
  });
}

/** The look-ahead, and figures as they are typed. */
async function motionTyped(page: Page, stack: Stack): Promise<void> {
  await test.step('motion: the draft would trip, the look-ahead says so and offers the shortest safe stop', async () => {
    await page.goto(`${stack.url}/m/P-11/motion`);
    await expect(page.getByText(/Stopping in 3\.0\ss, the DC bus reaches its trip level of 800\sV/)).toBeVisible();
    await page.getByRole('button', { name: /Use the shortest safe/ }).tap();
    await expect(page.getByText(/The DC bus peaks at (about )?[5-7]\d\d\sV(, at worst \d+\sV)?; it trips at 800\sV/)).toBeVisible();
    const peak = async () => Number(present(/peaks at (?:about )?(\d+)\sV/.exec(await page.getByText(/The DC bus peaks at/).innerText()))[1]);
    const before = await peak();
    await page.getByTestId('setting-3b').tap();
    await typeOnPad(page, '8');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByText(/The motor stops in (about )?[78]\.\d\ss/).first()).toBeVisible();
    expect(await peak()).toBeLessThanOrEqual(before);
    expect(before).toBeLessThan(800);
  });

  await test.step('a figure in hand survives a reload', async () => {
    await page.getByTestId('setting-3a').tap();
    await typeOnPad(page, '6.');
    await page.reload();
    await expect(page.getByTestId('entry-input')).toHaveValue('6.');
    await typeOnPad(page, '5');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByTestId('setting-3a')).toContainText('6.5');
  });

  await test.step('bad input gets a sentence and loses nothing', async () => {
    await page.getByTestId('setting-3a').tap();
    await typeOnPad(page, '99999');
    await page.getByTestId('entry-set').tap();
    await expect(page.getByRole('alert')).toContainText('takes 0.1 to 3600 s');
    await expect(page.getByTestId('entry-input')).toHaveValue('99999');
    await page.getByRole('button', { name: 'Leave' }).tap();
    await expect(page.getByTestId('setting-3a')).toContainText('6.5');
  });
}

/** Written and held; returns the recording of the run. */
async function writeAndTurn(page: Page, stack: Stack): Promise<number> {
  let id = 0;
  await test.step('write: what will change, written, read back, verified, kept', async () => {
    await page.getByTestId('go-write').tap();
    await expect(page.getByTestId('diff-3b')).toContainText('in drive 12.0 s');
    await expect(page.getByTestId('diff-3b')).toContainText('8.0');
    await writeDraft(page);
    await expect(page.getByText(/values written, read back and kept through power-off/)).toBeVisible();
    await expect(page.getByTestId('line-3b')).toContainText('read back the same');
    await expect(page.getByText(/Draft and drive agree/)).toBeVisible();
    expect(await stack.read(1, 1024 + 2 * 32, 2)).toEqual([65, 80]);
    expect((await stack.read(1, 116))[0]).toBe(0);
  });

  await test.step('turn it: confirmed, held, watched, let go', async () => {
    await page.goto(`${stack.url}/m/P-11/turn`);
    await expect(page.getByTestId('hold')).toContainText('First confirm that it may turn');
    await page.getByTestId('clear').tap();
    await page.getByTestId('hold').tap();
    // a motor that started late would show within this
    await page.waitForTimeout(1200);
    expect(await outputHertz(stack, 1)).toBe(0);
    await holdUntilTurning(page, stack, 1, 9.5);
    await expect(page.getByTestId('state-word')).toHaveText('Running');
    await expect(page.getByTestId('state-strip')).toContainText('Ines Calder, hold to run');
    await expect.poll(() => outputHertz(stack, 1)).toBeGreaterThan(9.95);
    await page.mouse.up();
    await stands(stack, 1);
    const kept = page.getByText(/The run is kept as recording \d+/);
    await expect(kept).toBeVisible();
    id = Number(present(/recording (\d+)/.exec(await kept.innerText()))[1]);
  });
  return id;
}

/** The recording read, marked and saved, and still there after a restart of everything. */
async function recordingAndRestart(page: Page, stack: Stack, id: number): Promise<void> {
  await test.step('the recording: read with a cursor, zoomed, marked, saved', async () => {
    await page.getByRole('button', { name: 'Open the recording' }).tap();
    const chart = page.getByTestId('recording');
    await expect(chart).toBeVisible();
    await expect(async () => {
      // the sheet may still be settling when the finger comes down
      const at = present(await chart.boundingBox());
      await page.touchscreen.tap(at.x + at.width / 2, at.y + 60);
      await expect(page.getByRole('button', { name: 'Second cursor' })).toBeEnabled({ timeout: 1500 });
    }).toPass();
    const box = present(await chart.boundingBox());
    await expect(page.getByTestId('recording-readout')).toContainText(/at\s*\d/);
    await expect(page.getByTestId('recording')).toContainText(/\d Hz/);
    await page.getByRole('button', { name: 'Zoom in' }).tap();
    await page.getByRole('button', { name: 'Second cursor' }).tap();
    await page.touchscreen.tap(box.x + box.width / 2 + 60, box.y + 60);
    await expect(chart.getByText('Δ').first()).toBeVisible();
    await page.getByTestId('mark-label').fill('Hum at the coupling');
    await page.getByTestId('mark-set').tap();
    await expect(page.getByText('Hum at the coupling')).toBeVisible();
    const download = page.waitForEvent('download');
    await page.getByTestId('save-csv').tap();
    const rows = Papa.parse<string[]>(readFileSync(await (await download).path(), 'utf8').replace(/^\ufeff/, '')).data;
    const meta = (await (await page.request.get(`${stack.url}/api/v1/recordings/${id}`)).json()) as RecordingMeta;
    const packed = await (await page.request.get(`${stack.url}/api/v1/recordings/${id}/samples`)).body();
    const served = recordingFrom(meta, packed.buffer.slice(packed.byteOffset, packed.byteOffset + packed.length) as ArrayBuffer);
    const [stored] = await stack.query<{ samples: number; duration: number }>('select samples, duration from recordings where id = $1', [id]);
    expect(rows.length - 1).toBe(present(stored).samples);
    expect(Number(present(rows.at(-1))[0])).toBeCloseTo(present(stored).duration, 3);
    expect(rows.slice(1).map((r) => Number(r[1]))).toEqual(served.data.outputFrequency);
    expect(Math.max(...present(served.data.outputFrequency))).toBeCloseTo(10, 1);
    expect(rows.slice(1).some((r) => r[8]?.includes('Hum at the coupling'))).toBe(true);
  });

  await test.step('after a restart of everything it is all still there', async () => {
    await stack.server.stop();
    await stack.bench.stop();
    await stack.startBench();
    await stack.startServer();
    await page.goto(`${stack.url}/m/P-11/recordings`);
    await page.getByTestId(`recording-${id}`).tap();
    await expect(page.getByText('Hum at the coupling')).toBeVisible();
    await page.goto(`${stack.url}/m/P-11/write`);
    await expect(page.getByText(/Draft and drive agree/)).toBeVisible();
  });
}

test('one pump on a phone: from its nameplate to a turning, recorded, saved motor', async ({ page, stack }) => {
  await nameAndPlate(page, stack);
  await motionTyped(page, stack);
  const id = await writeAndTurn(page, stack);
  await recordingAndRestart(page, stack, id);
});

test('what another Modbus client writes shows as in drive', async ({ page, stack }) => {
  await as(page, 'Ines Calder');
  await page.goto(`${stack.url}/m/P-42/write`);
  await expect(page.getByTestId('state-word')).toHaveText('Ready');
  const { default: ModbusRTU } = await import('modbus-serial');
  const client = new ModbusRTU();
  await client.connectTCP('127.0.0.1', { port: stack.benchPort });
  client.setID(3);
  await client.writeRegister(6000 + 13 * 32 + 7, 33);
  client.close(() => undefined);
  await expect(page.getByTestId('diff-13/7')).toContainText('in drive 16.5 s');
  await expect(page.getByText(/gone at power-off/)).toBeVisible();
});
