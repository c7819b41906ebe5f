import type { RecorderTrigger } from '@yare/contract';
import { present } from '@yare/core';
import { readRecordingCsv } from '@yare/commissioning/recordingCsv';
import {
  alignedBy,
  comtradeFile,
  comtradeOf,
  drawnOf,
  eventsOf,
  extentOf,
  fires,
  guessColumns,
  headingOf,
  pyramidOf,
  readComtrade,
  recordedOf,
  recordingFrom,
  statisticsOf,
  triggerText,
  type Recorded,
  type TriggerSample,
} from '@yare/commissioning/recording';

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const bytes = (words: string) => new TextEncoder().encode(words);

/** A run of 2 s: up to 50 Hz in half a second, down in half a second. */
const run = (): Recorded => {
  const time = Array.from({ length: 101 }, (_, i) => i / 50);
  return {
    ...{ title: 'Hold to run at 50 Hz', startedAt: Date.UTC(2026, 2, 14, 7, 5, 9, 120), time },
    channels: [
      { key: 'outputFrequency', name: 'Output', unit: 'Hz', decimals: 2 },
      { key: 'motorCurrent', name: 'Motor', unit: 'A', decimals: 1 },
      { key: 'busVoltage', name: 'DC bus', unit: 'V', decimals: 0 },
    ],
    values: [
      time.map((t) => (t < 0.2 ? 0 : t < 0.7 ? 100 * (t - 0.2) : t < 1.2 ? 50 : Math.max(0, 50 - 100 * (t - 1.2)))),
      time.map((t) => (t < 0.2 ? 0 : t < 0.7 ? 21.5 : 12.4)),
      time.map((t) => 565 + (t > 1.2 && t < 1.7 ? Math.round(150 * (t - 1.2)) : 0)),
    ],
    marks: [
      { time: 0.2, label: 'Start' },
      { time: 1.2, label: 'Let go' },
    ],
  };
};

describe('COMTRADE, IEEE C37.111-2013', () => {
  test('the configuration stands line by line as clause 7.4 orders it', () => {
    const { cfg, dat } = comtradeOf(run(), 'P-11', 'ASCII');
    const lines = cfg.split('\r\n');
    // 7.4.1 station, device, revision; 7.4.2 number of channels, those measured, those of bits
    expect(lines[0]).toBe('P-11,Hold to run at 50 Hz,2013');
    expect(lines[1]).toBe('5,3A,2D');
    // 7.4.3 An,ch_id,ph,ccbm,uu,a,b,skew,min,max,primary,secondary,PS
    expect(lines[2]).toBe('1,Output,,outputFrequency,Hz,0.01,0,0,0,5000,1,1,P');
    expect(lines[4]).toBe('3,DC bus,,busVoltage,V,1,0,0,565,637,1,1,P');
    // 7.4.4 Dn,ch_id,ph,ccbm,y
    expect(lines[5]).toBe('1,Start,,,0');
    // 7.4.5 line frequency; 7.4.6 no rate, and the number of the last sample
    expect(lines.slice(7, 10)).toEqual(['0', '0', '0,101']);
    // 7.4.7 first sample and trigger; 7.4.8 form; 7.4.9 multiplier; 7.4.10 and 7.4.11
    expect(lines.slice(10, 16)).toEqual(['14/03/2026,07:05:09.120000', '14/03/2026,07:05:09.320000', 'ASCII', '1', '0,0', '0,0']);
    // 8.4: number, µs, measured, bits
    expect(text(dat).split('\r\n')[10]).toBe('11,200000,0,215,565,1,0');
  });

  test('a two-byte sample is number, time stamp, counts and words of sixteen bits, little end first (8.6)', () => {
    const { cfg, dat } = comtradeOf(run(), 'P-11', 'BINARY');
    expect(cfg).toContain('\r\nBINARY\r\n');
    const size = 4 + 4 + 3 * 2 + 2;
    expect(dat).toHaveLength(101 * size);
    expect([...dat.subarray(10 * size, 11 * size)]).toEqual([11, 0, 0, 0, 0x40, 0x0d, 0x03, 0, 0, 0, 215, 0, 0x35, 0x02, 1, 0]);
  });

  test.each(['ASCII', 'BINARY'] as const)('what is written as %s is read back without loss', (form) => {
    const r = run();
    const read = readComtrade([{ name: 'p11.cff', bytes: comtradeFile(r, 'P-11', form) }]);
    if (!read.ok) throw new Error(read.sentence);
    expect(read.recorded.channels).toEqual(r.channels);
    expect(read.recorded.startedAt).toBe(r.startedAt);
    expect(read.recorded.marks).toEqual(r.marks);
    r.values.forEach((row, k) => {
      Array.from(row).forEach((v, i) => expect(read.recorded.values[k]?.[i]).toBeCloseTo(v, 6));
    });
    expect(Array.from(read.recorded.time)[100]).toBeCloseTo(2, 9);
  });

  test('what is not measured is told so, and figures too large for two bytes lose no more than their 65,000th part', () => {
    const r: Recorded = { ...run(), time: [0, 0.5, 1], marks: [], channels: [{ key: 'power', name: 'Power', unit: 'W', decimals: 1 }] };
    const written = comtradeFile({ ...r, values: [[10, NaN, 250_000]] }, 'P-11', 'BINARY');
    const read = readComtrade([{ name: 'a.CFF', bytes: written }]);
    if (!read.ok) throw new Error(read.sentence);
    const [first, gap, last] = Array.from(read.recorded.values[0] ?? []);
    expect(gap).toBeNaN();
    expect(Math.abs(present(first) - 10)).toBeLessThan(250_000 / 65_000);
    expect(Math.abs(present(last) - 250_000)).toBeLessThan(250_000 / 65_000);
  });

  test('an hour and more has a multiplier, so that its stamps fit four bytes (7.4.9)', () => {
    const r = { ...run(), time: [0, 5000], values: run().values.map((v) => [v[0]!, v[1]!]), marks: [] };
    const { cfg } = comtradeOf(r, 'P-11', 'BINARY');
    expect(cfg.split('\r\n').at(-4)).toBe('10');
    const read = readComtrade([{ name: 'a.cff', bytes: comtradeFile(r, 'P-11', 'BINARY') }]);
    expect(read.ok && Array.from(read.recorded.time)).toEqual([0, 5000]);
  });

  // laid out by hand after the standard: two rates, a phase, secondary values, a bit that comes and goes
  const cfg = [
    'NORTH, RELAY 7 ,1999',
    '3,2A,1D',
    '1,IA,A,Line,kA,0.5,-1,0,-32767,32767,400,1,S',
    '2,Udc,,,V,0.25,0,0,-32767,32767,1,1,P',
    '1,Trip coil,,,0',
    '50',
    '2',
    '1000,2',
    '500,4',
    '05/11/2025,10:00:00.000000',
    '05/11/2025,10:00:00.003000',
    'ascii',
    '1',
    '',
  ].join('\r\n');

  test('a pair of files of another program: rates, offset and scale, the bit as a mark where it comes on', () => {
    const dat = ['1,0,2,4,0', '2,1000,4,8,0', '3,3000,,12,1', '4,5000,8,16,0', '\x1a'].join('\r\n');
    const read = readComtrade([
      { name: 'N.CFG', bytes: bytes(cfg) },
      { name: 'N.DAT', bytes: bytes(dat) },
    ]);
    if (!read.ok) throw new Error(read.sentence);
    expect(Array.from(read.recorded.time)).toEqual([0, 0.001, 0.003, 0.005]);
    // a current transformer of 400 to 1: what flows on its primary (7.4.3)
    expect(Array.from(read.recorded.values[0] ?? [])).toEqual([0, 400, NaN, 1200]);
    expect(Array.from(read.recorded.values[1] ?? [])).toEqual([1, 2, 3, 4]);
    expect(read.recorded.marks).toEqual([{ time: 0.003, label: 'Trip coil' }]);
    expect(read.recorded.startedAt).toBe(Date.UTC(2025, 10, 5, 10));
  });

  test.each([
    ['BINARY32', (v: DataView, at: number, count: number) => v.setInt32(at, count, true), -0x80000000],
    ['FLOAT32', (v: DataView, at: number, count: number) => v.setFloat32(at, count, true), NaN],
  ] as const)('four bytes a sample as %s, with a word of bits behind them and a time stamp that is missing', (form, put, nothing) => {
    const size = 8 + 2 * 4 + 2;
    const view = new DataView(new ArrayBuffer(4 * size));
    const samples = [
      [0, 100_000, 7],
      [1000, nothing, 8],
      [0xffffffff, 1, 9],
      [3000, -100_000, 10],
    ] as const;
    samples.forEach(([stamp, a, b], i) => {
      view.setUint32(i * size, i + 1, true);
      view.setUint32(i * size + 4, stamp, true);
      put(view, i * size + 8, a);
      put(view, i * size + 12, b);
      view.setUint16(i * size + 16, i === 3 ? 1 : 0, true);
    });
    // no rate: the stamps tell the time (7.4.6)
    const unpaced = cfg.replace('2\r\n1000,2\r\n500,4', '0\r\n0,4').replace('ascii', form);
    const read = readComtrade([
      { name: 'n.cfg', bytes: bytes(unpaced) },
      { name: 'n.dat', bytes: new Uint8Array(view.buffer) },
    ]);
    if (!read.ok) throw new Error(read.sentence);
    expect(Array.from(read.recorded.time)).toEqual([0, 0.001, 0.003]);
    expect(read.skipped).toBe(1);
    expect(Array.from(read.recorded.values[0] ?? [])).toEqual([400 * 49_999, NaN, 400 * -50_001]);
    expect(Array.from(read.recorded.values[1] ?? [])).toEqual([1.75, 2, 2.5]);
    expect(read.recorded.marks).toEqual([{ time: 0.003, label: 'Trip coil' }]);
  });

  test('the standard of 1991 has no year in its first line, and the month before the day', () => {
    const old = cfg.replace('NORTH, RELAY 7 ,1999', 'NORTH,RELAY 7').replaceAll('05/11/2025', '11/05/25');
    const read = readComtrade([
      { name: 'n.cfg', bytes: bytes(old) },
      { name: 'n.dat', bytes: bytes('1,0,2,4,0\r\n2,1000,4,8,0') },
    ]);
    expect(read.ok && read.recorded.startedAt).toBe(Date.UTC(2025, 10, 5, 10));
    expect(read.ok && read.recorded.title).toBe('NORTH: RELAY 7');
    // nothing came on: the moment it was triggered is the mark
    const long = ['1,0,2,4,0', '2,1000,4,8,0', '3,3000,4,8,0', '4,5000,4,8,0'].join('\r\n');
    const whole = readComtrade([
      { name: 'n.cfg', bytes: bytes(old) },
      { name: 'n.dat', bytes: bytes(long) },
    ]);
    expect(whole.ok && whole.recorded.marks).toEqual([{ time: 0.003, label: 'Trigger' }]);
  });

  test('nanoseconds, local time, skew and the missing figure of 1991 are heeded', () => {
    const read = (config: string, dat: string) => {
      const r = readComtrade([
        { name: 'n.cfg', bytes: bytes(config) },
        { name: 'n.dat', bytes: bytes(dat) },
      ]);
      if (!r.ok) throw new Error(r.sentence);
      return r.recorded;
    };
    const unpaced = cfg.replace('2\r\n1000,2\r\n500,4', '0\r\n0,4');
    const dat = ['1,0,2,4,0', '2,1000,4,8,0', '3,2000,6,12,0'].join('\r\n');
    const fine = unpaced
      .replace(',1999', ',2013')
      .replace('10:00:00.000000', '10:00:00.000000000')
      .replace('ascii\r\n1\r\n', 'ascii\r\n1\r\n-5h30,-5h30\r\n');
    expect(Array.from(read(fine, dat).time)).toEqual([0, 1e-6, 2e-6]);
    expect(read(fine, dat).startedAt).toBe(Date.UTC(2025, 10, 5, 15, 30));
    // 500 µs late: between its own samples by a straight line, the first as it stands
    const late = unpaced.replace('kA,0.5,-1,0,', 'kA,0.5,-1,500,').replace('400,1,S', '1,1,P');
    expect(Array.from(read(late, dat).values[0] ?? [])).toEqual([0, 0.5, 1.5]);
    const old = unpaced.replace('NORTH, RELAY 7 ,1999', 'NORTH,RELAY 7').replace('400,1,S', '1,1,P');
    expect(Array.from(read(old, dat.replace('1000,4,', '1000,99999,')).values[0] ?? [])).toEqual([0, NaN, 2]);
  });

  test('what lasts for a second and a half lasts as long when it comes back', () => {
    const r: Recorded = {
      ...run(),
      marks: [
        { time: 0.2, label: 'Brake' },
        { time: 1.7, label: 'Brake ends' },
      ],
    };
    for (const form of ['ASCII', 'BINARY'] as const) {
      const read = readComtrade([{ name: 'p11.cff', bytes: comtradeFile(r, 'P-11', form) }]);
      if (!read.ok) throw new Error(read.sentence);
      expect(read.recorded.marks.map((m) => [Number(m.time.toFixed(3)), m.label])).toEqual([
        [0.2, 'Brake'],
        [1.7, 'Brake ends'],
      ]);
    }
  });

  test.each([
    [[{ name: 'a.cfg', bytes: bytes(cfg) }], /the \.dat file beside it\. Choose both/],
    [[{ name: 'a.dat', bytes: bytes('1,0,1') }], /the \.cfg file beside it/],
    [[{ name: 'a.cff', bytes: bytes('hello') }], /no part with a configuration/],
    [
      [
        { name: 'a.cfg', bytes: bytes('x,y,1999\r\nthree channels') },
        { name: 'a.dat', bytes: bytes('1,0,1') },
      ],
      /Line 2 of the configuration/,
    ],
    [
      [
        { name: 'a.cfg', bytes: bytes(cfg) },
        { name: 'a.dat', bytes: bytes('1,0,2,4,0\r\n2,1000,4') },
      ],
      /Line 2 of the data has 3 fields.*should be 5/,
    ],
    [
      [
        { name: 'a.cfg', bytes: bytes(cfg.replace('0.5,-1', 'half,-1')) },
        { name: 'a.dat', bytes: bytes('1,0,2,4,0') },
      ],
      /Line 3 of the configuration: the multiplier should be a figure and is "half"/,
    ],
    // counts no file of this size can hold: nothing is made of them
    [
      [
        { name: 'a.cfg', bytes: bytes(cfg.replace('3,2A,1D', '50000001,1A,50000000D')) },
        { name: 'a.dat', bytes: bytes('1,0,2') },
      ],
      /has 50000000 digital channels; 4096 at most/,
    ],
    [
      [
        { name: 'a.cfg', bytes: bytes(cfg.replace('3,2A,1D', '4001,1A,4000D')) },
        { name: 'a.dat', bytes: bytes('1,0,2') },
      ],
      /counts 4001 channels, and the file has \d+ lines. It is cut off/,
    ],
    [
      [
        { name: 'a.cfg', bytes: bytes(cfg.replace('2\r\n1000,2', '50000000\r\n1000,2')) },
        { name: 'a.dat', bytes: bytes('1,0,2,4,0') },
      ],
      /counts 50000000 rates, and the file has \d+ lines/,
    ],
  ])('a bad file says where it is bad (%#)', (files, sentence) => {
    const read = readComtrade(files);
    expect(read.ok ? '' : read.sentence).toMatch(sentence);
  });
});

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

describe('between two cursors', () => {
  test('a sine over whole periods has no mean and its amplitude over the square root of two', () => {
    const time = Array.from({ length: 2001 }, (_, i) => i / 1000);
    const s = present(
      statisticsOf(
        time,
        time.map((t) => 10 * Math.sin(2 * Math.PI * 5 * t)),
        0,
        2,
      ),
    );
    expect(s.mean).toBeCloseTo(0, 6);
    expect(s.rms).toBeCloseTo(10 / Math.SQRT2, 2);
    expect(s.largest).toBeCloseTo(10, 6);
  });

  test('a straight line from 0 to 6 in 3 s: mean 3, mean square 12, by the integral', () => {
    const s = present(statisticsOf([0, 0.1, 3], [0, 0.2, 6], 3, 0));
    expect(s).toMatchObject({ samples: 3, smallest: 0, largest: 6, slope: 2 });
    expect(s.mean).toBeCloseTo(3, 12);
    expect(s.rms ** 2).toBeCloseTo(12, 12);
    expect(s.deviation ** 2).toBeCloseTo(3, 12);
  });

  test('one sample tells nothing, gaps are left out', () => {
    expect(statisticsOf([0, 1, 2], [1, 2, 3], 0.5, 1.5)).toBeNull();
    expect(statisticsOf([0, 1, 2], [1, NaN, 3], 0, 2)).toMatchObject({ samples: 2, mean: 2 });
  });
});

describe('laying one on the other', () => {
  test('events are found, and the same mark is laid on the same mark', () => {
    const events = eventsOf(run());
    expect(events.map((e) => e.code)).toEqual(['begin', 'current peak', 'mark', 'starts', 'at speed', 'mark', 'slows', 'bus peak', 'at rest', 'end']);
    const later = eventsOf({ ...run(), time: Array.from(run().time, (t) => t + 3), marks: [{ time: 4.2, label: 'Let go' }] });
    const [a, b] = present(alignedBy(events, later));
    expect([a.label, a.time, b.time]).toEqual(['Let go', 1.2, 4.2]);
  });

  test('without marks in common it is the start, and of what stands still the beginning', () => {
    const bare = { ...run(), marks: [] };
    expect(present(alignedBy(eventsOf(run()), eventsOf(bare)))[0].code).toBe('starts');
    const still = { ...bare, values: bare.values.map((v) => Array.from(v, () => 0)) };
    expect(present(alignedBy(eventsOf(bare), eventsOf(still)))[0].code).toBe('begin');
  });
});

describe('hours of samples', () => {
  const n = 180_000;
  const time = Float64Array.from({ length: n }, (_, i) => i / 50);
  const values = Float64Array.from({ length: n }, (_, i) => Math.sin(i / 900) + (i === 123_457 ? 9 : 0));
  const p = pyramidOf(time, values);

  test.each([
    [0, 3600],
    [2000, 2600],
    [2469, 2469.3],
  ])('extent and line from %d to %d s are those of every sample', (from, to) => {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < n; i++)
      if (time[i]! >= from - 0.021 && time[i]! <= to + 0.021) [low, high] = [Math.min(low, values[i]!), Math.max(high, values[i]!)];
    const [a, b] = present(extentOf(p, from, to));
    expect(a).toBeCloseTo(low, 9);
    expect(b).toBeCloseTo(high, 9);
    const line = drawnOf(p, from, to, 1000);
    expect(line.time.length).toBeLessThan(4200);
    expect(Math.max(...line.value)).toBeGreaterThanOrEqual(high - 1e-9);
    expect(line.time.every((t, i) => i === 0 || t >= line.time[i - 1]!)).toBe(true);
  });

  test('packed samples come back to the decimals of their channels', () => {
    const packed = new ArrayBuffer(3 * 12);
    new Float64Array(packed, 0, 3).set([0, 0.02, 0.040001]);
    new Float32Array(packed, 24, 3).set([49.99, NaN, 50.004]);
    const meta = { channels: [{ key: 'f', name: 'Output', unit: 'Hz', decimals: 2 }] } as never;
    expect(recordingFrom(meta, packed)).toMatchObject({ time: [0, 0.02, 0.040001], data: { f: [49.99, NaN, 50] } });
  });
});

describe('what an armed recorder waits for', () => {
  const s = (of: Partial<TriggerSample>): TriggerSample => ({ state: 'running', busVoltage: 565, outputFrequency: 50, ...of }) as TriggerSample;
  const level: RecorderTrigger = { kind: 'level', channel: 'busVoltage', side: 'above', value: 700 };
  const edge: RecorderTrigger = { kind: 'edge', channel: 'outputFrequency', way: 'falling', value: 20 };
  test.each<[RecorderTrigger, Partial<TriggerSample> | null, Partial<TriggerSample>, boolean]>([
    [{ kind: 'now' }, null, {}, true],
    [level, null, { busVoltage: 700 }, true],
    [level, {}, { busVoltage: 699.9 }, false],
    [{ ...level, side: 'below', value: 480 }, {}, { busVoltage: 470 }, true],
    [edge, null, { outputFrequency: 10 }, false],
    [edge, { outputFrequency: 20.1 }, { outputFrequency: 20 }, true],
    [edge, { outputFrequency: 10 }, { outputFrequency: 30 }, false],
    [{ ...edge, way: 'either' }, { outputFrequency: 10 }, { outputFrequency: 30 }, true],
    [{ kind: 'trip' }, { state: 'tripped' }, { state: 'tripped' }, false],
    [{ kind: 'trip' }, {}, { state: 'tripped' }, true],
    [{ kind: 'state', state: 'stopping' }, {}, { state: 'stopping' }, true],
    [{ kind: 'state', state: 'running' }, {}, {}, false],
    // the noughts of a link that is gone are no values
    [{ ...level, side: 'below', value: 480 }, {}, { state: 'no link', busVoltage: 0 }, false],
    [edge, {}, { state: 'no link', outputFrequency: 0 }, false],
    [{ ...edge, way: 'rising' }, { state: 'no link', outputFrequency: 0 }, {}, false],
    [{ kind: 'trip' }, { state: 'no link' }, { state: 'tripped' }, true],
  ])('%j from %j to %j: %s', (trigger, before, now, expected) => {
    expect(fires(trigger, before && s(before), s(now))).toBe(expected);
  });

  test('it is said in words', () => {
    expect(triggerText(level)).toBe('DC bus is 700\u00a0V or more');
    expect(triggerText(edge)).toBe('Output falls through 20\u00a0Hz');
  });
});
