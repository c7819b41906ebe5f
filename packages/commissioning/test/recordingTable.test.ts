import { present } from '@yare/core';
import { readRecordingCsv } from '../src/process/recordingCsv';
import { guessColumns, headingOf, recordedOf } from '../src/recording';

describe('a table of another instrument', () => {
  const table = (lines: string[]) => {
    const read = readRecordingCsv(lines.join('\n'));
    if (!read.ok) throw new Error(read.sentence);
    return read.columns;
  };
  const rows = (of: (i: number) => string) => Array.from({ length: 40 }, (_, i) => of(i));

  test('headings tell names, units and what is what', () => {
    expect(headingOf('DC bus (V)')).toEqual({ name: 'DC bus', unit: 'V' });
    expect(headingOf('Current / A')).toEqual({ name: 'Current', unit: 'A' });
    expect(headingOf('Position')).toEqual({ name: 'Position', unit: '' });
    const columns = table(['t [ms];Motor current [A];Udc link [V];Vibration [mm/s]', ...rows((i) => `${i * 20};${i},5;${560 + i};0,${i}`)]);
    const { choices, timeUnit } = guessColumns(columns);
    expect(timeUnit).toBe('ms');
    expect(choices.map((c) => c.as)).toEqual(['time', 'motorCurrent', 'busVoltage', 'other']);
    const made = recordedOf(columns, choices, timeUnit, 'scope.csv');
    if (!made.ok) throw new Error(made.sentence);
    expect(made.recorded.time[2]).toBeCloseTo(0.04, 9);
    expect(made.recorded.channels[2]).toMatchObject({ key: 'vibration', name: 'Vibration', unit: 'mm/s' });
    expect(made.recorded.values[0]?.[3]).toBe(3.5);
  });

  test('our own file comes back with its marks', () => {
    const lines = rows((i) => `${(i / 10).toFixed(3)},${i}.00,${i === 4 ? 'Start | Trigger' : ''}`);
    const columns = table(['Time (s),Output (Hz),Mark', ...lines]);
    const { choices, timeUnit } = guessColumns(columns);
    expect(choices.map((c) => c.as)).toEqual(['time', 'outputFrequency', 'mark']);
    const made = recordedOf(columns, choices, timeUnit, 'x');
    expect(made.ok && made.recorded.marks).toEqual([
      { time: 0.4, label: 'Start' },
      { time: 0.4, label: 'Trigger' },
    ]);
  });

  const csv = (head: readonly string[], row: (i: number) => string): ReturnType<typeof readRecordingCsv> =>
    readRecordingCsv([...head, ...Array.from({ length: 30 }, (_, i) => row(i))].join('\n'));
  const column = (table: ReturnType<typeof readRecordingCsv>, k: number) => {
    if (!table.ok) throw new Error(table.sentence);
    return present(table.columns[k]);
  };
  test('a comma in quotes is a decimal sign where the other figures say so, and thousands where they do not', () => {
    const decimal = csv(['t,Hz'], (i) => `"${i},5","49,125"`);
    expect([column(decimal, 0).values[3], column(decimal, 1).values[3]]).toEqual([3.5, 49.125]);
    const thousands = csv(['t,W'], (i) => `${i}.5,"1,250"`);
    expect(column(thousands, 1).values[3]).toBe(1250);
    for (const told of [decimal, thousands]) expect(told).toMatchObject({ doubtful: null });
  });
  test('where no figure of the file says what a comma is, that is asked, and what is said counts', () => {
    const text = ['t,Hz,bar', ...Array.from({ length: 30 }, (_, i) => `${i},"49,125","4,120"`)].join('\n');
    const asked = readRecordingCsv(text);
    expect(asked).toMatchObject({ doubtful: '49,125' });
    expect(column(readRecordingCsv(text, true), 1).values[3]).toBe(49.125);
    expect(column(readRecordingCsv(text, false), 1).values[3]).toBe(49125);
  });
  test('offsets of ISO 8601, months before days over midnight, and half days', () => {
    const at = (i: number) => String(i).padStart(2, '0');
    expect(
      column(
        csv(['time;Hz'], (i) => `2026-03-14T07:05:${at(i)}+02:00;${i}`),
        0,
      ).startedAt,
    ).toBe(Date.UTC(2026, 2, 14, 5, 5));
    // 3/4 and 3/5 are days in a row only with the month first
    const night = csv(['time;Hz'], (i) => `03/0${i < 15 ? 4 : 5}/2026 ${i < 15 ? `23:59:${at(45 + i)}` : `00:00:${at(i - 15)}`};${i}`);
    expect(column(night, 0).startedAt).toBe(Date.UTC(2026, 2, 4, 23, 59, 45));
    expect(column(night, 0).values[29]).toBe(29);
    const noon = csv(['time;Hz'], (i) => `${i < 15 ? `11:59:${at(45 + i)} AM` : `12:00:${at(i - 15)} PM`};${i}`);
    expect(column(noon, 0).values[29]).toBe(29);
  });
  test('names in one line and units in the next are one heading', () => {
    const table = csv(['Time;Output;Motor current', '[s];[Hz];[A]'], (i) => `${i};${i};${i / 10}`);
    if (!table.ok) throw new Error(table.sentence);
    expect(table.columns.map((c) => c.name)).toEqual(['Time [s]', 'Output [Hz]', 'Motor current [A]']);
    expect(guessColumns(table.columns).choices.map((c) => [c.as, c.unit])).toEqual([
      ['time', 's'],
      ['outputFrequency', 'Hz'],
      ['motorCurrent', 'A'],
    ]);
  });
  test('a date tells when it began; a gap stays a gap', () => {
    const columns = table(['When,Bus (V)', ...rows((i) => `2026-03-14 07:00:${String(i).padStart(2, '0')},${i === 7 ? '' : 560}`)]);
    const { choices, timeUnit } = guessColumns(columns);
    const made = recordedOf(columns, choices, timeUnit, 'x');
    if (!made.ok) throw new Error(made.sentence);
    expect(made.recorded.startedAt).toBe(Date.UTC(2026, 2, 14, 7));
    expect(made.recorded.values[0]?.[7]).toBeNaN();
  });

  test('what cannot be a recording says why', () => {
    const columns = table(['t,a', ...rows((i) => `${i === 20 ? 3 : i},1`)]);
    const back = recordedOf(
      columns,
      [
        { as: 'time', name: 't', unit: 's' },
        { as: 'motorCurrent', name: 'a', unit: 'A' },
      ],
      's',
      'x',
    );
    expect(back.ok ? '' : back.sentence).toMatch(/Time goes back in line 21/);
    const none = recordedOf(columns, [{ as: 'nothing', name: 't', unit: '' }], 's', 'x');
    expect(none.ok ? '' : none.sentence).toBe('Choose the column that is the time.');
  });
});
