// npm run bench:chart: how long a recording of eight channels, an hour long at fifty samples a second, takes to open, and how smoothly it pans on
// the wide layout. Opening is from the click on its line to the frame that shows every channel drawn, on a page that has never shown a chart; panning
// is a mouse that drags the zoomed chart to and fro, and its figure the worst half second of it. Beside it: the same lines drawn from every sample, as
// a chart without levels would. Medians of `--rounds N` (three); `--json` prints one object.
import { Buffer } from 'node:buffer';
import { startDemo } from './lib/demo.mjs';

const json = process.argv.includes('--json');
const option = (name, or) => (process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : or);
const rounds = Number(option('--rounds', 3));
const [seconds, rate] = [3600, 50];
const panned = 4000;
/** ms the worst frame rate is told of. */
const window = 500;

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const base64 = (array) => Buffer.from(array.buffer).toString('base64');

/** A machine that works for an hour: its speed wanders, every figure follows with noise. Noise by a linear congruential generator (Numerical Recipes). */
function hour() {
  const n = seconds * rate;
  let state = 20260101;
  const noise = () => (state = (state * 1664525 + 1013904223) >>> 0) / 2 ** 32 - 0.5;
  const speed = Float32Array.from({ length: n }, (_, i) => 35 + 9 * Math.sin(i / 4000) + 3 * Math.sin(i / 310) + 0.05 * noise());
  const of = (f) => Float32Array.from(speed, (x, i) => f(x / 50, i));
  const channels = [
    ['outputFrequency', 'Output', 'Hz', 2, speed],
    ['motorCurrent', 'Motor', 'A', 1, of((x) => 4 + 9 * x * x + 0.6 * noise())],
    ['busVoltage', 'DC bus', 'V', 0, of((x, i) => 565 - 8 * x + 6 * noise() + (i % 30011 === 0 ? 90 : 0))],
    ['torque', 'Torque', '%', 1, of((x) => 90 * x * x + 4 * noise())],
    ['power', 'Input power', 'kW', 2, of((x) => 6.5 * x ** 3 + 0.2 * noise())],
    ['motorHeat', 'Motor heat', '%', 1, of((x, i) => 60 * (1 - Math.exp(-i / 60000)) + 0.2 * noise())],
    ['feedback', 'Feedback', '%', 1, of((x, i) => 55 + 6 * Math.sin(i / 900) + 1.5 * noise())],
    ['driveTemperature', 'Drive temperature', '°C', 0, of((x, i) => 38 + 12 * (1 - Math.exp(-i / 40000)) + noise())],
  ];
  return {
    ...{ author: 'Ines Calder', title: 'An hour at fifty samples a second', startedAt: null, marks: [] },
    channels: channels.map(([key, name, unit, decimals]) => ({ key, name, unit, decimals })),
    time: base64(Float64Array.from({ length: n }, (_, i) => i / rate)),
    values: channels.map((c) => base64(c[4])),
  };
}

async function take(demo) {
  const response = await fetch(`${demo.url}/api/v1/machines/P-11/recordings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(hour()),
  });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()).id;
}

/** ms from the click on its line to the frame with all lines. */
async function open(page, demo, id) {
  await page.goto(`${demo.url}/m/P-11/recordings`);
  await page.getByTestId(`recording-${id}`).waitFor();
  await page.waitForTimeout(1500);
  await page.evaluate((row) => {
    window.opened = new Promise((done) => {
      document.querySelector(`[data-testid="${row}"]`).addEventListener('click', () => {
        const begun = performance.now();
        const look = () => {
          const lines = [...document.querySelectorAll('[data-testid="recording"] svg path')].filter((p) => (p.getAttribute('d') ?? '').length > 1000);
          if (lines.length >= 8) requestAnimationFrame((at) => done(Math.max(at, performance.now()) - begun));
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      });
    });
  }, `recording-${id}`);
  await page.getByTestId(`recording-${id}`).click();
  return page.evaluate(() => window.opened);
}

/** Frames a second while a mouse drags: the worst half second and the middle one. */
async function pan(page) {
  const chart = page.getByTestId('recording').locator('[role="img"]');
  await chart.evaluate((node) => node.scrollIntoView({ block: 'start' }));
  await page.waitForTimeout(500);
  const box = await chart.boundingBox();
  const y = box.y + 200;
  await page.mouse.move(box.x + box.width / 2, y);
  for (let i = 0; i < 2; i++) await page.mouse.wheel(0, -750);
  await page.waitForTimeout(500);
  await page.mouse.down();
  await page.evaluate(() => {
    window.frames = [];
    const step = (at) => {
      window.frames.push(at);
      window.watching = requestAnimationFrame(step);
    };
    window.watching = requestAnimationFrame(step);
  });
  // far enough that what was drawn beyond the edges is used up, and it has to be drawn anew on the way
  const shown = () => page.locator('[data-testid="recording"] svg path').first().getAttribute('d');
  const before = await shown();
  const begun = performance.now();
  for (let k = 0; performance.now() - begun < panned; k++) {
    await page.mouse.move(box.x + box.width / 2 + 400 * Math.sin(k / 60), y);
    // a hand moves once a frame
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
  }
  const frames = await page.evaluate(() => (window.cancelAnimationFrame(window.watching), window.frames));
  const moved = (await shown()) !== before;
  await page.mouse.up();
  if (!moved) throw new Error('the chart was not panned');
  const rates = [];
  let first = 0;
  frames.forEach((at, i) => {
    while (at - frames[first] > window) first++;
    if (at - frames[0] >= window) rates.push((1000 * (i - first)) / (at - frames[first]));
  });
  return { worst: Math.min(...rates), middle: median(rates) };
}

/** ms to find what a window of all eight lines shows from every sample, as the naive answer does for each frame. */
function naive() {
  const { channels } = hour();
  const time = Float64Array.from({ length: seconds * rate }, (_, i) => i / rate);
  const values = channels.map(() => Float64Array.from(time, (t) => Math.sin(t)));
  const times = [];
  for (let round = 0; round < 9; round++) {
    const begun = performance.now();
    for (const v of values) {
      const path = [];
      for (let i = 0; i < time.length / 8; i++) path.push(`${i === 0 ? 'M' : 'L'}${(time[i] / 3).toFixed(1)},${(40 * v[i]).toFixed(1)}`);
      path.join('');
    }
    times.push(performance.now() - begun);
  }
  return median(times);
}

const demo = await startDemo('chart');
try {
  const id = await take(demo);
  const opens = [];
  const pans = [];
  for (let round = 0; round < rounds; round++) {
    const page = await demo.page({ wide: true });
    opens.push(await open(page, demo, id));
    pans.push(await pan(page));
    await page.context().close();
  }
  const result = {
    openMs: Math.round(median(opens)),
    panFps: Math.round(10 * median(pans.map((p) => p.worst))) / 10,
    panMiddleFps: Math.round(10 * median(pans.map((p) => p.middle))) / 10,
    naiveFrameMs: Math.round(naive()),
    rounds,
  };
  if (json) console.log(JSON.stringify(result));
  else
    console.log(
      `8 channels, ${seconds} s at ${rate} Hz, medians of ${rounds} rounds: opens in ${result.openMs} ms; panning ${result.panFps} frames/s in its worst half second, ${result.panMiddleFps} in the middle; a line through every sample in sight would take ${result.naiveFrameMs} ms a frame`,
    );
  process.exitCode = result.openMs < 1000 && result.panFps >= 50 ? 0 : 1;
} finally {
  await demo.stop();
}
