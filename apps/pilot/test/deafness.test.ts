import { fireEvent, waitFor } from '@testing-library/react';
import { present } from '@yare/core';
import { beDeafToSecondTouches, deafFor, touchNotTaken } from '../src/ui/deafness';

let time = 0;
let stop = (): void => undefined;
/** What lies under the finger: the page below draws one thing there at a time. */
let under: HTMLElement;
beforeEach(() => {
  time = 10_000;
  document.body.innerHTML = '';
  // everything that is drawn lies under the finger
  HTMLElement.prototype.getBoundingClientRect = () => ({ left: 60, right: 140, top: 680, bottom: 720 }) as DOMRect;
  stop = beDeafToSecondTouches(document, () => time);
});
afterEach(() => stop());

function thing(text: string, onClick: () => void, attributes: Record<string, string> = {}): HTMLElement {
  const node = document.createElement('div');
  for (const [k, v] of Object.entries({ role: 'button', ...attributes })) node.setAttribute(k, v);
  node.textContent = text;
  node.addEventListener('click', onClick);
  return node;
}
const draw = (node: HTMLElement) => {
  document.body.replaceChildren(node);
  under = node;
};
const tap = (x = 100, y = 700) => fireEvent.click(under, { clientX: x, clientY: y, detail: 1 });
/** The page tells of what was drawn in a microtask. */
const seen = () => waitFor(() => undefined);

describe.each([150, 250, 600])('two taps %i ms apart', (apart) => {
  test.each(['Go on to Plate', 'OK', 'Write 2 values', 'Hold to run'])('do not do what the first brought under the finger: %s', async (second) => {
    const done = jest.fn();
    draw(thing('First', () => draw(thing(second, done))));
    const told = jest.fn();
    document.addEventListener(touchNotTaken, told);
    tap();
    await seen();
    time += apart;
    tap();
    expect(done).not.toHaveBeenCalled();
    time += deafFor;
    tap();
    expect(done).toHaveBeenCalledTimes(1);
    expect(told).toHaveBeenCalledTimes(1);
    document.removeEventListener(touchNotTaken, told);
  });

  test('tick what can be ticked once, though its words change with the tick', async () => {
    let ticked = false;
    const tick = thing('Nobody is at the shaft', () => {
      ticked = !ticked;
      tick.setAttribute('aria-checked', String(ticked));
      present(tick.firstChild).nodeValue = ticked ? 'Confirmed' : 'Nobody is at the shaft';
    });
    draw(tick);
    tap();
    await seen();
    time += apart;
    tap();
    expect(ticked).toBe(true);
  });

  test('on a thing that stays as it is both count, whatever figure it shows; what stops is never deaf', async () => {
    const typed = jest.fn();
    const digit = thing('5', typed);
    draw(digit);
    tap();
    present(digit.firstChild).nodeValue = '6';
    await seen();
    time += apart;
    tap();
    expect(typed).toHaveBeenCalledTimes(2);
    const stopped = jest.fn();
    draw(thing('Stop and put back', stopped, { 'data-at-once': 'true' }));
    await seen();
    time += 10;
    tap();
    expect(stopped).toHaveBeenCalledTimes(1);
  });
});

test('what comes under the finger late, when its answer is there, is deaf from then on', async () => {
  const done = jest.fn();
  const waits = thing('Reading…', () => undefined);
  draw(waits);
  tap();
  time += 2000;
  draw(thing('Write 2 values', done));
  await seen();
  time += 300;
  tap();
  expect(done).not.toHaveBeenCalled();
});

test('a finger elsewhere, a page moved by hand and a key that goes on mean what they touch', async () => {
  const done = jest.fn();
  const next = () => draw(thing('Next', done));
  draw(thing('First', next));
  tap();
  await seen();
  tap(100, 300);
  expect(done).toHaveBeenCalledTimes(1);
  draw(thing('First', next));
  time += 10_000;
  tap();
  document.dispatchEvent(new Event('pointercancel'));
  tap();
  expect(done).toHaveBeenCalledTimes(2);
});

test('a key pressed twice does not do what the first press brought; Space ticks', async () => {
  const done = jest.fn();
  const first = thing('OK', () => (first.textContent = 'Undo this check'), { tabindex: '0' });
  first.addEventListener('click', done);
  draw(first);
  first.focus();
  fireEvent.click(first, { detail: 0 });
  await seen();
  time += 200;
  fireEvent.click(first, { detail: 0 });
  expect(done).toHaveBeenCalledTimes(1);
  const ticked = jest.fn();
  draw(thing('Screened', ticked, { role: 'checkbox', tabindex: '0' }));
  // whoever goes to it by keys means it
  fireEvent.keyDown(document.body, { key: 'Tab' });
  fireEvent.keyDown(under, { key: ' ' });
  expect(ticked).toHaveBeenCalledTimes(1);
});

test('a row beside the one just touched, which was there before, is touched at once', () => {
  const second = jest.fn();
  const [a, b] = [thing('Speed', () => undefined), thing('Current', second)];
  document.body.replaceChildren(a, b);
  fireEvent.click(a, { clientX: 100, clientY: 700, detail: 1 });
  time += 100;
  fireEvent.click(b, { clientX: 100, clientY: 735, detail: 1 });
  expect(second).toHaveBeenCalledTimes(1);
});

describe('a sheet that jumps by itself', () => {
  const own = globalThis.PerformanceObserver as unknown;
  let shifts: object[] = [];
  beforeEach(() => {
    shifts = [];
    class FakeObserver {
      static supportedEntryTypes = ['layout-shift'];
      observe(): void {}
      disconnect(): void {}
      takeRecords(): object[] {
        return shifts.splice(0);
      }
    }
    Object.assign(globalThis, { PerformanceObserver: FakeObserver });
    stop();
    stop = beDeafToSecondTouches(document, () => time);
  });
  afterEach(() => Object.assign(globalThis, { PerformanceObserver: own }));
  const shift = (by: number, hadRecentInput = false) =>
    shifts.push({ startTime: time, hadRecentInput, sources: [{ previousRect: { top: 100 }, currentRect: { top: 100 + by } }] });
  const drawSheet = (done: () => void, attributes: Record<string, string> = {}) => {
    draw(thing('Supply dip', done, attributes));
    document.body.setAttribute('data-sheet', 'true');
  };
  afterEach(() => document.body.removeAttribute('data-sheet'));

  test('takes no touch for a moment, and then takes it', () => {
    const done = jest.fn();
    drawSheet(done);
    shift(-71);
    time += 150;
    tap();
    expect(done).not.toHaveBeenCalled();
    time += 300;
    tap();
    expect(done).toHaveBeenCalledTimes(1);
  });

  test('that never comes to rest still takes a touch that is meant', () => {
    const done = jest.fn();
    drawSheet(done);
    for (const apart of [0, 150, 200]) {
      time += apart;
      expect(done).not.toHaveBeenCalled();
      shift(21);
      tap();
    }
    expect(done).toHaveBeenCalledTimes(1);
  });

  test.each([
    ['by a hair', () => shift(12), {}],
    ['because of a touch', () => shift(-71, true), {}],
    ['while somebody stops something', () => shift(-71), { 'data-at-once': 'true' }],
  ])('is touched at once when it moved %s', (_, move, attributes) => {
    const done = jest.fn();
    drawSheet(done, attributes);
    move();
    time += 50;
    tap();
    expect(done).toHaveBeenCalledTimes(1);
  });
});
