import '@yare/books/all';
import { bookById, DriveSettings, factoryValues } from '@yare/books';
import type { Driven, MachineDetail } from '@yare/contract';
import type { StampedPlate } from '@yare/core';

/** Brackwater Maltings: the invented plant that ships with the product. One drive on the bench for each machine. */
export interface DemoMachine extends Omit<MachineDetail, 'plate' | 'site' | 'learned' | 'driveRevision' | 'drivenEstimated'> {
  plate: StampedPlate;
  /** draft values chosen before the story starts, by role or code, with their source */
  draft: Array<{ code: string; value: number; source: 'plate' | 'chosen' }>;
  /** the motor was wired with two leads changed over */
  leadsSwapped?: boolean;
  /** what an earlier hand left in the drive, differing from factory, by code */
  asFound: Record<string, number>;
  /** the sump its pump draws from together with others of the same name */
  sharedSump?: string;
}

export const demoSite = 'Brackwater Maltings';

const iec = (
  power: number,
  voltage: number,
  connection: 'star' | 'delta',
  current: number,
  speed: number,
  powerFactor: number,
  efficiency: number,
): StampedPlate => ({
  standard: 'IEC',
  power,
  powerUnit: 'kW',
  voltage,
  connection,
  current,
  frequency: 50,
  speed,
  powerFactor,
  efficiency,
  design: null,
  serviceFactor: null,
});

const supply = { voltage: 400, frequency: 50 };

/** Draft lines that copy what is stamped into the drive's motor group. */
const fromPlate = (settings: DriveSettings, plate: StampedPlate): DemoMachine['draft'] =>
  settings
    .plate(plate)
    .filter((x) => x.source === 'plate')
    .map(({ code, exact }) => ({ code, value: exact, source: 'plate' as const }));

interface Row {
  tag: string;
  name: string;
  area: string;
  bookId: 'withy' | 'osier-g' | 'sallow';
  size: string;
  plate: StampedPlate;
  driven: Driven;
  region?: 60;
  chosen: Record<string, number>;
  /** how the panel is wired and the process is kept, in the drive and in the draft alike */
  wiring?: Record<string, number>;
  leadsSwapped?: boolean;
  asFound?: Record<string, number>;
  sharedSump?: string;
}

const effluent = (tag: string, name: string, number: number): Row => ({
  tag,
  name,
  area: 'Steep house',
  bookId: 'sallow',
  size: 'S4',
  plate: iec(4, 400, 'delta', 7.9, 1450, 0.82, 88.6),
  driven: {
    kind: 'pump',
    flow: 42,
    head: 21,
    efficiency: 68,
    staticHead: 6,
    setPressure: null,
    inertia: 0.03,
    sump: { area: 3, inflow: 20, depth: 1.5 },
    sensor: { measures: 'level', low: -1.5, high: 2.5, unit: 'm' },
  },
  chosen: { '13/1': 4, '13/2': 4, '12/1': 0 },
  wiring: {
    ...{ '23/1': 2, '23/2': number, '23/3': 3, '23/4': 2, '23/5': 47, '23/6': 20, '23/7': 28, '23/8': 20 },
    ...{
      '15/2': 0,
      '16/1': 0,
      '16/6': 11,
      '16/7': 21,
      '16/8': 20,
      '17/11': 30,
      '20/1': 37.5,
      '20/2': 33,
      '20/3': 2,
      '20/4': 1,
      '20/5': 26,
      '20/6': 20,
      '20/7': 8,
    },
  },
  sharedSump: 'effluent',
});

const rows: Row[] = [
  {
    tag: 'P-11',
    name: 'Steep water pressure pump',
    area: 'Steep house',
    bookId: 'osier-g',
    size: 'G7.5',
    plate: iec(7.5, 400, 'delta', 13.6, 2925, 0.88, 90.1),
    driven: {
      kind: 'pump',
      flow: 34,
      head: 52,
      efficiency: 70,
      staticHead: 4,
      setPressure: 4.2,
      inertia: 0.035,
      sump: null,
      sensor: { measures: 'pressure', low: 0, high: 10, unit: 'bar' },
    },
    chosen: { '3a': 5, '3b': 3, '2a': 5, '2c': 0, '3h': 0 },
    wiring: { '6a': 0, '6b': 14, '6d': 3, '6e': 4, '5b': 4, '7n': 60, '10a': 42, '10b': 1.2, '10c': 3, '10e': 41, '10f': 20, '10g': 4 },
    asFound: { '3a': 5, '3b': 12, '2a': 5, '7n': 20 },
  },
  effluent('P-41', 'Effluent transfer pump 1', 1),
  effluent('P-42', 'Effluent transfer pump 2', 2),
  effluent('P-43', 'Effluent transfer pump 3', 3),
  {
    tag: 'F-32',
    name: 'Kiln exhaust fan',
    area: 'Kiln',
    bookId: 'sallow',
    size: 'S30',
    plate: iec(30, 400, 'delta', 54.4, 1475, 0.85, 93.6),
    driven: {
      kind: 'fan',
      flow: 33000,
      pressure: 1900,
      efficiency: 72,
      volume: 18,
      inertia: 18,
      sensor: { measures: 'pressure', low: 0, high: 2500, unit: 'Pa' },
    },
    chosen: { '13/1': 60, '13/2': 60, '12/1': 0 },
    wiring: { '15/2': 0, '16/1': 0, '16/7': 19, '16/8': 22, '20/1': 40, '20/2': 167, '20/3': 3 },
    asFound: { '13/1': 30, '13/2': 30 },
  },
  {
    tag: 'C-07',
    name: 'Green malt conveyor',
    area: 'Kiln',
    bookId: 'osier-g',
    size: 'G2.2',
    plate: iec(2.2, 400, 'star', 4.64, 1445, 0.79, 86.7),
    driven: { kind: 'conveyor', torqueShare: 70, feed: 14, beltSpeed: 1.1, length: 14, slope: 9, ratio: 28, inertia: 0.012, brakeShare: 180 },
    chosen: { '3a': 3, '3b': 2 },
    wiring: { '5b': 3, '6a': 12, '6b': 13, '6h': 6, '8e': 1, '9a': 15, '9b': 30, '9c': 45 },
    asFound: { '3a': 4, '3b': 3 },
  },
  {
    tag: 'C-21',
    name: 'Bagging infeed belt',
    area: 'Bagging',
    bookId: 'osier-g',
    size: 'G2.2',
    region: 60,
    plate: {
      standard: 'NEMA',
      power: 3,
      powerUnit: 'hp',
      voltage: 460,
      connection: 'star',
      current: 3.9,
      frequency: 60,
      speed: 1760,
      powerFactor: null,
      efficiency: null,
      design: 'B',
      serviceFactor: 1.15,
    },
    driven: { kind: 'conveyor', torqueShare: 60, feed: 9, beltSpeed: 0.8, length: 6, slope: 0, ratio: 22, inertia: 0.008, brakeShare: null },
    chosen: { '3a': 2, '3b': 2 },
    leadsSwapped: true,
  },
  {
    tag: 'M-55',
    name: 'Dosing agitator',
    area: 'Bagging',
    bookId: 'withy',
    size: 'W0.2',
    plate: iec(0.18, 400, 'star', 0.61, 1390, 0.65, 65),
    driven: { kind: 'agitator', torqueShare: 60, inertia: 0.002 },
    chosen: { w10: 5, w11: 5, w18: 6 },
  },
];

export const demoPlant: DemoMachine[] = rows.map((r, i) => ({
  tag: r.tag,
  name: r.name,
  area: r.area,
  bookId: r.bookId,
  size: r.size,
  region: r.region ?? 50,
  supply,
  driven: r.driven,
  plate: r.plate,
  unitId: i + 1,
  draft: [
    ...fromPlate(new DriveSettings(bookById(r.bookId), r.size, {}, r.region ?? 50), r.plate),
    ...Object.entries({ ...r.wiring, ...r.chosen }).map(([code, value]) => ({ code, value, source: 'chosen' as const })),
  ],
  asFound: { ...r.wiring, ...r.asFound },
  leadsSwapped: r.leadsSwapped,
  sharedSump: r.sharedSump,
}));

/** A machine of the demo plant. @throws RangeError when there is none of that tag */
export function demoMachine(tag: string): DemoMachine {
  const m = demoPlant.find((d) => d.tag === tag);
  if (!m) throw new RangeError(`The demo plant has no ${tag}.`);
  return m;
}

/** Its draft as the story begins, with some values changed, by code. */
export function demoDraft(m: DemoMachine, change: Readonly<Record<string, number>> = {}): DriveSettings {
  const book = bookById(m.bookId);
  const own = Object.fromEntries(m.draft.map((d) => [d.code, d.value]));
  return new DriveSettings(book, m.size, { ...factoryValues(book, m.size, m.region), ...own, ...change }, m.region);
}
