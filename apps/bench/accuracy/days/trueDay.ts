import type { DriveSettings } from '@yare/books';
import {
  clampReference,
  ControlWord,
  createMachine,
  DriveState,
  InputJob,
  random,
  restingSensor,
  sensorStep,
  shareOf,
  soundConditions,
  stepPowerState,
  stepSensor,
  type ControlSettings,
  type Machine,
  type Random,
  type Sensor,
} from '@yare/core';
import { powerOnControls, restingControls, scanControls } from '@yare/core/firmware';
import { TrueLoad } from '../../truth/loads';
import type { Truth } from '../../src/plant/truth';

/** s between scans of the drive's terminals here, and of the water while the pump turns. */
export const scan = 0.05;
const flows = 0.01;
/** s in which the shaft follows its field. */
const follows = 0.05;
/** Slip at rated torque, Hz, by the motor's own figures. */
const slipOf = ({ spec, constants }: Truth): number => spec.circuit.ratedFrequency - (constants.ratedSpeed * spec.circuit.poles) / (4 * Math.PI);

/**
 * A pump and its drive through a day: the drive's own terminals, loop, sleep and ramps, the bench's own laws of pump, pipe, taps and transmitter. The
 * motor follows its frequency less its slip: what its windings do within a second is nothing to a day.
 */
export class TrueDay {
  readonly m: Machine;
  readonly controls = restingControls();
  private readonly load: TrueLoad;
  private readonly sensor: Sensor;
  private readonly sensorState;
  private readonly noise: Random;
  private readonly closed: boolean[];
  private readonly slip: number;
  private readonly perHertz: number;
  private readonly torque: number;
  hours = 0;

  constructor(
    private readonly truth: Truth,
    settings: DriveSettings,
    readonly s: ControlSettings,
    range: number,
    seed: number,
    pressure: number,
  ) {
    const { spec, constants } = truth;
    this.m = createMachine(spec, soundConditions());
    this.m.loadState.pressure = pressure;
    this.load = new TrueLoad(constants.shape, { speed: constants.ratedSpeed, torque: constants.ratedTorque }, this.m.loadState);
    this.sensor = { low: 0, high: range, step: 0.004, ...truth.transmitter };
    this.sensorState = restingSensor(this.sensor, pressure);
    this.noise = random(seed * 131 + 5);
    this.closed = settings.jobs.map((job) => job === InputJob.auto || job === InputJob.flowSwitch || job === InputJob.externalTrip);
    this.slip = slipOf(truth);
    this.perHertz = (2 * Math.PI) / (spec.circuit.poles / 2);
    this.torque = constants.ratedTorque;
    powerOnControls(this.controls, s);
    this.controls.memory.mustRelease = false;
  }

  /** % of the sensor's range as the drive reads it. */
  get feedback(): number {
    return this.controls.feedback;
  }

  /** Lets the taps take a flow in m³/s at a pressure in Pa, as they truly are. */
  draw(flow: number, pressure: number): void {
    const { load } = this.m.spec;
    if (load.kind === 'pump') load.demandOpening = flow / (load.demand * Math.sqrt(pressure));
  }

  /** One scan of the drive, and the water up to the next. @param given Hz that are given instead of the loop's */
  step(given: number | null = null): void {
    const { m } = this;
    for (let t = 0; t < scan - 1e-9; t += sensorStep) stepSensor(this.sensorState, this.sensor, m.loadState.pressure, this.noise);
    const analogue = shareOf(this.s.command.analogue.signal, this.sensorState.current);
    const quiet = { start: false, stop: false };
    const link = { alive: false, run: false, reference: 0 };
    scanControls(
      this.controls,
      this.s,
      m,
      { closed: this.closed, analogue, second: 0, keypad: quiet, link, borrowed: false, station: null, hours: this.hours },
      scan,
    );
    m.finished = Math.abs(m.ramp) < 0.05 ? 1 : 0;
    stepPowerState(m, this.controls.word, () => undefined);
    const on = m.state === DriveState.operationEnabled;
    const { drive } = m.spec;
    const runs = on && this.controls.word === ControlWord.enableOperation;
    m.goal = runs ? clampReference(drive, given ?? this.controls.reference, m.ramp) : 0;
    m.motor.torque = m.loadState.torque;
    const by = (drive.motorFrequency / (m.goal > m.ramp ? drive.accelerationTime : drive.decelerationTime)) * scan;
    m.ramp += Math.max(-by, Math.min(by, m.goal - m.ramp));
    if (on) this.hours += scan / 3600;
    const turns = Math.abs(m.speed) > 0.5 || m.ramp > 0;
    const dt = turns ? flows : scan;
    for (let t = 0; t < scan - 1e-9; t += dt) {
      const wanted = on ? Math.max(0, m.ramp - this.slip * ((m.loadState.torque + m.loadState.friction) / this.torque)) * this.perHertz : 0;
      m.speed += (wanted - m.speed) * Math.min(1, dt / (on ? follows : 0.5));
      this.load.advance(m.loadState, m.spec.load, this.truth.day, m.speed, dt);
    }
  }
}
