import { present, nth } from '@yare/core';
import { comtradeFile, comtradeOf, readComtrade, type Recorded } from '../src/recording';
import { run } from './recordedRun';

const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const bytes = (words: string) => new TextEncoder().encode(words);

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
    const r = { ...run(), time: [0, 5000], values: run().values.map((v) => [nth(v, 0), nth(v, 1)]), marks: [] };
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
