import {
  formatFigure,
  inputPower,
  ratedTorque,
  stampedPower,
  synchronousSpeed,
  tableFullLoadCurrent,
  type Plate,
  type StampedPlate,
} from '@yare/core';

/** A figure worked out from the plate with its formula and the numbers in it. */
export interface WorkedOut {
  key: string;
  label: string;
  figure: string;
  unit: string;
  estimate?: boolean;
  formula: string[];
  source: string;
}

const f = formatFigure;

type Origin = Plate['origin'][keyof Plate['origin']];
const word = (o: Origin): string => (o === 'stamped' ? '' : ` (${o})`);

/** Poles, speed, slip and torque. */
function ofSpeed(plate: Plate): WorkedOut[] {
  const ns = synchronousSpeed(plate.frequency, plate.poles);
  const torque = ratedTorque(plate.power, plate.speed);
  return [
    {
      key: 'poles',
      label: 'Poles',
      figure: String(plate.poles),
      unit: '',
      formula: [`smallest synchronous speed above ${f(plate.speed, 0)} rpm`, `120 × ${plate.frequency} ÷ ${plate.poles} = ${f(ns, 0)} rpm`],
      source: 'IEC 60034-1',
    },
    {
      key: 'synchronous',
      label: 'Synchronous speed',
      figure: f(ns, 0),
      unit: 'rpm',
      formula: ['n_s = 120 f ÷ p', `120 × ${plate.frequency} ÷ ${plate.poles} = ${f(ns, 0)} rpm`],
      source: 'any textbook on electrical machines',
    },
    {
      key: 'slip',
      label: 'Slip at full load',
      figure: f(plate.slip * 100, 2),
      unit: '%',
      formula: ['s = (n_s − n) ÷ n_s', `(${f(ns, 0)} − ${f(plate.speed, 0)}) ÷ ${f(ns, 0)} = ${f(plate.slip * 100, 2)} %`],
      source: 'any textbook on electrical machines',
    },
    {
      key: 'torque',
      label: 'Rated torque',
      figure: f(torque, torque < 10 ? 2 : 1),
      unit: 'N·m',
      formula: ['T = 9550 P ÷ n, P in kW', `9550 × ${f(plate.power / 1000, 3)} ÷ ${f(plate.speed, 0)} = ${f(torque, 2)} N·m`],
      source: 'T = P ÷ ω',
    },
  ];
}

/** What it takes from the supply and loses. */
function ofPower(stamped: StampedPlate, plate: Plate): WorkedOut[] {
  const input = inputPower(plate.voltage, plate.current, plate.powerFactor);
  const losses = input - plate.power;
  return [
    {
      key: 'input',
      label: 'Electrical input',
      figure: f(input / 1000, 2),
      unit: 'kW',
      estimate: plate.origin.powerFactor === 'estimated',
      formula: [
        'P_in = √3 U I cos φ',
        `√3 × ${plate.voltage} × ${plate.current} × ${f(plate.powerFactor, 3)}${word(plate.origin.powerFactor)} = ${f(input / 1000, 3)} kW`,
      ],
      source: 'three-phase power',
    },
    {
      key: 'losses',
      label: 'Losses',
      figure: f(losses, 0),
      unit: 'W',
      estimate: plate.origin.efficiency !== 'stamped',
      formula: [
        'P_in − P_out',
        `${f(input, 0)} − ${f(plate.power, 0)} = ${f(losses, 0)} W`,
        `η = ${f((plate.power / input) * 100, 1)} %; the plate ${stamped.efficiency === null ? 'gives none' : `says ${stamped.efficiency} %`}`,
      ],
      source: 'energy balance',
    },
  ];
}

/** What the plate leaves out. */
function leftOut(plate: Plate): WorkedOut[] {
  const rows: WorkedOut[] = [];
  if (plate.origin.powerFactor !== 'stamped')
    rows.push({
      key: 'pf',
      label: 'cos φ',
      figure: f(plate.powerFactor, 3),
      unit: '',
      estimate: true,
      formula: [
        'cos φ = P ÷ (√3 U I η)',
        `${f(plate.power, 0)} ÷ (√3 × ${plate.voltage} × ${plate.current} × ${f(plate.efficiency, 3)}) = ${f(plate.powerFactor, 3)}`,
        plate.origin.efficiency === 'estimated' ? 'η taken as IE3 of this size: an estimate' : '',
      ].filter(Boolean),
      source: 'power balance',
    });
  if (plate.origin.efficiency !== 'stamped')
    rows.push({
      key: 'eta',
      label: 'Efficiency',
      figure: f(plate.efficiency * 100, 1),
      unit: '%',
      estimate: true,
      formula: [
        plate.origin.efficiency === 'estimated' ? 'IE3 of this size and pole number' : 'η = P ÷ (√3 U I cos φ)',
        `${f(plate.efficiency * 100, 1)} %`,
      ],
      source: plate.origin.efficiency === 'estimated' ? 'IEC 60034-30-1, from memory' : 'power balance',
    });
  return rows;
}

/** What a table of the country's wiring rules gives; only where it applies. */
function ofTable(stamped: StampedPlate): WorkedOut[] {
  const table = tableFullLoadCurrent(stampedPower(stamped), stamped.voltage);
  if (table === null || stamped.standard !== 'NEMA') return [];
  return [
    {
      key: 'table',
      label: 'Table current',
      figure: f(table, 1),
      unit: 'A',
      formula: ['for conductors, usually above the plate', 'never the overload setting'],
      source: 'NFPA 70 table 430.250, from memory',
    },
  ];
}

/** What follows from a plate without error. */
export const workedOut = (stamped: StampedPlate, plate: Plate): WorkedOut[] => [
  ...ofSpeed(plate),
  ...ofPower(stamped, plate),
  ...leftOut(plate),
  ...ofTable(stamped),
];
