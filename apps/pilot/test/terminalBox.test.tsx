import { render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { otherConnection, present } from '@yare/core';
import { linksOf, TerminalBox } from '../src/features/plate/TerminalBox';
import { ThemeProvider } from '../src/ui/theme';
import { demoModel } from './demoModel';

const show = (node: ReactNode) => render(<ThemeProvider>{node}</ThemeProvider>);
const plate = demoModel('C-21').plate;
// halves of the windings by the spiral numbering of NEMA MG 1 part 2; in delta the corners T1, T2, T3 are joined inside
const halves = {
  star: ['T1 T4', 'T2 T5', 'T3 T6', 'T7 N', 'T8 N', 'T9 N'],
  delta: ['T1 T4', 'T7 T2', 'T2 T5', 'T8 T3', 'T3 T6', 'T9 T1'],
};

describe('the terminal box', () => {
  // NEMA MG 1 part 2, nine leads in star; IEC 60034-8, six leads (both from memory)
  test.each([
    [
      { leads: 9, joined: 'series' },
      [
        ['T4', 'T7'],
        ['T5', 'T8'],
        ['T6', 'T9'],
      ],
    ],
    [
      { leads: 9, joined: 'parallel' },
      [
        ['T4', 'T5'],
        ['T5', 'T6'],
        ['T7', 'T1'],
        ['T8', 'T2'],
        ['T9', 'T3'],
      ],
    ],
    [
      { leads: 6, connection: 'star' },
      [
        ['W2', 'U2'],
        ['U2', 'V2'],
      ],
    ],
    [
      { leads: 6, connection: 'delta' },
      [
        ['W2', 'U1'],
        ['U2', 'V1'],
        ['V2', 'W1'],
      ],
    ],
    [{ leads: 3 }, []],
  ] as const)('%p', (change, links) => {
    expect(linksOf({ ...plate, ...change }).links).toEqual(links);
  });
});

describe('nine leads and the other connection', () => {
  test.each([
    ['star', 'parallel', 6],
    ['star', 'series', 0],
    ['delta', 'parallel', 6],
    ['delta', 'series', 0],
  ] as const)('nine leads in %s, halves in %s: %i halves carry the whole volts, none is left open', (connection, joined, whole) => {
    const { links } = linksOf({ leads: 9, connection, joined });
    const joinedTo = (post: string): string[] => {
      const seen = [post];
      for (const at of seen) for (const l of links) if ((l as string[]).includes(at)) seen.push(...l.filter((x) => !seen.includes(x)));
      return seen.sort();
    };
    const points = halves[connection].map((half) => half.split(' ').map((p) => joinedTo(p)));
    const isLine = (point: string[]) => point.some((p) => ['T1', 'T2', 'T3'].includes(p));
    const isStar = (point: string[]) => point.includes('N') || ['T4', 'T5', 'T6'].every((p) => point.includes(p));
    expect(points.filter(([a, b]) => isLine(present(a)) && (connection === 'star' ? isStar(present(b)) : isLine(present(b))))).toHaveLength(whole);
    const open = points.flat().filter((p) => p.length === 1 && !['T1', 'T2', 'T3', 'N'].includes(present(p[0])));
    expect(open).toEqual([]);
  });

  test('the other connection: half the volts at twice the amperes, or √3 of them, and back again', () => {
    const nine = { ...plate, leads: 9, joined: 'series' } as const;
    expect(otherConnection(nine)).toEqual({ joined: 'parallel', voltage: 230, current: 7.8 });
    expect(otherConnection({ ...nine, joined: 'parallel', voltage: 230, current: 7.8 })).toEqual({ joined: 'series', voltage: 460, current: 3.9 });
    expect(otherConnection({ ...plate, leads: 6, connection: 'delta', voltage: 230, current: 8.04 })).toEqual({
      connection: 'star',
      voltage: 400,
      current: 4.64,
    });
    expect(otherConnection(plate)).toBeNull();
  });

  test('is drawn with its links in words', () => {
    show(<TerminalBox plate={{ ...plate, leads: 6, connection: 'delta' }} />);
    expect(screen.getByRole('img', { name: 'Delta: three links, each straight down.' })).toBeTruthy();
  });
});
