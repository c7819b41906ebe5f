import { bookById, DriveSettings } from '@yare/books';
import type { LiveWord } from '@yare/contract';
import { estimateMachine, ControlWord, random, stampedPower, toSi, type DriveRecord, type LearnOptions, type MachineSpec } from '@yare/core';
import type { DemoMachine } from '@yare/demo-plant';
import { SimulatedDrive } from '../src/drive/simulatedDrive';

/** How the application samples a drive while it turns, s. */
const sampleEvery = 0.05;

/** The demo machine with settings an electrician would have after the plate: its draft, written. */
export function commissioned(demo: DemoMachine, change: Record<string, number> = {}): DemoMachine {
  return { ...demo, asFound: { ...demo.asFound, ...Object.fromEntries(demo.draft.map((d) => [d.code, d.value])), ...change } };
}

/** What the application knows of the machine from plate, drive book and settings alone. */
export function estimateOf(demo: DemoMachine, values: Readonly<Record<string, number>>): MachineSpec {
  const settings = new DriveSettings(bookById(demo.bookId), demo.size, values, demo.region);
  const supply = { ...demo.supply, rectifier: settings.rating.input };
  const estimate = estimateMachine(demo.plate, demo.driven, settings.parameters(), settings.hardware(), supply);
  if (!estimate.ok) throw new Error(`${demo.tag}: ${estimate.sentence}`);
  return estimate.spec;
}

/** One run over the link as hold to run does it: up, some seconds at speed, ramped down; sampled through the drive's own registers. */
export function learningRun(d: SimulatedDrive, hertz: number, atSpeed: number, seed: number): DriveRecord {
  const { demo } = d;
  const book = bookById(demo.bookId);
  const { command, codes, live } = book.words;
  const jitter = random(seed + 991);
  const registers = Object.values(live).map((w) => w.register);
  const first = Math.min(...registers);
  const data = new Array<number>(Math.max(...registers) - first + 1).fill(0);
  const out: Record<'time' | 'frequency' | 'current' | 'busVoltage' | 'torque' | 'process', number[]> = {
    time: [],
    frequency: [],
    current: [],
    busVoltage: [],
    torque: [],
    process: [],
  };
  const sensor = 'sensor' in demo.driven && demo.driven.sensor?.measures === 'pressure' ? demo.driven.sensor : null;
  const begin = d.machine.time;
  const sample = () => {
    for (const [name, w] of Object.entries(live)) data[w.register - first] = d.readRegister(live[name as LiveWord].register);
    const v = d.settings.liveValues(data, first);
    out.time.push(d.machine.time - begin);
    out.frequency.push(v.outputFrequency);
    out.current.push(v.motorCurrent);
    out.busVoltage.push(v.busVoltage);
    out.torque.push(v.torque);
    if (sensor) out.process.push(toSi(sensor.low + (v.analogueInput / 100) * (sensor.high - sensor.low), sensor.unit));
  };
  const give = (word: number, reference: number) => {
    d.writeRegister(command.control.register, word);
    d.writeRegister(command.reference.register, d.settings.wordCounts(command.reference, reference) & 0xffff);
  };
  /** Holds a command for some seconds, refreshed and sampled as over a real link, a little late each time. */
  const hold = (word: number, reference: number, seconds: number) => {
    const end = d.machine.time + seconds;
    while (d.machine.time < end) {
      give(word, reference);
      d.advance(Math.round(1000 * sampleEvery + 6 * Math.abs(jitter.normal())));
      sample();
    }
  };
  d.writeRegister(command.take.register, codes.take);
  hold(ControlWord.shutdown, 0, 0.6);
  hold(ControlWord.switchOn, 0, 0.2);
  const { accelerationTime, decelerationTime, motorFrequency } = d.machine.spec.drive;
  const share = hertz / motorFrequency;
  hold(ControlWord.enableOperation, hertz, accelerationTime * share * 1.15 + atSpeed);
  hold(ControlWord.switchOn, 0, decelerationTime * share * 1.2 + 2);
  d.writeRegister(command.take.register, codes.give);
  return { ...out, ...(sensor ? {} : { process: undefined }) };
}

/** What the application tells the learning about this drive and plate. */
export function learnOptions(demo: DemoMachine, values: Readonly<Record<string, number>>): LearnOptions {
  const settings = new DriveSettings(bookById(demo.bookId), demo.size, values, demo.region);
  const { live, readOutLag } = settings.book.words;
  const sensor = 'sensor' in demo.driven && demo.driven.sensor?.measures === 'pressure' ? demo.driven.sensor : null;
  return {
    ratedPower: settings.role('motorPower') ?? stampedPower(demo.plate),
    ratedSpeed: settings.roleValue('motorSpeed'),
    readOutLag,
    processLag: settings.roleValue('analogueFilter'),
    currentStep: settings.countOf(live.motorCurrent),
    voltageStep: live.busVoltage.step,
    ...(sensor && { processRange: toSi(sensor.high, sensor.unit) - toSi(sensor.low, sensor.unit) }),
  };
}

/** Measures the motor at standstill over the link, as the server does; false where the family cannot, or it failed. */
export function tuneAtStandstill(d: SimulatedDrive): boolean {
  const { command, codes, tune } = bookById(d.demo.bookId).words;
  if (!tune) return false;
  d.writeRegister(command.take.register, codes.take);
  for (const word of [ControlWord.shutdown, ControlWord.switchOn]) {
    d.writeRegister(command.control.register, word);
    d.advance(50);
  }
  d.writeRegister(tune.command.register, tune.codes.standstill);
  while (d.readRegister(tune.state.register) === tune.states.busy) {
    d.writeRegister(command.control.register, ControlWord.enableOperation);
    d.advance(100);
  }
  const done = d.readRegister(tune.state.register) === tune.states.done;
  d.writeRegister(command.control.register, ControlWord.switchOn);
  d.advance(50);
  d.writeRegister(command.take.register, codes.give);
  return done;
}
