import '@yare/books/all';
import {
  settingsFromCsv,
  settingsFromFile,
  settingsFromJson,
  settingsToCsv,
  settingsToJson,
  type FileReading,
  type FileValue,
} from '../src/settingsFile';
import { present } from '@yare/core';
import { harmlessCell, textOfCell } from '../src/csv';
import Ajv from 'ajv';
import fc from 'fast-check';
import { SettingsFile } from '@yare/contract';
import { bookById, DriveSettings } from '@yare/books';

const factory = new DriveSettings(bookById('osier-g'), 'G2.2', {}, 60);
const head = { tag: 'C-21', settings: factory };
const settings = factory.all.filter((s) => s.access !== 'read');
const values: FileValue[] = settings.map((s, i) => ({
  code: s.code,
  value: factory.factory(s),
  source: i % 2 === 0 ? 'factory' : 'worked out',
  author: i % 3 === 0 ? 'Ines "the pump" Calder, day shift' : 'Tom Reed',
  at: '2026-11-23T10:00:00.000Z',
}));
const faultsOf = (r: FileReading) => (r.ok ? [] : r.faults);

test('out and in again gives the same sheet, by CSV and by JSON, whoever wrote it', () => {
  expect(settingsFromCsv(head, settingsToCsv(head, values))).toEqual({ ok: true, values });
  expect(settingsFromJson(head, settingsToJson(head, values))).toEqual({ ok: true, values });
  fc.assert(
    fc.property(fc.string({ maxLength: 40 }), fc.double({ min: 0.1, max: 3600, noNaN: true }), (author, seconds) => {
      const changed = values.map((v) => (v.code === '3a' ? { ...v, value: seconds, author: author.trim() } : v));
      for (const text of [settingsToCsv(head, changed), settingsToJson(head, changed)])
        expect(settingsFromFile(head, text)).toEqual({ ok: true, values: changed });
    }),
    { numRuns: 40 },
  );
});

test('the JSON keeps the published schema', () => {
  const validate = new Ajv({ allErrors: true }).compile(SettingsFile);
  validate(JSON.parse(settingsToJson(head, values)));
  expect(validate.errors).toBeNull();
});

test('a sheet from a spreadsheet that writes semicolons and decimal commas is read', () => {
  const text = 'Code;Name;Value;Unit;Source;Author;Time\n3a;Acceleration time;4,5;s;chosen;Tom Reed;\n';
  expect(settingsFromCsv(head, text)).toMatchObject({ ok: true, values: [{ code: '3a', value: 4.5 }] });
});

describe('a damaged file is told by its line, and gives nothing', () => {
  const csv = settingsToCsv(head, values).split('\r\n');
  const json = settingsToJson(head, values);
  const row = (code: string) => csv.findIndex((l) => l.startsWith(`${code},`));
  const withLine = (code: string, change: (line: string) => string) => csv.map((l, i) => (i === row(code) ? change(l) : l)).join('\n');
  const jsonLine = (text: string, mark: string) => text.slice(0, text.indexOf(mark)).split('\n').length;
  test.each([
    ['no column names', csv.slice(1).join('\n'), 1, 'The first line must name the columns'],
    ['a code this drive has not got', withLine('3a', (l) => l.replace('3a', '77x')), row('3a') + 1, 'has no setting "77x"'],
    ['a word for a figure', withLine('3a', (l) => l.replace(',10,', ',ten,')), row('3a') + 1, '"ten" is not a number'],
    ['out of range', withLine('3a', (l) => l.replace(',10,', ',99999,')), row('3a') + 1, '99999 s is outside'],
    ['another unit', withLine('3a', (l) => l.replace(',s,', ',min,')), row('3a') + 1, 'is counted in s, not in "min"'],
    ['a line that ends too soon', withLine('3a', () => '3a,Acceleration time,10'), row('3a') + 1, 'ends too soon'],
    ['a setting twice', [...csv, csv[row('3a')]].join('\n'), csv.length + 1, `stands already in line ${row('3a') + 1}`],
    ['a contradiction', withLine('2a', (l) => l.replace(',0,', ',70,')), row('2a') + 1, 'must not exceed maximum frequency'],
    ['an unknown source', withLine('3a', (l) => l.replace(/factory|worked out/, 'hearsay')), row('3a') + 1, '"hearsay" is not a source'],
    ['nothing in it', present(csv[0]), 1, 'holds no settings'],
  ])('CSV: %s', (_name, text, line, sentence) => {
    const faults = faultsOf(settingsFromFile(head, text));
    expect(faults[0]).toEqual({ line, sentence: expect.stringContaining(sentence) });
  });
  test('CSV: a quotation mark that never closes', () => {
    expect(
      present(
        faultsOf(
          settingsFromFile(
            head,
            withLine('3a', (l) => `${l},"open`),
          ),
        )[0],
      ).sentence,
    ).toContain('quotation mark');
  });
  test.each([
    ['cut short', json.slice(0, json.indexOf('"3b"')), jsonLine(json, '"3b"'), 'cut short or damaged'],
    ['another format', '{\n  "format": "something else"\n}', 1, 'not a yare settings sheet'],
    ['a later edition', json.replace('"edition": 1', '"edition": 9'), 3, 'Edition 9'],
    ['another family', json.replace('"book": "osier-g"', '"book": "withy"'), 5, 'for drive book "withy"'],
    ['a text for a figure', json.replace(/("code": "3a",\n.*\n\s*"value": )[\d.]+/, '$1"soon"'), jsonLine(json, '"3a"'), '"soon" is not a number'],
    ['out of range', json.replace(/("code": "3a",\n.*\n\s*"value": )[\d.]+/, '$1-4'), jsonLine(json, '"3a"'), '-4 s is outside'],
  ])('JSON: %s', (_name, text, line, sentence) => {
    expect(faultsOf(settingsFromFile(head, text))[0]).toEqual({ line, sentence: expect.stringContaining(sentence) });
  });
  test('all faults are told at once', () => {
    const text = csv.map((l, i) => (i === row('3a') || i === row('4b') ? l.replace(/,[\d.]+,/, ',much,') : l)).join('\n');
    expect(faultsOf(settingsFromFile(head, text)).map((f) => f.line)).toEqual([row('3a') + 1, row('4b') + 1]);
  });
});

test('words a spreadsheet would work out go out harmless and come back as they were; figures are left alone', () => {
  for (const text of ['=1+1', '+cmd', '-cmd', '@SUM(A1)', "'=quoted", 'Ines Calder', "O'Hara", '']) {
    const cell = harmlessCell(text);
    expect(cell).not.toMatch(/^[=+\-@]/);
    expect(textOfCell(cell)).toBe(text);
  }
  for (const figure of ['-3.2', '+5', '1e-9', '42']) expect(harmlessCell(figure)).toBe(figure);
});
