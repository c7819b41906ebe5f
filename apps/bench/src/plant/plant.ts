import { bookById, DriveSettings } from '@yare/books';
import type { DemoMachine } from '@yare/demo-plant';
import {
  createMachine,
  random,
  ratedTorque,
  restingSensor,
  sensorStep,
  soundConditions,
  stampedPower,
  stepSensor,
  toSi,
  DriveState,
  TripHistory,
  type Load,
  type Machine,
  type Random,
  type Sensor,
  type SharedSump,
} from '@yare/core';
import { TrueMachine } from '../../truth/machine';
import { truthOf } from './truth';
import { soundWiring, type Wiring } from './wiring';

/** A pump gives less than this share of its best flow: a flow switch sees none. */
const leastFlow = 0.04;
/** V that are left on a supply that is switched off, so that nothing divides by none. */
const deadSupply = 1;
/** Share of the undervoltage level down to which the drive's electronics live from its DC bus (common practice: about half). */
const electronicsLeast = 0.5;

type OfKind<K extends Load['kind']> = Extract<Load, { kind: K }>;

/** Of rated torque that rags hold a wheel with, the share of rated speed backward that takes them off, s in which it does, and what is left at last. */
const ragsHold = 0.7;
const raggedSpeed = 0.1;
const ragsGo = 4;
const leastRags = 0.08;

/**
 * What stands outside the drive: supply, motor, machine, process, transmitter and wires, as they truly are. Handles and faults turn it; the
 * drive learns of it only through its terminals.
 */
/** K */
const roomTemperature = 293.15;

export class Plant {
  readonly machine: Machine;
  /** what moves it */
  readonly truth: TrueMachine;
  readonly wiring: Wiring = soundWiring();
  /** shares of the supply's volts: what a hand has set, and what a fault leaves */
  readonly supply = { handle: 1, fault: 1 };
  /** what somebody who was there saw of the supply, and whether the link's cable came off */
  supplySeen: 'nothing seen' | 'lights dipped' | 'lights flared' | 'power was off' = 'nothing seen';
  linkWasCut = false;
  /** N·m that hold the shaft */
  jam = 0;
  /** share of what can wind itself round a pump's wheel */
  rags = 0;
  /** N·m from the plate */
  readonly ratedTorque: number;
  readonly noise: Random;
  /** a sump it draws from together with others */
  sharedSump: SharedSump | null = null;
  private mains = true;
  private onMains: (on: boolean) => void = () => undefined;
  private readonly trueVoltage: number;
  /** the load as the seed made it */
  private readonly sound: Load;
  private readonly sensor: Sensor;
  private readonly sensorState;
  private times = 1;

  constructor(
    readonly demo: DemoMachine,
    values: Readonly<Record<string, number>>,
    seed: number,
    day = 0,
  ) {
    const truth = truthOf(demo, new DriveSettings(bookById(demo.bookId), demo.size, values, demo.region), seed, day);
    this.trueVoltage = truth.spec.supply.voltage;
    this.machine = createMachine(truth.spec, soundConditions());
    this.machine.history = new TripHistory();
    this.sound = { ...truth.spec.load };
    this.ratedTorque = ratedTorque(stampedPower(demo.plate), demo.plate.speed);
    const wired = 'sensor' in demo.driven ? demo.driven.sensor : null;
    const inSi = (figure: number) => (wired ? toSi(figure, wired.unit) : figure);
    this.sensor = { low: inSi(wired?.low ?? 0), high: inSi(wired?.high ?? 1), step: 0.004, ...truth.transmitter };
    this.sensorState = restingSensor(this.sensor, 0);
    this.noise = random(seed * 31 + demo.unitId + day * 7907);
    this.truth = new TrueMachine(this.machine, truth.constants, truth.day, this.noise);
  }

  /** Who is told when the mains are switched. */
  whenSwitched(tell: (on: boolean) => void): void {
    this.onMains = tell;
  }

  get powered(): boolean {
    return this.mains;
  }

  /** Whether the drive's electronics have power: from the mains, or for as long as its bus still holds enough. */
  get awake(): boolean {
    return this.mains || this.machine.bus.voltage > electronicsLeast * this.machine.spec.rating.undervoltageTrip;
  }

  switchMains(on: boolean): void {
    if (on === this.mains) return;
    this.mains = on;
    this.feed();
    this.onMains(on);
  }

  private feed(): void {
    this.machine.spec.supply.voltage = this.mains ? this.trueVoltage * this.supply.handle * this.supply.fault : deadSupply;
  }

  /** Whether the motor is led by its drive, slowing down for a stop, or at the speed asked. */
  get running(): boolean {
    return this.machine.state === DriveState.operationEnabled || this.machine.state === DriveState.quickStop;
  }

  get stopping(): boolean {
    return this.running && this.machine.goal === 0 && Math.abs(this.machine.ramp) > 0.5;
  }

  get atSpeed(): boolean {
    return this.running && this.machine.goal !== 0 && Math.abs(this.machine.ramp - this.machine.goal) < 0.3;
  }

  /** Changes a load of one kind; what it was when sound comes beside it. */
  changeLoad<K extends Load['kind']>(kind: K, change: (load: OfKind<K>, sound: Readonly<OfKind<K>>) => void): void {
    const { load } = this.machine.spec;
    const isOf = (l: Load): l is OfKind<K> => l.kind === kind;
    if (isOf(load) && isOf(this.sound)) change(load, this.sound);
  }

  /** An agitator's product, times as thick as the one it was made for. */
  get thickness(): number {
    return this.times;
  }

  set thickness(times: number) {
    this.changeLoad('torque', (l, sound) => {
      l.viscous = sound.viscous * times;
      l.quadratic = sound.quadratic * times;
    });
    this.times = times;
  }

  /** kg/s on a belt and m³/s out of a pipe as they were when sound */
  get usualFeed(): number {
    return this.sound.kind === 'conveyor' ? this.sound.feed : 0;
  }

  get usualDemand(): number {
    return this.sound.kind === 'pump' ? this.sound.demand : 0;
  }

  /** m³/s into the sump a pump draws from. */
  get inflow(): number {
    const { load } = this.machine.spec;
    return this.sharedSump?.inflow ?? (load.kind === 'pump' ? load.inflow : 0);
  }

  set inflow(flow: number) {
    if (this.sharedSump) this.sharedSump.inflow = flow;
    else this.changeLoad('pump', (l) => (l.inflow = flow));
  }

  get hasSump(): boolean {
    const { load } = this.machine.spec;
    return this.sharedSump !== null || (load.kind === 'pump' && load.sumpArea > 0);
  }

  /** Lets a pump draw from a sump it shares; the first that does brings its own. Null for a machine without one. */
  share(sump: SharedSump | null): SharedSump | null {
    const { load } = this.machine.spec;
    if (load.kind !== 'pump' || load.sumpArea <= 0) return null;
    this.sharedSump = sump ?? { area: load.sumpArea, inflow: load.inflow, dryLevel: load.dryLevel, level: this.machine.loadState.level };
    load.sumpArea = 0;
    return this.sharedSump;
  }

  /** Process value in SI that the transmitter sees. */
  private get processValue(): number {
    const { driven } = this.demo;
    const { level, flow, pressure } = this.machine.loadState;
    switch ('sensor' in driven ? driven.sensor?.measures : undefined) {
      case 'level':
        return level;
      case 'flow':
        return flow;
      // nothing on the bench warms the product
      case 'temperature':
        return roomTemperature;
      default:
        return pressure;
    }
  }

  /** mA at the first analogue input. */
  get signal(): number {
    return this.sensorState.current;
  }

  get hasFlow(): boolean {
    const { load } = this.machine.spec;
    return load.kind !== 'pump' || this.machine.loadState.flow > leastFlow * load.bestFlow;
  }

  /** Pumps across the line beside its own, as contactors stand. */
  assist(pumps: number): void {
    this.changeLoad('pump', (l) => (l.assisting = pumps));
  }

  /** Supply, shaft, safety and transmitter as they stand now, once a scan of the drive. */
  scan(emergencyStop: boolean): void {
    const m = this.machine;
    this.feed();
    // what is wound round a wheel comes off when it turns the other way
    if (this.rags > 0 && m.speed < -raggedSpeed * m.spec.circuit.ratedSpeed)
      this.rags = this.rags < leastRags ? 0 : this.rags * (1 - sensorStep / ragsGo);
    m.conditions.jam = this.jam + this.rags * ragsHold * this.ratedTorque;
    // the emergency stop opens both channels, a broken wire one of them
    m.conditions.sto1 = emergencyStop || this.wiring.channel1Broken ? 0 : 1;
    m.conditions.sto2 = emergencyStop ? 0 : 1;
    stepSensor(this.sensorState, this.sensor, this.processValue, this.noise, this.wiring.signalBroken);
  }
}
