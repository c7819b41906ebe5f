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
import { say } from '@yare/words/pages/plate';

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
      label: say.poles,
      figure: String(plate.poles),
      unit: '',
      formula: [
        say.smallestSynchronousSpeedAboveRpm({ f: f(plate.speed, 0) }),
        say.rpm({ frequency: plate.frequency, poles: plate.poles, f: f(ns, 0) }),
      ],
      source: 'IEC 60034-1',
    },
    {
      key: 'synchronous',
      label: say.synchronousSpeed,
      figure: f(ns, 0),
      unit: 'rpm',
      formula: ['n_s = 120 f ÷ p', say.rpm({ frequency: plate.frequency, poles: plate.poles, f: f(ns, 0) })],
      source: 'any textbook on electrical machines',
    },
    {
      key: 'slip',
      label: say.slipAtFullLoad,
      figure: f(plate.slip * 100, 2),
      unit: '%',
      formula: ['s = (n_s − n) ÷ n_s', `(${f(ns, 0)} − ${f(plate.speed, 0)}) ÷ ${f(ns, 0)} = ${f(plate.slip * 100, 2)} %`],
      source: 'any textbook on electrical machines',
    },
    {
      key: 'torque',
      label: say.ratedTorque,
      figure: f(torque, torque < 10 ? 2 : 1),
      unit: 'N·m',
      formula: [say.tPNPIn, `9550 × ${f(plate.power / 1000, 3)} ÷ ${f(plate.speed, 0)} = ${f(torque, 2)} N·m`],
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
      label: say.electricalInput,
      figure: f(input / 1000, 2),
      unit: 'kW',
      estimate: plate.origin.powerFactor === 'estimated',
      formula: [
        say.pInUICos,
        say.kw({
          voltage: plate.voltage,
          current: plate.current,
          f: f(plate.powerFactor, 3),
          word: word(plate.origin.powerFactor),
          f2: f(input / 1000, 3),
        }),
      ],
      source: 'three-phase power',
    },
    {
      key: 'losses',
      label: say.losses,
      figure: f(losses, 0),
      unit: 'W',
      estimate: plate.origin.efficiency !== 'stamped',
      formula: [
        say.pInPOut,
        `${f(input, 0)} − ${f(plate.power, 0)} = ${f(losses, 0)} W`,
        say.thePlateGivesNone({ f: f((plate.power / input) * 100, 1), efficiency: stamped.efficiency }),
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
      label: say.cos,
      figure: f(plate.powerFactor, 3),
      unit: '',
      estimate: true,
      formula: [
        say.cosPUI,
        `${f(plate.power, 0)} ÷ (√3 × ${plate.voltage} × ${plate.current} × ${f(plate.efficiency, 3)}) = ${f(plate.powerFactor, 3)}`,
        plate.origin.efficiency === 'estimated' ? say.takenAsIeOfThis : '',
      ].filter(Boolean),
      source: 'power balance',
    });
  if (plate.origin.efficiency !== 'stamped')
    rows.push({
      key: 'eta',
      label: say.efficiency,
      figure: f(plate.efficiency * 100, 1),
      unit: '%',
      estimate: true,
      formula: [plate.origin.efficiency === 'estimated' ? say.ieOfThisSizeAnd : say.pUICos, `${f(plate.efficiency * 100, 1)} %`],
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
      label: say.tableCurrent,
      figure: f(table, 1),
      unit: 'A',
      formula: [say.forConductorsUsuallyAboveThe, say.neverTheOverloadSetting],
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
