import { act, renderHook } from '@testing-library/react';
import type { ZoomTransform } from 'd3-zoom';
import { present } from '@yare/core';
import type { Pane } from '../src/ui/chart/pane';
import { placed } from '../src/ui/chart/PaneDrawing';
import { beyond, useZoom } from '../src/ui/chart/useFrame';
import { linePath, paneDomain, scaleFor, sideLabel } from '../src/ui/chart/scale';

// the hand on the chart
let mockHand: ((t: ZoomTransform, rests: boolean) => void) | null = null;
jest.mock('../src/ui/chart/zoomBehaviour', () => ({
  zoomOn: (_node: unknown, _left: number, _right: number, _height: number, onZoom: typeof mockHand) => {
    mockHand = onZoom;
    return { by: jest.fn(), shift: jest.fn(), fit: jest.fn(), end: jest.fn() };
  },
}));

const pane = (values: number[], more: Partial<Pane> = {}): Pane => ({
  key: 'v',
  name: 'DC bus',
  unit: 'V',
  decimals: 0,
  series: [{ time: values.map((_, i) => i), values }],
  ...more,
});

test('the y-axis fits what is seen, not what is outside the window', () => {
  const [low] = paneDomain(pane([0, 0, 10, 12, 11, 900]), 1.5, 3);
  expect(low).toBeLessThanOrEqual(0);
  expect(paneDomain(pane([0, 0, 10, 12, 11, 900]), 1.5, 3)[1]).toBeLessThan(20);
});

test('a limit is taken in when the data comes near it, and left out when it is far', () => {
  const limits = [{ value: 800, label: 'trips at 800', side: 'above' as const }];
  expect(paneDomain(pane([560, 740], { limits }), 0, 1)[1]).toBeGreaterThan(800);
  expect(paneDomain(pane([560, 570], { limits }), 0, 1)[1]).toBeLessThan(800);
});

test('a flat line still has a span, and an empty pane an axis', () => {
  const [low, high] = paneDomain(pane([566, 566], { leastSpan: 60 }), 0, 1);
  expect(high - low).toBeGreaterThanOrEqual(60);
  expect(low).toBeLessThan(566);
  expect(paneDomain(pane([]), 0, 1)[1]).toBeGreaterThan(paneDomain(pane([]), 0, 1)[0]);
});

test('a path of many samples keeps its peak and stays short', () => {
  const values = Array.from({ length: 50_000 }, (_, i) => (i === 31_234 ? 1000 : 0));
  const x = scaleFor([0, 50_000], [50, 376]);
  const y = scaleFor([0, 1000], [100, 0]);
  const path = linePath({ time: values.map((_, i) => i), values }, x, y);
  expect(path).toMatch(/,0(L|$)/);
  expect(path.length).toBeLessThan(30_000);
});

test('where nothing was measured a line has a gap, and no line across it', () => {
  const time = [0, 1, 2, 3, 4, 5];
  const path = linePath({ time, values: [1, 2, NaN, NaN, 2, 1] }, scaleFor([0, 5], [0, 100]), scaleFor([0, 2], [50, 0]));
  expect(path.match(/M/g)).toHaveLength(2);
  expect(paneDomain(pane([1, NaN, 3]), 0, 2)[1]).toBeGreaterThan(3);
});

test('a long line is drawn and measured by its blocks, for the pixels there are', () => {
  const asked: number[][] = [];
  const quick = {
    drawn: (from: number, to: number, pixels: number) => {
      asked.push([from, to, pixels]);
      return { time: [from, to], value: [4, 6] };
    },
    extent: (): [number, number] => [4, 6],
  };
  const long = { time: [0, 1], values: [0, 0], quick };
  expect(paneDomain({ ...pane([]), series: [long] }, 10, 20)).toEqual([3.88, 6.12]);
  expect(linePath(long, scaleFor([10, 20], [50, 250]), scaleFor([4, 6], [100, 0]))).toBe('M50,100L250,0');
  expect(asked).toEqual([[10, 20, 200]]);
});

test('panes stand under one another, each with the axis of what is in sight', () => {
  const [first, second] = placed([pane([0, 10, 0]), pane([500, 900, 500])], 60, 0, 2);
  expect(present(second).top).toBeGreaterThan(present(first).bottom);
  expect(present(first).bottom - present(first).top).toBe(60);
  expect(present(second).y(900)).toBeLessThan(present(second).y(500));
});

describe('panning', () => {
  const [left, right] = [50, 450];
  const hand = (k: number, x: number, rests = false) => act(() => present(mockHand)({ k, x, y: 0 } as ZoomTransform, rests));
  const frame = { current: document.createElement('div') };
  const layer = document.createElement('div');
  const start = () => {
    const hook = renderHook(() => useZoom(frame, true, left, right, 200));
    hook.result.current.layer(layer);
    return hook.result;
  };

  test('nothing is drawn beyond the edges of what is not zoomed, and half a window of what is', () => {
    expect(beyond({ k: 1, shift: 0 }, left, right)).toBe(0);
    expect(beyond({ k: 3, shift: -90 }, left, right)).toBe(200);
  });

  test('what is only panned is moved as it is, and drawn anew once the hand rests', () => {
    const zoom = start();
    hand(4, -300);
    expect(zoom.current.zoomed).toEqual({ k: 4, shift: -300 });
    expect(layer.style.transform).toBe('translateX(0px)');
    hand(4, -340);
    expect(zoom.current.zoomed.shift).toBe(-300);
    expect(layer.style.transform).toBe('translateX(-40px)');
    hand(4, -340, true);
    expect(zoom.current.zoomed.shift).toBe(-340);
    expect(layer.style.transform).toBe('translateX(0px)');
  });

  test('what was drawn beyond the edge is used up: it is drawn anew on the way', () => {
    const zoom = start();
    hand(4, -300);
    hand(4, -479);
    expect(zoom.current.zoomed.shift).toBe(-300);
    hand(4, -481);
    expect(zoom.current.zoomed.shift).toBe(-481);
    expect(layer.style.transform).toBe('translateX(0px)');
  });

  test('another zoom is always drawn anew', () => {
    const zoom = start();
    hand(4, -300);
    hand(4.1, -305);
    expect(zoom.current.zoomed).toEqual({ k: 4.1, shift: -305 });
  });
});

test('a label beside a pane has room for its figure: from ten thousand on it is told in thousands', () => {
  expect([4500, -0.5, 62_000, 60_500, -86_000, 1_500_000].map((x, i) => sideLabel(x, [500, 0.5, 2000, 500, 2000, 5e5][i] ?? 1))).toEqual([
    '4500',
    '−0.5',
    '62k',
    '60.5k',
    '−86k',
    '1.5M',
  ]);
});
