/** Speed of the core, as medians of several runs. `--json` prints one object. */
import {
  circuitFromPlate,
  completePlate,
  createMachine,
  lookAheadRun,
  random,
  stepMachine,
  ControlWord,
  TripHistory,
  type MachineSpec,
  nth,
  present,
} from '../src';
import { stageFindings } from '@yare/commissioning';
import { loopAhead, proposePid, restingModel, stepModel, stepTest, type ProcessModel } from '../src/loop';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { estimateMachine } from '../src';
import { sleepAhead, stationYear } from '../src/days';
import { p11 } from '../test/plates';
import { machineTypes } from '../test/specs';

const plate = completePlate(p11);

function median(runs: number, run: () => number): number {
  run();
  const times = Array.from({ length: runs }, run).sort((a, b) => a - b);
  return nth(times, times.length >> 1);
}

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

const tenMinutes = 600_000;

/** Ten minutes of one machine at 1 ms, s: half at 90 %, half at 70 % of its frequency, with the full-rate history a bench drive keeps. */
const tenMinutesSeconds = (spec: MachineSpec): number => median(9, () => timed(() => runTenMinutes(spec))) / 1000;

function runTenMinutes(spec: MachineSpec): void {
  const m = createMachine(spec);
  m.history = new TripHistory();
  stepMachine(m, ControlWord.shutdown, 0, 0.001);
  stepMachine(m, ControlWord.switchOn, 0, 0.001);
  for (let i = 0; i < tenMinutes; i++) stepMachine(m, ControlWord.enableOperation, i < tenMinutes / 2 ? 45 : 35, 0.001);
  if (m.trip) throw new Error(`the benchmark machine tripped: ${m.trip.cause}`);
}

/** A machine of the demo plant as its plate suggests. */
function specOf(tag: string): MachineSpec {
  const demo = demoMachine(tag);
  const draft = demoDraft(demo, {});
  const estimate = estimateMachine(demo.plate, demo.driven, draft.parameters(), draft.hardware(), demo.supply);
  if (!estimate.ok) throw new Error(estimate.sentence);
  return estimate.spec;
}

const round = (x: number) => Math.round(x * 1000) / 1000;
const specs = machineTypes();
// what comes first is not to pay for a processor that was idle and for code that is not compiled yet
for (const spec of Object.values(specs)) for (let i = 0; i < 2; i++) runTenMinutes(spec);
const types = Object.fromEntries(
  Object.entries(specs).map(([name, spec]) => {
    const seconds = tenMinutesSeconds(spec);
    return [name, { tenMinutesSeconds: round(seconds), timesRealTime: Math.round(600 / seconds) }];
  }),
);
const plateToCircuitMs = median(15, () => timed(() => circuitFromPlate(plate)));
const stopping = { ...specs.pump, drive: { ...specs.pump.drive, accelerationTime: 0.5, decelerationTime: 30 } };
const lookAheadStopMs = median(9, () => timed(() => lookAheadRun(stopping, { reference: 50, runTime: 0, longest: 35 })));

/** The whole check of a fan on the family with most inputs, local among them: every mode and every combination of its contacts. */
const f32 = demoMachine('F-32');
let preset = 10;
const conflictCheckMs = median(15, () => {
  // another figure each time: what was worked out before is known
  const settings = demoDraft(f32, { '16/1': 15, '19/1': preset++ });
  return timed(() => stageFindings({ settings, plate: f32.plate, supply: f32.supply, driven: f32.driven }));
});

/** 10,000 noisy samples of a step on two lags: fitted every way, and a controller proposed by every rule. */
const samples = 10_000;
const stepped = { time: [] as number[], output: [] as number[], feedback: [] as number[] };
{
  const process: ProcessModel = { kind: 'settling', gain: 1.2, lags: [5, 1.5], deadTime: 1 };
  const every = 0.01;
  const state = restingModel(process, every);
  const noise = random(3);
  for (let i = 0; i < samples; i++) {
    const output = i < samples / 6 ? 60 : 70;
    stepped.time.push(i * every);
    stepped.output.push(output);
    stepped.feedback.push(40 + stepModel(state, process, output - 60, every) + 0.2 * noise.normal());
  }
}
const pidProposalMs = median(9, () =>
  timed(() => {
    const test = stepTest(stepped);
    if (!test.ok) throw new Error(`the step of the benchmark was refused: ${test.why}`);
    proposePid(test.likely, { plausible: test.best.plausible });
  }),
);

/** Two minutes of a pressure loop on its own pump: a demand that comes and goes. */
const held = demoDraft(demoMachine('P-11'), {}).controls().process;
const loopLookAheadMs = median(9, () =>
  timed(() => loopAhead(specs.pump, { question: 'demand', process: held, sensor: { measures: 'pressure', low: 0, high: 1e6 } })),
);

/** A day of the pressure pump with shifts and a leak at night, and without sleep beside it; a year of three effluent pumps. */
const p11Day = demoMachine('P-11');
const daySpec = specOf('P-11');
const rated = p11Day.driven.kind === 'pump' ? p11Day.driven.flow / 3600 : 0;
const dayLookAheadMs = median(9, () =>
  timed(() =>
    sleepAhead(
      daySpec,
      {
        sensor: { measures: 'pressure', low: 0, high: 1e6 },
        process: held,
        demand: Array.from({ length: 96 }, (_, i) => (i < 24 ? 0.01 : i % 32 < 16 ? 0.6 : 0.2) * rated),
      },
      7500,
    ),
  ),
);
const effluent = demoDraft(demoMachine('P-41'), {}).controls();
const yearStagingMs = median(3, () =>
  timed(() =>
    stationYear(specOf('P-41'), {
      sensor: { measures: 'level', low: -1.5, high: 2.5 },
      process: effluent.process,
      station: effluent.station,
      demand: Array.from({ length: 24 }, (_, h) => (h < 6 ? 10 : 45) / 3600),
    }),
  ),
);

const result = {
  pumpTenMinutesSeconds: present(types.pump).tenMinutesSeconds,
  plateToCircuitMs: round(plateToCircuitMs),
  lookAheadStopMs: round(lookAheadStopMs),
  conflictCheckMs: round(conflictCheckMs),
  pidProposalMs: round(pidProposalMs),
  loopLookAheadMs: round(loopLookAheadMs),
  dayLookAheadMs: round(dayLookAheadMs),
  yearStagingMs: round(yearStagingMs),
  types,
};
if (process.argv.includes('--json')) console.log(JSON.stringify(result));
else {
  console.table({
    ...Object.fromEntries(
      Object.entries(types).map(([name, t]) => [
        `ten minutes of the ${name} at 1 ms, s`,
        { median: t.tenMinutesSeconds, wanted: 0.5, 'times real time': t.timesRealTime },
      ]),
    ),
    'plate to circuit, ms': { median: result.plateToCircuitMs, wanted: 20 },
    'look-ahead of a 30 s stop, ms': { median: result.lookAheadStopMs, wanted: 50 },
    'step of 10,000 samples to PID, ms': { median: result.pidProposalMs, wanted: 200 },
    'look-ahead of 120 s of a loop, ms': { median: result.loopLookAheadMs, wanted: 60 },
    'look-ahead of a day of sleep and wake, ms': { median: result.dayLookAheadMs, wanted: 1000 },
    'a year of three pumps, ms': { median: result.yearStagingMs, wanted: 3000 },
    'conflicts over all modes and inputs, ms': { median: result.conflictCheckMs, wanted: 50 },
  });
}
