import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import pdfmake from 'pdfmake';
import type { Content, TableCell } from 'pdfmake/interfaces';
import type { DriveSettings } from '@yare/books';
import { drawingSvg, drawStrip, sourceSentences, stripOf, stripSections, type StripTerminal } from '@yare/commissioning';
import type { Wiring } from '@yare/contract';

// the server runs in the folder of the whole application, where its packages lie
const { resolve } = createRequire(join(process.cwd(), 'package.json'));
/** A font file of the application, by package, style and file. */
const font = (family: string, style: string, name: string) =>
  join(dirname(resolve(`@expo-google-fonts/${family}/package.json`)), style, `${name}_${style}.ttf`);

const next = (style: string) => font('atkinson-hyperlegible-next', style, 'AtkinsonHyperlegibleNext');
const mono = (style: string) => font('atkinson-hyperlegible-mono', style, 'AtkinsonHyperlegibleMono');
const fonts = {
  Next: { normal: next('400Regular'), bold: next('700Bold'), italics: next('400Regular'), bolditalics: next('700Bold') },
  Mono: { normal: mono('400Regular'), bold: mono('700Bold'), italics: mono('400Regular'), bolditalics: mono('700Bold') },
};
const own = new Set(Object.values(fonts).flatMap((f) => Object.values(f)));
pdfmake.addFonts(fonts);
// nothing but its own fonts is read, and nothing is fetched
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => own.has(path));

/** The machine a list is of. */
export interface ListedMachine {
  tag: string;
  name: string;
  site: string;
  area: string;
}

const atRest = (t: StripTerminal): string => (t.device ? `${t.device.device}, ${t.device.atRest} at rest` : '');

const rowOf = (t: StripTerminal, local: boolean): TableCell[] => [
  { text: t.id, font: 'Mono', bold: true },
  t.used ? t.job : { text: 'not used', color: '#666' },
  ...(local ? [t.localJob ?? ''] : []),
  t.device
    ? [
        { text: t.device.label, bold: true },
        { text: atRest(t), fontSize: 9, color: '#444' },
      ]
    : { text: t.range === t.job ? '' : t.range, color: '#444' },
  { text: t.code ?? '', font: 'Mono' },
  // for whoever pulls the wire: its number, and a tick
  '',
];

/** Points of a drawing on paper: an A4 page between its margins. */
const page = { width: 372, height: 700 };

/** The wiring list and the drawn strip on A4. */
export async function wiringList(m: ListedMachine, d: DriveSettings, wiring: Wiring, at: Date): Promise<Buffer> {
  const strip = stripOf(d, wiring);
  const tables = stripSections.flatMap(({ title, kinds }): Content[] => {
    const terminals = strip.filter((t) => kinds.includes(t.kind));
    if (terminals.length === 0) return [];
    const local = terminals.some((t) => t.localJob !== null);
    const names = ['Terminal', 'Job', ...(local ? ['In local'] : []), 'What hangs there', 'Setting', 'Wire'];
    const body = [names.map((text) => ({ text, bold: true, fontSize: 9 })), ...terminals.map((t) => rowOf(t, local))];
    const widths = [46, 110, ...(local ? [80] : []), '*', 44, 60];
    return [
      {
        unbreakable: true,
        stack: [
          { text: title, style: 'section' },
          { table: { headerRows: 1, widths, body }, layout: 'lightHorizontalLines' },
        ],
      },
    ];
  });
  const footer = (current: number, pages: number): Content => ({
    text: `${m.tag} ${m.name} · ${at.toISOString().slice(0, 10)} · page ${current} of ${pages}`,
    fontSize: 9,
    margin: [40, 8],
    color: '#444',
  });
  return pdfmake
    .createPdf({
      pageSize: 'A4',
      pageMargins: [40, 40, 40, 40],
      info: { title: `Wiring of ${m.tag}`, subject: m.name },
      defaultStyle: { font: 'Next', fontSize: 11 },
      styles: { section: { bold: true, fontSize: 13, margin: [0, 12, 0, 4] } },
      footer,
      content: [
        { text: `Wiring of ${m.tag} ${m.name}`, bold: true, fontSize: 18 },
        { text: `${m.site}, ${m.area} · ${d.book.family} ${d.size}`, margin: [0, 0, 0, 8] },
        ...sourceSentences(d).map(({ mode, sentence }): Content => ({ text: `${mode === 'remote' ? '' : `${mode}: `}${sentence}` })),
        ...tables,
        { text: 'The strip', style: 'section', pageBreak: 'before' },
        { svg: drawingSvg(drawStrip(strip), { plain: 'Next', bold: 'Next', code: 'Mono' }), fit: [page.width, page.height] },
      ],
    })
    .getBuffer();
}
