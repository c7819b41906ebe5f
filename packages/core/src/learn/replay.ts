import { busAtRest, stepBus, ControlMethod } from '../drive';
import { emptyOperation, operateInto, type Operation } from '../motor';
import { atMotor, stepElectrical, currentOff } from '../machine/electrical';
import { stepMechanics } from '../machine/mechanics';
import { beginFlux, createMachine, ledRight, type Machine, type MachineSpec } from '../machine/state';
import { nth } from '../present';

/** What a drive reported while it ran, sample by sample. All arrays have the same length. */
export interface DriveRecord {
  /** s, ascending */
  time: ArrayLike<number>;
  /** Hz at the terminals; 0 with the output off */
  frequency: ArrayLike<number>;
  /** A */
  current: ArrayLike<number>;
  /** V */
  busVoltage: ArrayLike<number>;
  /** % of rated, as the drive estimates it */
  torque: ArrayLike<number>;
  /** Pa or m of the process, where a sensor is wired */
  process?: ArrayLike<number>;
}

export interface Replayed {
  current: Float64Array;
  busVoltage: Float64Array;
  /** N·m, as the drive works it out of its power: see {@link replay} */
  torque: Float64Array;
  /** Pa */
  process: Float64Array;
}

/** s; a long record is replayed in longer steps, which its slow machine allows. */
const stepFor = (duration: number): number => (duration > 120 ? 0.006 : duration > 60 ? 0.004 : 0.002);

/**
 * Share of the difference by which the replayed bus is drawn to the reported one at each sample while it floats above the rectifier. A floating
 * bus sums up every watt of error, so only the last few samples may tell against the model (prediction-error method: Ljung,
 * *System Identification*, ch. 3).
 */
const busCorrection = 0.3;

/** Hz from which the output is on. */
const leastOn = 0.02;
/** rad/s below which a shaft stands. */
const resting = 0.1;
/** Hz below which a drive's reckoning of torque is of no use to anybody. */
const leastReckoned = 3;

/** Torque as the drive works it out, N·m. @param o what its motor takes */
function reckoned(m: Machine, o: Operation, frequency: number, copper: number): number {
  if (frequency === 0) return 0;
  const field = (4 * Math.PI * Math.max(leastReckoned, Math.abs(frequency))) / m.spec.circuit.poles;
  const { input, coreLoss, current } = o;
  // it knows the volts it asks for, and not what dead time and devices leave of them
  const lost = 3 * (m.spec.rating.inverterDrop ?? 0) * current;
  return (Math.sign(frequency) * (input + lost - coreLoss - 3 * copper * current * current)) / field;
}

function step(m: Machine, frequency: number, dt: number): void {
  const on = Math.abs(frequency) > leastOn;
  m.ramp = frequency;
  if (on) {
    // what stood until now has to build its flux up first
    if (m.frequency === 0 && Math.abs(m.speed) < resting) beginFlux(m);
    m.brakeCommand = 1;
    m.brakeOpening = 1;
    stepElectrical(m, dt);
  } else currentOff(m);
  const shaftPower = stepMechanics(m, dt);
  const o = m.motor;
  const { rating, drive } = m.spec;
  m.drawn = (on ? o.statorCopperLoss + o.coreLoss + o.rotorCopperLoss + rating.lossPerAmpere * o.current + shaftPower : 0) + rating.idleLoss;
  const resistance = drive.chopper === 1 ? drive.brakeResistance : 0;
  stepBus(m.bus, m.spec.supply, rating.busCapacitance, m.drawn, resistance, drive.chopperLevel, drive.chopperLevel - 15, dt);
  m.time += dt;
  m.steps += 1;
}

/**
 * The machine driven along the output frequency a real one reported, giving what it should have reported at the same instants.
 * The drive's own shaping of the frequency (slip compensation, limits) is already in the record and is left out here.
 * Torque is what a drive without a shaft to look at makes of it: input less what it takes for its motor's copper, over the speed of its field.
 * @param lag s, smoothing of current and torque before they are reported
 * @param copper Ω of a phase the drive takes for its motor's
 * @param processLag s, of the drive's filter on its feedback
 */
export function replay(spec: MachineSpec, record: DriveRecord, lag: number, copper = spec.circuit.r1, processLag = 0): Replayed {
  const n = record.time.length;
  const driven: MachineSpec = {
    ...spec,
    supply: { ...spec.supply },
    load: { ...spec.load },
    drive: {
      ...spec.drive,
      slipCompensation: 0,
      controlMethod: spec.drive.controlMethod === ControlMethod.sensorlessVector ? ControlMethod.linear : spec.drive.controlMethod,
    },
  };
  const m = createMachine(driven, ledRight(driven));
  // what was left in the pipe from before the run
  if (record.process && n > 0) m.loadState.pressure = Math.max(0, nth(record.process, 0));
  const atEnd = emptyOperation();
  const out: Replayed = { current: new Float64Array(n), busVoltage: new Float64Array(n), torque: new Float64Array(n), process: new Float64Array(n) };
  const dt = stepFor(n > 0 ? nth(record.time, n - 1) - nth(record.time, 0) : 0);
  const rest = busAtRest(m.spec.supply);
  let current = 0;
  let torque = 0;
  let pressure = m.loadState.pressure;
  const share = (of: number) => (of > 0 ? 1 - Math.exp(-dt / of) : 1);
  const follow = share(lag);
  const followProcess = share(processLag);
  for (let i = 0; i < n; i++) {
    if (i > 0) {
      const t0 = nth(record.time, i - 1);
      const t1 = nth(record.time, i);
      const f0 = nth(record.frequency, i - 1);
      const f1 = nth(record.frequency, i);
      const steps = Math.max(1, Math.round((t1 - t0) / dt));
      for (let k = 0; k < steps; k++) {
        // an output that is off stays off until the sample that shows it on, and the other way round
        const f = f0 === 0 ? 0 : f1 === 0 ? f0 : f0 + ((f1 - f0) * (k + 1)) / steps;
        step(m, f, dt);
        current += (m.motor.current - current) * follow;
        torque += (reckoned(m, m.motor, f, copper) - torque) * follow;
        pressure += (m.loadState.pressure - pressure) * followProcess;
      }
    }
    // a step's torque and current are of its beginning, with the field ahead by all of it; on a ramp that is more than the shaft ever feels
    const frequency = nth(record.frequency, i);
    const on = Math.abs(frequency) > leastOn && m.motor.current > 0 && m.fluxRises === 0;
    const ended = on ? operateInto(atEnd, m.warm, atMotor(m), Math.abs(frequency), m.speed * Math.sign(frequency), m.magnetising) : m.motor;
    const settled = on ? reckoned(m, ended, frequency, copper) - reckoned(m, m.motor, frequency, copper) : 0;
    out.current[i] = current + ended.current - m.motor.current;
    out.busVoltage[i] = m.bus.voltage;
    if (m.bus.voltage > rest || nth(record.busVoltage, i) > rest) m.bus.voltage += busCorrection * (nth(record.busVoltage, i) - m.bus.voltage);
    out.torque[i] = torque + settled;
    out.process[i] = pressure;
  }
  return out;
}
