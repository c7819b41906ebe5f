import { bookById } from './book';
import { plateSettings } from './plateSettings';
import type { Driven, MachineDetail } from '@yare/contract';
import type { StampedPlate } from '@yare/core';

/** Brackwater Maltings: the invented plant that ships with the product. One unit on the bench for each machine. */
export interface DemoMachine extends Omit<MachineDetail, 'plate' | 'site'> {
  plate: StampedPlate;
  unit: number;
  /** draft values chosen before the story starts, by role or code, with their source */
  draft: Array<{ code: string; value: number; source: 'plate' | 'chosen' }>;
  /** what an earlier hand left in the drive, differing from factory, by code */
  asFound: Record<string, number>;
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
const fromPlate = (size: string, plate: StampedPlate): DemoMachine['draft'] =>
  plateSettings(bookById('osier-g'), size, plate)
    .filter((x) => x.source === 'plate')
    .map(({ code, exact }) => ({ code, value: exact, source: 'plate' as const }));

interface Row {
  tag: string;
  name: string;
  area: string;
  size: string;
  plate: StampedPlate;
  driven: Driven;
  region?: 60;
  chosen: Record<string, number>;
  asFound?: Record<string, number>;
}

const effluent = (tag: string, name: string): Row => ({
  tag,
  name,
  area: 'Steep house',
  size: 'G4',
  plate: iec(4, 400, 'delta', 7.9, 1450, 0.82, 88.6),
  driven: { kind: 'pump', flow: 42, head: 21, efficiency: 68, staticHead: 6, setPressure: null, inertia: 0.03 },
  chosen: { '3a': 4, '3b': 4, '2c': 0 },
});

const rows: Row[] = [
  {
    tag: 'P-11',
    name: 'Steep water pressure pump',
    area: 'Steep house',
    size: 'G7.5',
    plate: iec(7.5, 400, 'delta', 13.6, 2925, 0.88, 90.1),
    driven: { kind: 'pump', flow: 34, head: 52, efficiency: 70, staticHead: 4, setPressure: 4.2, inertia: 0.035 },
    chosen: { '3a': 5, '3b': 3, '2a': 5, '2c': 0, '3h': 0 },
    asFound: { '3a': 5, '3b': 12, '2a': 5 },
  },
  effluent('P-41', 'Effluent transfer pump 1'),
  effluent('P-42', 'Effluent transfer pump 2'),
  effluent('P-43', 'Effluent transfer pump 3'),
  {
    tag: 'F-32',
    name: 'Kiln exhaust fan',
    area: 'Kiln',
    size: 'G30',
    plate: iec(30, 400, 'delta', 54.4, 1475, 0.85, 93.6),
    driven: { kind: 'fan', torqueShare: 85, inertia: 18 },
    chosen: { '3a': 60, '3b': 60, '2c': 0, '4a': 1 },
    asFound: { '3a': 30, '3b': 30 },
  },
  {
    tag: 'C-07',
    name: 'Green malt conveyor',
    area: 'Kiln',
    size: 'G2.2',
    plate: iec(2.2, 400, 'star', 4.64, 1445, 0.79, 86.7),
    driven: { kind: 'conveyor', torqueShare: 70, inertia: 0.02 },
    chosen: { '3a': 3, '3b': 2 },
    asFound: { '3a': 4, '3b': 3 },
  },
  {
    tag: 'C-21',
    name: 'Bagging infeed belt',
    area: 'Bagging',
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
    driven: { kind: 'conveyor', torqueShare: 60, inertia: 0.015 },
    chosen: { '3a': 2, '3b': 2 },
  },
  {
    tag: 'M-55',
    name: 'Dosing agitator',
    area: 'Bagging',
    size: 'G0.75',
    plate: iec(0.18, 400, 'star', 0.61, 1390, 0.65, 65),
    driven: { kind: 'agitator', torqueShare: 60, inertia: 0.002 },
    chosen: { '3a': 5, '3b': 5, '4b': 5 },
  },
];

export const demoPlant: DemoMachine[] = rows.map((r, i) => ({
  tag: r.tag,
  name: r.name,
  area: r.area,
  bookId: 'osier-g',
  size: r.size,
  region: r.region ?? 50,
  supply,
  driven: r.driven,
  plate: r.plate,
  unit: i + 1,
  draft: [...fromPlate(r.size, r.plate), ...Object.entries(r.chosen).map(([code, value]) => ({ code, value, source: 'chosen' as const }))],
  asFound: r.asFound ?? {},
}));
