// npm run shots: the pictures of docs/screenshots anew, from a fresh demo plant on a database of its own.
import { Buffer } from 'node:buffer';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startDemo } from './lib/demo.mjs';
import { root, say } from './lib/machine.mjs';

const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const demo = await startDemo('shots');
const { url } = demo;
const page = (wide, night) => demo.page({ wide, night });

async function shot(name, path, { wide = false, night = false, before } = {}) {
  const p = await page(wide, night);
  await p.goto(url + path);
  await p.waitForTimeout(2500);
  // a look-ahead is drawn whole
  await p
    .getByText(/^(computing|Looking ahead)/)
    .first()
    .waitFor({ state: 'detached' });
  if (before) await before(p);
  await p.screenshot({ path: join(out, `${name}.png`) });
  await p.context().close();
  say(name);
}

/** Two pictures side by side as one, so that there is one file for what belongs together. */
async function beside(name, ...parts) {
  const files = parts.map((part) => join(out, `${part}.png`));
  const p = await demo.page({ wide: true, night: false });
  await p.setViewportSize({ width: 390 * parts.length + 10 * (parts.length - 1), height: 844 });
  const pictures = files.map((f) => `<img width="390" src="data:image/png;base64,${readFileSync(f).toString('base64')}">`);
  await p.setContent(`<body style="margin:0;display:flex;gap:10px;background:#777">${pictures.join('')}</body>`);
  await p.evaluate(() => Promise.all([...document.images].map((i) => i.decode())));
  await p.screenshot({ path: join(out, `${name}.png`) });
  await p.context().close();
  for (const f of files) rmSync(f);
  say(name);
}

/** Holds an act of the bar until it is done. */
async function holdAct(p, id) {
  const box = await p.getByTestId(id).boundingBox();
  await p.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await p.mouse.down();
  await p.getByText('Keep holding…').waitFor();
  await p.getByText('Keep holding…').waitFor({ state: 'detached' });
  await p.mouse.up();
}

/** Presses the hold button until `milliseconds` have gone by. */
async function hold(p, milliseconds) {
  await p.getByTestId('clear').click();
  const box = await p.getByTestId('hold').boundingBox();
  await p.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await p.mouse.down();
  await p.waitForTimeout(milliseconds);
}

try {
  await shot('plant-phone', '/');
  await shot('new-machine-phone', '/new', {
    before: async (q) => {
      await q.getByTestId('new-tag').fill('P-12');
      await q.getByTestId('new-name').fill('Wash water pump');
      await q.getByRole('radio', { name: 'Steep house' }).click();
      await q.getByTestId('new-pump').click();
      await q.waitForTimeout(800);
    },
  });
  await shot('survey-phone', '/m/C-07/survey', {
    before: async (q) => {
      await q.getByTestId('driven-kind').scrollIntoViewIfNeeded();
      await q.getByTestId('driven-inertia').scrollIntoViewIfNeeded();
      await q.waitForTimeout(500);
    },
  });
  await beside('begin-phones', 'new-machine-phone', 'survey-phone');
  await shot('plan-phone', '/m/C-21');
  await shot('before-power-phone', '/m/C-21/before-power', {
    before: async (q) => {
      await q.request.post(`${url}/api/v1/machines/C-21/bench`, { data: { author: 'Ines Calder', handles: { power: 0 } } });
      for (const id of ['isolated', 'mounted', 'motorEarth', 'links']) {
        const pass = q.locator(`[data-testid=pass-${id}]:not([aria-disabled=true])`);
        // the sheet jumps when the drive falls silent, and takes no touch for a moment
        await pass.waitFor();
        await q.waitForTimeout(800);
        await pass.click();
        await q.getByTestId('next-check').waitFor();
        await q.waitForTimeout(800);
        await q.getByTestId('next-check').click();
        await q.waitForTimeout(800);
      }
      for (const [row, keys] of [
        ['figure-insulation', '3'],
        ['figure-winding', '20'],
      ]) {
        await q.getByTestId(row).click();
        for (const key of keys) await q.getByTestId('entry').getByRole('button', { name: key, exact: true }).click();
        await q.getByTestId('entry-set').click();
        await q.waitForTimeout(400);
      }
      await q.waitForTimeout(600);
      await q.request.post(`${url}/api/v1/machines/C-21/bench`, { data: { author: 'Ines Calder', handles: { power: 1 } } });
    },
  });
  await shot('drive-phone', '/m/C-21/drive');
  await shot('protection-phone', '/m/C-21/protection');
  await beside('drive-protection-phones', 'drive-phone', 'protection-phone');
  await shot('plate-phone', '/m/P-11/plate');
  await beside('before-power-plate-phones', 'before-power-phone', 'plate-phone');
  await shot('motion-phone', '/m/P-11/motion');
  await shot('motion-wide', '/m/P-11/motion', { wide: true });
  await shot('write-phone', '/m/P-11/write');
  await shot('direction-phone', '/m/P-11/direction');
  await beside('write-direction-phones', 'write-phone', 'direction-phone');
  await shot('command-phone', '/m/C-07/command');
  await shot('terminals-phone', '/m/C-07/terminals');
  await beside('command-terminals-phones', 'command-phone', 'terminals-phone');
  await shot('presets-phone', '/m/C-07/presets');
  await shot('hand-off-auto-phone', '/m/P-11/hand-off-auto');
  await beside('presets-selector-phones', 'presets-phone', 'hand-off-auto-phone');
  // made up: a step of 5 Hz on one lag, as another instrument would have recorded it
  const step = Array.from({ length: 600 }, (_, i) => {
    const t = i / 20;
    const pressure = 3.2 + (t < 8.3 ? 0 : 1.1 * (1 - Math.exp(-(t - 8.3) / 2.2)));
    return [t.toFixed(2), t < 8 ? 38 : 43, (pressure + 0.01 * Math.sin(37 * i)).toFixed(3)].join(',');
  });
  await shot('process-phone', '/m/P-11/process', {
    before: async (q) => {
      await q
        .getByTestId('recording-file')
        .setInputFiles({ name: 'steep pump.csv', mimeType: 'text/csv', buffer: Buffer.from(['Time s,Output Hz,Pressure bar', ...step].join('\n')) });
      await q.getByText('Put them into the draft').waitFor();
      await q.getByTestId('process-gain').evaluate((e) => e.scrollIntoView({ block: 'end' }));
      await q.waitForTimeout(900);
    },
  });
  /** The page scrolled to something of it, once that is there. */
  const at = (id) => async (q) => {
    await q.getByTestId(id).waitFor();
    await q.getByTestId(id).evaluate((e) => e.scrollIntoView({ block: 'end' }));
    await q.waitForTimeout(900);
  };
  await shot('sleep-phone', '/m/P-11/sleep', { before: at('day-chart') });
  await shot('guards-phone', '/m/P-11/guards');
  await beside('sleep-guards-phones', 'sleep-phone', 'guards-phone');
  await shot('station-phone', '/m/P-41/station', { before: at('year-3') });
  await shot('emergency-phone', '/m/F-32/emergency');
  await beside('station-emergency-phones', 'station-phone', 'emergency-phone');
  const p = await page(false, false);
  await p.goto(`${url}/m/P-11/turn`);
  await p.waitForTimeout(2000);
  await p.getByTestId('turn-frequency').click();
  for (const key of ['4', '0']) await p.getByTestId('entry').getByRole('button', { name: key, exact: true }).click();
  await p.getByTestId('entry-set').click();
  await hold(p, 8000);
  await p.screenshot({ path: join(out, 'turn-phone.png') });
  await p.mouse.up();
  await p.getByText(/kept as recording/).waitFor({ timeout: 60_000 });
  await p.context().close();
  say('turn-phone');
  const cursor = async (q) => {
    const box = await q.getByTestId('recording').boundingBox();
    await q.mouse.click(box.x + box.width * 0.55, box.y + 60);
    await q.waitForTimeout(300);
  };
  /** A machine at work on the bench. */
  const auto = async (q) => {
    await q.getByTestId('panel-mode-2').click();
    await q.waitForTimeout(16_000);
  };
  await shot('bench-phone', '/m/P-11/bench', { before: auto });
  // the wire of its sensor breaks
  await shot('trip-phone', '/m/P-11/trip', {
    before: async (q) => {
      await q.request.post(`${url}/api/v1/machines/P-11/bench`, { data: { author: 'Ines Calder', fault: { id: 'wire', trigger: 'now' } } });
      await q.getByTestId('cause-first').waitFor({ timeout: 60_000 });
      await q.getByTestId('next-measurement').waitFor();
      await q.waitForTimeout(4000);
    },
  });
  await shot('trips-phone', '/trips', { before: (q) => q.getByTestId('trip-1').waitFor() });
  await beside('trip-phones', 'trip-phone', 'trips-phone');
  await shot('tune-phone-night', '/m/C-21/write', {
    night: true,
    before: async (q) => {
      await holdAct(q, 'write');
      await q.getByText(/kept through power-off/).waitFor();
      await q.goto(`${url}/m/C-21/tune`);
      // what has only just come takes no touch
      await q.getByTestId('coupled').waitFor();
      await q.waitForTimeout(1500);
      await q.getByTestId('coupled').click();
      await q.getByTestId('clear').click();
      await q.getByTestId('start-tune').click();
      await q.waitForTimeout(6500);
    },
  });
  await shot('settings-phone', '/m/P-11/settings', {
    before: async (q) => {
      await q.getByTestId('search').fill('decel');
      await q.getByTestId('line-3b').click();
      await q.waitForTimeout(400);
    },
  });
  await beside('bench-settings-phones', 'bench-phone', 'settings-phone');
  await shot('recorder-phone', '/m/P-11/recordings', {
    before: async (q) => {
      await q.getByTestId('recorder').click();
      await q.getByTestId('trigger-kind').waitFor();
      await q.waitForTimeout(800);
    },
  });
  await beside('turn-recorder-phones', 'turn-phone', 'recorder-phone');
  await shot('recording-wide-night', '/m/P-11/recordings/1', { wide: true, night: true, before: cursor });
  // as a phone finds the server from elsewhere
  const secure = await demo.beyondLoopback();
  const phone = await page(false, false);
  await phone.goto(`${secure.url}/pair#${secure.code}`);
  await phone.getByTestId('pair-name').fill('Phone of Ines');
  await phone.screenshot({ path: join(out, 'pair-phone.png') });
  say('pair-phone');
  await phone.getByTestId('pair').click();
  await phone.getByTestId('devices').waitFor();
  await phone.goto(`${secure.url}/devices`);
  await phone.getByTestId('device-1').click();
  await phone.waitForTimeout(800);
  await phone.screenshot({ path: join(out, 'devices-phone.png') });
  say('devices-phone');
  await beside('pairing-phones', 'pair-phone', 'devices-phone');
} finally {
  await demo.stop();
}
