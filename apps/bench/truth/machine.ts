import { Control, ControlWord, DriveState, MotorCooling, stepPowerState, StopMode, Switch, watchDrive, type Machine, type Random } from '@yare/core';
import { cosTest, sinTest, type DriveSensors, type Sampled } from './estimator';
import { Firmware } from './firmware';
import { TrueHeat, type HeatConstants } from './heat';
import { TrueLoad, type LoadDay, type LoadShape } from './loads';
import { Leads, TrueMotor, type MotorConstants } from './motor';
import { TrueRectifier, type Mains } from './rectifier';

/** Everything about one machine that no plate and no setting tells. */
export interface TrueConstants {
  motor: MotorConstants;
  heat: HeatConstants;
  shape: LoadShape;
  sensors: DriveSensors;
  /** N·m of bearings at any speed, and of the fan and of stray load at rated speed and current */
  bearing: number;
  fan: number;
  stray: number;
  ratedSpeed: number;
  ratedCurrent: number;
  ratedTorque: number;
  /** V an inverter's leg loses to dead time and drops, uncompensated, and the A below which that fades */
  deadTime: number;
  deadKnee: number;
  /** Ω of a line over its reactance, and the negative sequence of the mains */
  lineLoss: number;
  unbalance: number;
}

/** What is otherwise on another day, as multipliers. */
export interface Day extends LoadDay {
  supply: number;
  /** K on top of the air's temperature */
  ambient: number;
  /** mA by which the transmitter has drifted */
  drift: number;
}

/** s of the firmware's round, and how many steps of the windings go into it. */
const round = 0.001;
const steps = 5;
const h = round / steps;
/** Heat moves once in so many rounds. */
const heatEvery = 10;
/** Ω between leads that touch. */
const shorted = 0.15;
/** Of rated volts over amperes, what charges a discharged bus. */
const chargingShare = 0.5;
/** V below its level at which the chopper lets go. */
const chopperBand = 12;
/** Share of rated flux below which a motor has none. */
const restingFlux = 1e-3;
/** Share by which the feed onto a belt differs from one run to the next. */
const runToRun = 0.06;

const saturate = (x: number): number => (x > 1 ? 1 : x < -1 ? -1 : x);

/**
 * The machine as it truly is, behind the figures of a {@link Machine} that its drive measures and counts: windings in time, diodes one by one, a
 * firmware that estimates, loads of their own shape. Shaft, process and temperatures in the {@link Machine} are the true ones; current, volts,
 * torque, bus and power are what the drive's sensors say.
 */
export class TrueMachine {
  readonly firmware: Firmware;
  readonly motor: TrueMotor;
  readonly rectifier: TrueRectifier;
  readonly heat: TrueHeat;
  private readonly load: TrueLoad;
  private readonly mains: Mains;
  private readonly seen: Sampled = { alpha: 0, beta: 0, peak: 0, voltsAlpha: 0, voltsBeta: 0, bus: 0 };
  private angle = 0;
  /** the day as this run finds it */
  private readonly today: Day;
  private readonly sums = { stator: 0, rotor: 0, iron: 0, chopper: 0 };
  /** highest and lowest true bus of the last round, V, and true A RMS */
  busHigh = 0;
  busLow = 0;
  current = 0;

  constructor(
    readonly m: Machine,
    readonly constants: TrueConstants,
    readonly day: Day,
    private readonly noise: Random,
  ) {
    const { supply, rating } = m.spec;
    this.today = { ...day };
    this.motor = new TrueMotor(constants.motor);
    this.heat = new TrueHeat(constants.heat, m.conditions.ambient + day.ambient);
    this.load = new TrueLoad(constants.shape, { speed: constants.ratedSpeed, torque: constants.ratedTorque }, m.loadState);
    const reactance = 2 * Math.PI * supply.frequency * supply.inductance;
    this.mains = {
      voltage: supply.voltage * day.supply,
      frequency: supply.frequency,
      inductance: supply.inductance,
      resistance: constants.lineLoss * reactance,
      unbalance: constants.unbalance,
      kind: supply.rectifier ?? 'three-phase',
    };
    this.rectifier = new TrueRectifier(this.mains, rating.busCapacitance, (chargingShare * supply.voltage) / rating.current);
    m.bus.voltage = this.rectifier.voltage;
    this.firmware = new Firmware(m, constants.sensors, noise);
    this.warm();
  }

  /** One millisecond. */
  advance(asked: number, reference: number): void {
    const { m, firmware } = this;
    // nothing is switched on before the bus is charged
    const word = m.state < DriveState.switchedOn && m.bus.voltage < m.spec.rating.undervoltageTrip ? ControlWord.disableVoltage : asked;
    const enabled = (word & Control.enableOperation) !== 0;
    if (m.state === DriveState.operationEnabled && !enabled && m.spec.drive.stopMode === StopMode.coast) m.finished = 1;
    stepPowerState(m, word, () => this.begin());
    const on = m.state === DriveState.operationEnabled || m.state === DriveState.quickStop || m.state === DriveState.faultReaction;
    if (on) firmware.run(m.state !== DriveState.operationEnabled || !enabled, reference);
    else {
      m.ramp = 0;
      m.goal = 0;
      m.brakeCommand = 0;
      firmware.off();
    }
    this.mains.voltage = m.spec.supply.voltage * this.day.supply;
    this.load.advance(m.loadState, m.spec.load, this.today, m.conditions.coupling === 1 ? m.speed : 0, round);
    this.seen.peak = 0;
    this.busHigh = 0;
    this.busLow = Infinity;
    this.sums.chopper = 0;
    if (this.rests) this.feedBus(0, round);
    else for (let i = 0; i < steps; i++) this.step();
    m.bus.rectifierPower = this.rectifier.power;
    m.bus.chopperPower = this.sums.chopper / steps;
    m.time += round;
    m.steps += 1;
    if (m.steps % heatEvery === 0) this.warm();
    firmware.look(this.seen);
    if (m.history !== null) m.history.push(m.frequency, m.motor.current, m.bus.voltage, m.motor.torque, m.speed, m.voltage);
    watchDrive(m, round);
  }

  /** Nothing turns, no current flows and the flux is gone: only the bus goes on. */
  private get rests(): boolean {
    const { m, motor, firmware } = this;
    if (firmware.on || m.speed !== 0 || motor.flux > restingFlux * this.constants.motor.ratedFlux) return false;
    const driving = m.conditions.coupling === 1 ? Math.abs(m.loadState.torque) : 0;
    const held = this.constants.bearing + m.conditions.jam + m.loadState.friction + (m.spec.brake ? m.spec.brake.torque * (1 - m.brakeOpening) : 0);
    return driving <= held && (!m.spec.brake || m.brakeOpening === 0);
  }

  private begin(): void {
    this.firmware.begin();
    // what comes onto a belt is never quite what came the last time
    this.today.feed = this.day.feed * (1 + runToRun * Math.max(-2, Math.min(2, this.noise.normal())));
  }

  /** Inverter, motor, bus and shaft, one step on. */
  private step(): void {
    const { m, firmware, motor, rectifier, seen, constants } = this;
    const order = m.conditions.phasesSwapped === m.spec.drive.phaseOrder ? 1 : -1;
    const bus = rectifier.voltage;
    const size = Math.min(firmware.volts, bus / Math.sqrt(3));
    let va: number;
    let vb: number;
    if (firmware.still) {
      va = size * firmware.swing * cosTest;
      vb = size * firmware.swing * sinTest;
    } else {
      this.angle += 2 * Math.PI * firmware.turns * h;
      if (this.angle > 2 * Math.PI || this.angle < -2 * Math.PI) this.angle %= 2 * Math.PI;
      va = size * Math.cos(this.angle);
      vb = size * Math.sin(this.angle);
    }
    const open = m.conditions.motorPhaseOpen === 1;
    const leads = !firmware.on || (open && firmware.still) ? Leads.off : open ? Leads.oneOpen : Leads.driven;
    // a leg comes late by its dead time, against its own current
    const { deadTime, deadKnee } = constants;
    const [ia, ib] = [motor.currentA, order * motor.currentB];
    const turned = (Math.sqrt(3) / 2) * ib;
    const [u, v, w] = [saturate(ia / deadKnee), saturate((turned - ia / 2) / deadKnee), saturate((-turned - ia / 2) / deadKnee)];
    const lostA = (deadTime * (2 * u - v - w)) / 3;
    const lostB = (deadTime * (v - w)) / Math.sqrt(3);
    const frequency = Math.abs(firmware.turns);
    motor.advance(va - lostA, order * (vb - lostB), m.speed, frequency, leads, h);
    seen.alpha = motor.currentA;
    seen.beta = order * motor.currentB;
    seen.voltsAlpha = va;
    seen.voltsBeta = vb;
    const length = Math.hypot(motor.currentA, motor.currentB);
    this.current = length / Math.SQRT2;
    const touching = firmware.on && m.conditions.shortCircuit === 1 ? Math.abs(vb) / shorted : 0;
    seen.peak = Math.max(seen.peak, length + touching);
    // dead time keeps volts from the motor, and takes no watt from the bus
    this.feedBus(firmware.on ? 1.5 * ((va - lostA) * seen.alpha + (vb - lostB) * seen.beta) + m.spec.rating.lossPerAmpere * this.current : 0, h);
    this.sums.stator += motor.statorLoss;
    this.sums.rotor += motor.rotorLoss;
    this.sums.iron += motor.ironLoss;
    this.turn();
  }

  /** @param inverter W it takes from the bus @param dt s */
  private feedBus(inverter: number, dt: number): void {
    const { m, rectifier } = this;
    const { drive, rating } = m.spec;
    const bus = rectifier.voltage;
    // electronics take their watts until their own supply gives up
    const idle = (rating.idleLoss * bus) / Math.max(bus, rating.undervoltageTrip / 2) ** 2;
    const chops = drive.chopper === Switch.on && m.conditions.resistorOpen === 0;
    if (!chops || bus < drive.chopperLevel - chopperBand) m.bus.chopping = 0;
    else if (bus > drive.chopperLevel) m.bus.chopping = 1;
    const chopper = m.bus.chopping === 1 ? bus / drive.brakeResistance : 0;
    this.sums.chopper += chopper * bus;
    rectifier.advance(this.mains, inverter / bus + idle + chopper, m.conditions.inputPhaseOpen === 1, dt);
    this.seen.bus = rectifier.voltage;
    if (rectifier.voltage > this.busHigh) this.busHigh = rectifier.voltage;
    if (rectifier.voltage < this.busLow) this.busLow = rectifier.voltage;
  }

  /** N·m with which the brake holds. */
  private brake(): number {
    const { m } = this;
    const { brake } = m.spec;
    if (!brake) return 0;
    m.brakeOpening = Math.max(0, Math.min(1, m.brakeOpening + (m.brakeCommand === 1 ? h : -h) / brake.lag));
    return brake.torque * (1 - m.brakeOpening);
  }

  /** J dω/dt, with friction that holds what it can hold. */
  private turn(): void {
    const { m, motor, constants } = this;
    const { loadState: load } = m;
    const coupled = m.conditions.coupling === 1;
    const share = m.speed / constants.ratedSpeed;
    const amperes = this.current / constants.ratedCurrent;
    const windy = constants.fan * share * Math.abs(share);
    const stray = constants.stray * amperes * amperes * Math.min(1, Math.abs(share));
    const friction = constants.bearing + stray + m.conditions.jam + this.brake() + (coupled ? load.friction : 0);
    const driving = motor.torque - windy - (coupled ? load.torque : 0);
    if (m.speed === 0 && Math.abs(driving) <= friction) return;
    const way = m.speed > 0 || (m.speed === 0 && driving > 0) ? 1 : -1;
    const inertia = coupled ? m.spec.inertia + load.inertia : m.spec.rotorInertia;
    const next = m.speed + (h * (driving - way * friction)) / inertia;
    m.speed = m.speed !== 0 && next * m.speed < 0 && Math.abs(driving) <= friction ? 0 : next;
  }

  /** Heat of what was lost since the last time; resistances follow. */
  private warm(): void {
    const { m, heat, sums, motor } = this;
    const { conditions: c } = m;
    const { rating } = m.spec;
    const over = heatEvery * steps;
    const forced = m.spec.drive.motorCooling === MotorCooling.forced;
    const blown = c.motorFan === 0 ? 0 : forced ? 1 : Math.min(1, Math.abs(m.speed) / this.constants.ratedSpeed);
    const loss = (rating.idleLoss + rating.lossPerAmpere * this.current) / (rating.idleLoss + rating.lossPerAmpere * rating.current);
    const ambient = c.ambient + this.day.ambient;
    heat.advance(sums.stator / over, sums.rotor / over, sums.iron / over, blown, loss, c.heatsinkFan === 1, ambient, heatEvery * round);
    sums.stator = sums.rotor = sums.iron = 0;
    motor.warmTo(heat.winding, heat.rotor);
    m.temperature.winding = heat.winding;
    m.temperature.frame = heat.frame;
    m.heatsink = heat.sink;
  }
}
