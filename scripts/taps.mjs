// npm run bench:taps: how long every page takes to answer a tap with the processor slowed four times, and how a sheet of 400 settings
// scrolls, and how still the page of a live case stands. Durations are the browser's own Event Timing: from the finger to the next frame painted; every walk is done `--rounds N` times
// (three), and a tap is told by its median and its longest. `--page SUFFIX` keeps to some pages, `--json` prints one object.
// A virtual machine whose processor is lent to others answers late through no fault of the page: a walk during which the kernel counted
// more than its share as stolen is done again after waiting for a quiet spell; how many were is printed.
import { setTimeout as sleep } from 'node:timers/promises';
import { startDemo } from './lib/demo.mjs';
import { Quiet } from './lib/quiet.mjs';

const slowed = 4;
const settle = 1500;
const json = process.argv.includes('--json');

const option = (name, or) => (process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : or);
const only = option('--page', null);
const rounds = Number(option('--rounds', 3));

/** Share of the processor that may go to other machines during a walk, how often a walk is done again for it, and ms all waiting may take. */
const quiet = new Quiet({ lent: 0.02, again: 4, patience: 600_000 });

/** Pages and what is tapped on them, by test id. */
const walks = [
  ['/', ['machine-P-11']],
  ['/new', ['new-pump', 'new-power', 'new-delta', 'new-sallow', 'new-osier-g', 'new-unit']],
  ['/m/P-11', ['stop-here', 'stage-plate']],
  ['/m/C-21/survey', ['survey-ambient', 'survey-phases', 'survey-screened', 'record-unit', 'driven-kind', 'driven-torqueShare']],
  ['/m/C-07/command', ['fold-truth', 'fold-others']],
  ['/m/C-07/terminals', ['device-D1', 'setting-6a']],
  ['/m/C-07/presets', ['unit-rpm', 'preset-1']],
  ['/m/P-11/hand-off-auto', ['try-hand', 'try-auto']],
  ['/m/C-21/before-power', ['check-mounted', 'check-insulation', 'check-lineVoltages']],
  ['/m/C-21/plate', ['plate-standard', 'worked-torque', 'plate-current', 'plate-leads', 'fold-motors']],
  ['/m/C-21/drive', ['fold-sizes', 'family-sallow', 'family-osier-g', 'factory-start', 'region-50']],
  ['/m/C-21/protection', ['setting-7a', 'setting-7c', 'setting-7p']],
  ['/m/P-11/motion', ['setting-3g', 'fold-Starting', 'fold-Braking', 'setting-3b']],
  ['/m/P-11/write', ['against-factory', 'against-in-drive', 'extent-chosen', 'extent-all']],
  ['/m/C-21/direction', ['clear', 'direction-frequency']],
  ['/m/C-21/tune', ['coupled', 'free', 'tune-rotating', 'tune-standstill']],
  ['/m/P-11/settings', ['line-1d', 'filter-changed', 'filter-all', 'fold-order', 'by-task', 'by-code']],
  ['/m/P-11/turn', ['clear', 'turn-frequency']],
  ['/m/P-11/start', ['template-fan', 'from-machine', 'copy-P-41']],
  ['/m/P-11/compare', ['side-b', 'side-b-in-drive']],
  ['/m/P-11/revisions', ['revision-draft-1']],
  ['/m/P-11/bench', ['panel-mode-0', 'panel-mode-1', 'fault-jam']],
];

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? null;

async function slow(page) {
  const session = await page.context().newCDPSession(page);
  await session.send('Emulation.setCPUThrottlingRate', { rate: slowed });
}

/** How long a finger rests on the glass, ms. */
const touch = 80;

async function finger(page, id) {
  const box = await page.getByTestId(id).first().boundingBox();
  const point = { x: box.x + Math.min(box.width / 2, 180), y: box.y + Math.min(box.height / 2, 30) };
  const session = await page.context().newCDPSession(page);
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [point] });
  await page.waitForTimeout(touch);
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
}

/** ms from the finger to the frame that answers it: the longest event of one tap. */
async function tap(page, id) {
  await page.evaluate(() => {
    window.longest = { all: 16, before: 0, work: 0 };
    window.watch?.disconnect();
    window.watch = new PerformanceObserver((list) => {
      for (const e of list.getEntries())
        if (e.interactionId && e.duration > window.longest.all)
          window.longest = {
            all: e.duration,
            before: Math.round(e.processingStart - e.startTime),
            work: Math.round(e.processingEnd - e.processingStart),
          };
    });
    window.watch.observe({ type: 'event', durationThreshold: 16, buffered: false });
  });
  // a touch that the page did not take, because the sheet had just moved, is given again, as a hand does
  for (let given = 0; given < 3; given += 1) {
    await page.evaluate((told) => {
      window.dropped = false;
      document.addEventListener(told, () => (window.dropped = true), { once: true });
    }, 'touch-not-taken');
    await finger(page, id);
    await page.waitForTimeout(900);
    if (!(await page.evaluate(() => window.dropped))) break;
  }
  // what is faster than the least the browser tells is told as that
  return page.evaluate(() => window.longest);
}

async function taps(demo) {
  const results = [];
  for (const [path, ids] of walks) {
    if (only !== null && !path.endsWith(only)) continue;
    const times = new Map(ids.map((id) => [id, []]));
    for (let round = 0; round < rounds; round += 1) {
      const found = await quiet.undisturbed(() => walk(demo, path, ids));
      for (const [id, time] of found) times.get(id).push(time);
    }
    for (const [id, all] of times) {
      const result = { page: path, tap: id, milliseconds: median(all.map((t) => t.all)), all };
      results.push(result);
      const words = (t) => `${t.all} (waiting ${t.before}, work ${t.work}, painting ${t.all - t.before - t.work})`;
      if (!json) console.log(`${String(result.milliseconds).padStart(5)} ms  ${path}  ${id}: ${all.map(words).join(', ')}`);
    }
  }
  return results;
}

/** One walk over a page, freshly opened: what each tap took. */
async function walk(demo, path, ids) {
  const page = await demo.page();
  await page.goto(demo.url + path);
  const found = new Map();
  await page.getByTestId(ids[0]).first().waitFor({ timeout: 20_000 });
  await page.waitForTimeout(settle);
  await slow(page);
  for (const id of ids) {
    const leave = page.getByRole('button', { name: 'Leave', exact: true });
    if (await leave.isVisible()) await leave.tap();
    await page.getByTestId(id).first().scrollIntoViewIfNeeded();
    await page.waitForTimeout(200);
    found.set(id, await tap(page, id));
  }
  await page.context().close();
  return found;
}

/** The sheet of a family that has four hundred settings, flicked from end to end. */
async function scroll(demo) {
  const page = await demo.page();
  const more = `...Array.from({length:302},(_,i)=>({code:"1/"+(i+1),name:"Further setting "+(i+1),unit:"s",min:0,max:600,step:.1,factory50:1,factory60:1,access:"running",help:"Stands here so that the sheet is as long as a large family's.",register:20000+i})),`;
  let lengthened = false;
  await page.route(/\/web\/[^/]*\.js$/, async (route) => {
    const response = await route.fetch();
    const body = await response.text();
    const longer = body.replace('settings:[{code:"1a"', `settings:[${more}{code:"1a"`);
    lengthened ||= longer !== body;
    await route.fulfill({ response, body: longer });
  });
  await page.goto(`${demo.url}/m/P-11/settings`);
  await page.getByTestId('filter-all').waitFor({ timeout: 30_000 });
  if (!lengthened) throw new Error('the drive book was not found in the page');
  const settings = Number(/\d+/.exec(await page.getByTestId('filter-all').innerText())[0]);
  await page.getByTestId('filter-all').tap();
  await page.waitForFunction(() => [...document.querySelectorAll('div')].some((d) => d.scrollHeight > d.clientHeight + 2000));
  await page.waitForTimeout(settle);
  const plain = figures(await flick(page));
  await slow(page);
  await page.getByTestId('filter-changed').scrollIntoViewIfNeeded();
  await page.waitForTimeout(500);
  const openTap = await tap(page, 'filter-changed');
  const backTap = await tap(page, 'filter-all');
  const slowly = figures(await flick(page));
  await page.context().close();
  return { settings, plain, slowed: slowly, filterTaps: [openTap.all, backTap.all] };
}

/** s a page of a live case is watched, and ms from which it stood still. */
const caseFor = 12;
const still = 150;

/** A pump of the bench led to its trip, jammed while it runs: the address of its case. */
async function tripped(demo) {
  const page = await demo.page();
  const tag = 'P-11';
  const api = `${demo.url}/api/v1/machines/${tag}`;
  const act = async (what) => {
    const answer = await page.request.post(`${api}/bench`, { data: { author: 'Fitter', ...what } });
    if (!answer.ok()) throw new Error(await answer.text());
  };
  const until = async (there) => {
    for (let i = 0; i < 600; i += 1) {
      const found = await there();
      if (found) return found;
      await sleep(200);
    }
    throw new Error(`${tag} was not led to its trip`);
  };
  await act({ panel: { mode: 0, knob: 0.9 } });
  await until(async () => (await (await page.request.get(`${api}/bench`)).json()).seen.shaftSpeed > 100);
  await act({ fault: { id: 'jam', trigger: 'now' } });
  const id = await until(async () => (await (await page.request.get(`${demo.url}/api/v1/trips?tag=${tag}`)).json()).trips?.[0]?.id);
  await page.context().close();
  return `/m/${tag}/trip/${id}`;
}

/** How often, and how long at worst, the page of a live case stands still with the processor slowed. */
async function liveCase(demo) {
  const path = await tripped(demo);
  return quiet.undisturbed(() => watchedCase(demo, path));
}

async function watchedCase(demo, path) {
  const page = await demo.page();
  await page.goto(demo.url + path);
  await page.getByTestId('next-measurement').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(settle);
  await slow(page);
  const stalls = await page.evaluate(
    (ms) =>
      new Promise((done) => {
        const tasks = [];
        new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => Math.round(e.duration)))).observe({ entryTypes: ['longtask'] });
        setTimeout(() => done(tasks), ms);
      }),
    1000 * caseFor,
  );
  const touched = await tap(page, 'next-measurement');
  await page.context().close();
  return { seconds: caseFor, stallsAbove150: stalls.filter((t) => t > still).length, longestStall: Math.max(0, ...stalls), tap: touched.all };
}

/** Flicks the sheet from its head to its foot, 60 px a frame; ms from one frame to the next. */
const flick = (page) =>
  page.evaluate(
    () =>
      new Promise((done) => {
        const box = [...document.querySelectorAll('div')].filter((d) => d.scrollHeight > d.clientHeight + 2000).at(-1);
        box.scrollTop = 0;
        const gaps = [];
        let last = performance.now();
        const step = (now) => {
          gaps.push(now - last);
          last = now;
          box.scrollTop += 60;
          if (box.scrollTop + box.clientHeight < box.scrollHeight - 4 && gaps.length < 2000) requestAnimationFrame(step);
          else done(gaps.slice(2));
        };
        requestAnimationFrame(step);
      }),
  );

/** Frames a second and how even they came. */
function figures(frames) {
  const sorted = [...frames].sort((a, b) => a - b);
  return {
    framesPerSecond: Math.round((1000 * frames.length) / frames.reduce((a, b) => a + b, 0)),
    medianFrame: Number(median(frames).toFixed(1)),
    frame95: Number(sorted[Math.floor(0.95 * sorted.length)].toFixed(1)),
    longestFrame: Number(sorted.at(-1).toFixed(1)),
  };
}

const demo = await startDemo('taps');
try {
  const results = await taps(demo);
  const live = only === null || only.endsWith('/trip') ? await liveCase(demo) : null;
  if (json && live) console.error(JSON.stringify({ liveCase: live }));
  const scrolled = await scroll(demo);
  const worst = [...results].sort((a, b) => b.milliseconds - a.milliseconds)[0] ?? { milliseconds: 0, page: only, tap: 'nothing' };
  const single = results.flatMap((r) => r.all.map((t) => t.all));
  const tapped = {
    worst,
    median: median(results.map((r) => r.milliseconds)),
    above100: results.filter((r) => r.milliseconds > 100).length,
    taps: results.length,
    singleAbove100: single.filter((t) => t > 100).length,
    singles: single.length,
    longest: Math.max(0, ...single),
  };
  if (json) console.log(JSON.stringify({ slowed, rounds, results, ...tapped, disturbed: quiet.disturbed, liveCase: live, scroll: scrolled }));
  else {
    console.log(
      `of ${rounds} rounds, processor slowed ${slowed} times: median ${tapped.median} ms, worst ${worst.milliseconds} ms (${worst.page} ${worst.tap}), ${tapped.above100} of ${tapped.taps} taps above 100 ms; single touches above 100 ms ${tapped.singleAbove100} of ${tapped.singles}, longest ${tapped.longest} ms; other machines took more than ${100 * quiet.lent} % of the processor in ${quiet.disturbed.again} walks done again and ${quiet.disturbed.counted} counted`,
    );
    if (live)
      console.log(
        `page of a live case, ${live.seconds} s, slowed ${slowed} times: ${live.stallsAbove150} times still above ${still} ms, longest ${live.longestStall} ms; a touch ${live.tap} ms`,
      );
    const words = (f) => `${f.framesPerSecond} frames/s, median ${f.medianFrame} ms, 95 % within ${f.frame95} ms, longest ${f.longestFrame} ms`;
    console.log(
      `${scrolled.settings} settings scrolled: ${words(scrolled.plain)}; slowed ${slowed} times: ${words(scrolled.slowed)}; filter taps ${scrolled.filterTaps.join(' and ')} ms`,
    );
  }
} finally {
  await demo.stop();
}
