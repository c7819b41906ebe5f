import { say } from '@yare/words/command';
import type { StripTerminal } from './strip';
import { stripSections } from './strip';

/** What a strip is drawn of, so that screen and paper draw the same. Lengths in points of a drawing {@link drawingWidth} wide. */
export type Mark =
  | {
      kind: 'line';
      x1: number;
      y1: number;
      x2: number;
      y2: number;
      input?: number;
      output?: number;
      /** a contact's moving part: straight across while it is closed */ lever?: true;
    }
  | { kind: 'box'; x: number; y: number; width: number; height: number; input?: number; output?: number }
  | { kind: 'circle'; x: number; y: number; r: number }
  | {
      kind: 'text';
      x: number;
      y: number;
      size: number;
      text: string;
      anchor: 'start' | 'middle' | 'end';
      weight: 'plain' | 'bold' | 'code';
      soft?: true;
    };

export interface Drawing {
  width: number;
  height: number;
  marks: Mark[];
}

export const drawingWidth = 372;
const row = 40;
const head = 34;
/** Left of the contact, the contact itself, the terminal, its job. */
const x = { label: 6, contact: 150, open: 172, wire: 196, box: 206, boxWidth: 46, job: 260 } as const;
const longest = { label: 19, job: 17 } as const;

const short = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most - 1)}…` : text);

/** A contact as IEC 60617 draws it: open or closed at rest, with the stroke of a push button. */
function contact(y: number, atRest: 'open' | 'closed', button: boolean, input: number): Mark[] {
  const lever: Mark = { kind: 'line', x1: x.contact, y1: y, x2: x.open, y2: atRest === 'open' ? y - 9 : y - 5, input, lever: true };
  const stop: Mark[] = atRest === 'closed' ? [{ kind: 'line', x1: x.open, y1: y - 8, x2: x.open, y2: y }] : [];
  const plunger: Mark[] = button
    ? [
        { kind: 'line', x1: x.contact + 11, y1: y - 5, x2: x.contact + 11, y2: y - 14 },
        { kind: 'line', x1: x.contact + 6, y1: y - 14, x2: x.contact + 16, y2: y - 14 },
      ]
    : [];
  return [
    { kind: 'line', x1: x.contact - 12, y1: y, x2: x.contact, y2: y, input },
    lever,
    ...stop,
    ...plunger,
    { kind: 'line', x1: x.open, y1: y, x2: x.box, y2: y, input },
  ];
}

function terminalMarks(t: StripTerminal, y: number): Mark[] {
  const middle = y + row / 2;
  const lamp = { ...(t.input !== null && { input: t.input }), ...(t.output !== null && { output: t.output }) };
  const job = t.used ? t.job : say.notUsed2;
  const out: Mark[] = [
    { kind: 'box', x: x.box, y: y + 6, width: x.boxWidth, height: row - 12, ...lamp },
    { kind: 'text', x: x.box + x.boxWidth / 2, y: middle + 5, size: 14, text: t.id, anchor: 'middle', weight: 'code' },
    {
      kind: 'text',
      x: x.job,
      y: t.localJob ? middle - 3 : middle + 5,
      size: 14,
      text: short(job, longest.job),
      anchor: 'start',
      weight: 'bold',
      ...(!t.used && { soft: true }),
    },
  ];
  if (t.localJob)
    out.push({
      kind: 'text',
      x: x.job,
      y: middle + 13,
      size: 13,
      text: short(say.local2({ localJob: t.localJob }), longest.job),
      anchor: 'start',
      weight: 'plain',
      soft: true,
    });
  if (t.device && t.input !== null)
    out.push(
      { kind: 'text', x: x.label, y: middle + 5, size: 14, text: short(t.device.label, longest.label), anchor: 'start', weight: 'plain' },
      ...contact(middle, t.device.atRest, t.device.device === 'push button', t.input),
    );
  else if (t.kind !== 'digital in' && t.kind !== 'power')
    out.push({ kind: 'text', x: x.label, y: middle + 5, size: 13, text: short(t.range, 28), anchor: 'start', weight: 'plain', soft: true });
  else if (t.kind === 'power') out.push({ kind: 'line', x1: x.wire - 20, y1: middle, x2: x.box, y2: middle });
  return out;
}

/** The strip drawn: a terminal a row, in the order of its sections. */
export function drawStrip(strip: readonly StripTerminal[]): Drawing {
  const marks: Mark[] = [];
  let y = 0;
  for (const section of stripSections) {
    const terminals = strip.filter((t) => section.kinds.includes(t.kind));
    if (terminals.length === 0) continue;
    marks.push(
      { kind: 'text', x: x.label, y: y + 22, size: 14, text: section.title, anchor: 'start', weight: 'bold' },
      { kind: 'line', x1: 0, y1: y + head - 4, x2: drawingWidth, y2: y + head - 4 },
    );
    y += head;
    for (const t of terminals) {
      marks.push(...terminalMarks(t, y));
      y += row;
    }
  }
  return { width: drawingWidth, height: y + 6, marks };
}

const escape = (text: string): string => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);

/** The drawing as SVG, for paper. @param fonts family of plain, bold and code text */
export function drawingSvg({ width, height, marks }: Drawing, fonts: Readonly<Record<'plain' | 'bold' | 'code', string>>): string {
  const body = marks.map((m) => {
    switch (m.kind) {
      case 'line':
        return `<line x1="${m.x1}" y1="${m.y1}" x2="${m.x2}" y2="${m.y2}" stroke="#222" stroke-width="1"/>`;
      case 'box':
        return `<rect x="${m.x}" y="${m.y}" width="${m.width}" height="${m.height}" fill="none" stroke="#222" stroke-width="1.2"/>`;
      case 'circle':
        return `<circle cx="${m.x}" cy="${m.y}" r="${m.r}" fill="none" stroke="#222"/>`;
      case 'text':
        return `<text x="${m.x}" y="${m.y}" font-size="${m.size}" text-anchor="${m.anchor}" font-family="${fonts[m.weight]}" fill="${m.soft ? '#666' : '#111'}">${escape(m.text)}</text>`;
    }
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${body.join('')}</svg>`;
}
