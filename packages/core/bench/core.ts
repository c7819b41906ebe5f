/** Speed of the core, as medians of several runs. `--json` prints one object. */
import {
  circuitFromPlate,
  completePlate,
  createMachine,
  lookAheadRun,
  pumpFromRatedPoint,
  sourceInductance,
  stepMachine,
  usualRotorInertia,
  ControlWord,
  type MachineSpec,
  type StampedPlate,
} from '../src';

const stamped: StampedPlate = {
  standard: 'IEC',
  power: 7.5,
  powerUnit: 'kW',
  voltage: 400,
  connection: 'delta',
  current: 13.6,
  frequency: 50,
  speed: 2925,
  powerFactor: 0.88,
  efficiency: 90.1,
  design: null,
  serviceFactor: null,
};
const plate = completePlate(stamped);

function median(runs: number, run: () => number): number {
  run();
  const times = Array.from({ length: runs }, run).sort((a, b) => a - b);
  return times[times.length >> 1]!;
}

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

function pumpSpec(): MachineSpec {
  const estimate = circuitFromPlate(plate);
  if (!estimate.ok) throw new Error(estimate.sentence);
  const ratedSpeed = estimate.circuit.ratedSpeed;
  return {
    circuit: estimate.circuit,
    inertia: usualRotorInertia(plate.power, plate.poles) + 0.03,
    load: pumpFromRatedPoint({ ratedSpeed, flow: 34 / 3600, head: 52, efficiency: 0.7, staticHead: 4, compliance: 4e-8, demandShare: 0.7 }),
    drive: {
      motorFrequency: 50,
      motorVoltage: 400,
      motorCurrent: 13.6,
      motorSpeed: 2925,
      accelerationTime: 5,
      decelerationTime: 5,
      quickStopTime: 1,
      minimumFrequency: 0,
      maximumFrequency: 50,
      currentLimit: 24,
      overloadCurrent: 13.6,
      overloadClass: 10,
      motorCooling: 0,
      voltageShape: 0,
      startBoost: 0.02,
      slipCompensation: 0,
      stopMode: 0,
      reversePermit: 0,
      busRampHold: 0,
      chopper: 0,
      chopperLevel: 760,
      brakeResistance: 100,
      linkTimeout: 1,
    },
    rating: {
      current: 17,
      overcurrentTrip: 40,
      overvoltageTrip: 800,
      undervoltageTrip: 380,
      busCapacitance: 600e-6,
      idleLoss: 40,
      lossPerAmpere: 8,
      leastResistance: 47,
    },
    supply: { voltage: 400, frequency: 50, inductance: sourceInductance(400, 50, 13.6) },
  };
}

const spec = pumpSpec();
const pumpTenMinutesSeconds =
  median(7, () =>
    timed(() => {
      const m = createMachine(spec);
      stepMachine(m, ControlWord.shutdown, 0, 0.001);
      stepMachine(m, ControlWord.switchOn, 0, 0.001);
      for (let i = 0; i < 600_000; i++) stepMachine(m, ControlWord.enableOperation, i < 300_000 ? 45 : 35, 0.001);
    }),
  ) / 1000;
const plateToCircuitMs = median(15, () => timed(() => circuitFromPlate(plate)));
const lookAheadStopMs = median(9, () =>
  timed(() =>
    lookAheadRun({ ...spec, drive: { ...spec.drive, accelerationTime: 0.5, decelerationTime: 30 } }, { reference: 50, runTime: 0, longest: 35 }),
  ),
);

const round = (x: number) => Math.round(x * 1000) / 1000;
const result = {
  pumpTenMinutesSeconds: round(pumpTenMinutesSeconds),
  plateToCircuitMs: round(plateToCircuitMs),
  lookAheadStopMs: round(lookAheadStopMs),
};
if (process.argv.includes('--json')) console.log(JSON.stringify(result));
else {
  console.table({
    'ten minutes of the pump at 1 ms, s': { median: result.pumpTenMinutesSeconds, wanted: 0.5 },
    'plate to circuit, ms': { median: result.plateToCircuitMs, wanted: 20 },
    'look-ahead of a 30 s stop, ms': { median: result.lookAheadStopMs, wanted: 50 },
  });
}
