import { nextState, stepBus, Control, DriveState, StopMode, Switch, type Supply } from '../drive';
import { currentOff, stepDirectCurrent, stepElectrical, stepTest } from './electrical';
import { stepMechanics } from './mechanics';
import { causeGone, stepProtection } from './protection';
import { beginRun, standstill, stepRamp, stepSequence } from './ramp';
import { Phase, type Machine } from './state';

/** Hysteresis of the chopper, V. */
const chopperBand = 15;

/**
 * Advances the CiA 402 state; safe torque off stands above it, and a fault reset clears the remembered cause only when it is gone.
 * @param begin what a fresh enable begins with
 */
export function stepPowerState(m: Machine, word: number, begin: (m: Machine) => void): void {
  const resetNow = (word & Control.faultReset) !== 0 ? 1 : 0;
  const edge = resetNow === 1 && m.resetWas === 0 && causeGone(m);
  m.resetWas = resetNow;
  const before = m.state;
  m.state = nextState(before, word, m.finished === 1, edge);
  if ((m.conditions.sto1 & m.conditions.sto2) === 0 && m.state !== DriveState.fault) m.state = DriveState.switchOnDisabled;
  if (before === DriveState.fault && m.state !== DriveState.fault) {
    m.trip = null;
    m.waiting.fill(0);
  }
  if (m.state === DriveState.operationEnabled && before !== DriveState.operationEnabled && before !== DriveState.quickStop) begin(m);
  if (before === DriveState.operationEnabled && m.state === DriveState.quickStop) {
    m.finished = 0;
    m.phase = Phase.run;
  }
}

const onePhase: Supply = { voltage: 0, frequency: 0, inductance: 0, rectifier: 'single-phase' };

/** What feeds the bus now: a three-phase bridge with a phase missing works as a single-phase one on what is left. */
function feeding(m: Machine): Supply {
  const { supply } = m.spec;
  if (m.conditions.inputPhaseOpen === 0 || (supply.rectifier !== undefined && supply.rectifier !== 'three-phase')) return supply;
  onePhase.voltage = supply.voltage;
  onePhase.frequency = supply.frequency;
  onePhase.inductance = supply.inductance;
  return onePhase;
}

/** Asked for no speed, the ramp down: the pulses are blocked, or the lowest frequency of the inverter would let the shaft creep. */
const standsAtNothing = (m: Machine, stopping: boolean): boolean => !stopping && m.goal === 0 && Math.abs(m.ramp) < standstill;

/**
 * Advances drive, motor, load and bus by one step.
 * @param word control word (IEC 61800-7-201)
 * @param reference Hz, signed
 * @param dt s; 1 ms by default of the callers
 */
export function stepMachine(m: Machine, word: number, reference: number, dt: number): void {
  // a stop ends in the step that sees it finished, whatever the mode
  const enabled = (word & Control.enableOperation) !== 0;
  if (m.state === DriveState.operationEnabled && !enabled && m.spec.drive.stopMode === StopMode.coast) m.finished = 1;
  stepPowerState(m, word, beginRun);
  const on = m.state === DriveState.operationEnabled || m.state === DriveState.quickStop || m.state === DriveState.faultReaction;
  if (on) {
    const stopping = m.state !== DriveState.operationEnabled || !enabled;
    stepSequence(m, stopping, dt);
    if (m.phase === Phase.run) {
      stepRamp(m, stopping, reference, dt);
      if (standsAtNothing(m, stopping)) currentOff(m);
      else stepElectrical(m, dt);
    } else if (m.phase === Phase.test) stepTest(m);
    else if (m.phase === Phase.directCurrent) stepDirectCurrent(m);
    else currentOff(m);
  } else {
    m.ramp = 0;
    m.goal = 0;
    m.brakeCommand = 0;
    currentOff(m);
  }
  const shaftPower = stepMechanics(m, dt);
  const o = m.motor;
  const { rating, drive } = m.spec;
  m.drawn = (on ? o.statorCopperLoss + o.coreLoss + o.rotorCopperLoss + rating.lossPerAmpere * o.current + shaftPower : 0) + rating.idleLoss;
  const resistance = drive.chopper === Switch.on && m.conditions.resistorOpen === 0 ? drive.brakeResistance : 0;
  stepBus(m.bus, feeding(m), rating.busCapacitance, m.drawn, resistance, drive.chopperLevel, drive.chopperLevel - chopperBand, dt);
  m.time += dt;
  m.steps += 1;
  if (m.history !== null) m.history.push(m.frequency, o.current, m.bus.voltage, o.torque, m.speed, m.voltage);
  stepProtection(m, dt);
}
