import { demoPlant } from '@yare/demo-plant';
import { bookById } from '@yare/books';
import { noLoadCurrentOf, ControlMethod, ControlWord, type SettingRole, present } from '@yare/core';
import { Refusal } from '../src/drive/linkSide';
import { SimulatedDrive } from '../src/drive/simulatedDrive';

const demo = (tag: string) => present(demoPlant.find((d) => d.tag === tag));
const make = (tag = 'C-21', seed = 11) => {
  const d = new SimulatedDrive(demo(tag), seed, undefined, () => undefined);
  // the plate belongs into the drive before anything is measured
  for (const { code, value } of demo(tag).draft) if (/^(1[a-h]|11\/[1-7])$/.test(code)) d.set(code, value);
  return d;
};
const words = (d: SimulatedDrive) => bookById(d.demo.bookId).words;
const state = (d: SimulatedDrive) => d.readRegister(present(words(d).tune).state.register);

/** Tunes over the link as the server does, until it ends or `seconds` have gone by. */
function tune(d: SimulatedDrive, kind: 'standstill' | 'rotating', seconds = 60, each?: (t: number) => void): void {
  const { command, codes, tune: t } = words(d);
  d.writeRegister(command.take.register, codes.take);
  d.writeRegister(command.control.register, ControlWord.shutdown);
  d.advance(50);
  d.writeRegister(command.control.register, ControlWord.switchOn);
  d.advance(50);
  d.writeRegister(present(t).command.register, present(t).codes[kind]);
  for (let i = 0; i < seconds * 10 && state(d) === present(t).states.busy; i++) {
    d.writeRegister(command.control.register, ControlWord.enableOperation);
    d.advance(100);
    each?.(i / 10);
  }
}
const valueOf = (d: SimulatedDrive, role: SettingRole) => d.settings.value(d.settings.need(role));

test('at standstill: takes its time, the shaft stands, and the constants are near the true ones', () => {
  const d = make();
  const progress: number[] = [];
  let turned = 0;
  tune(d, 'standstill', 60, () => {
    progress.push(d.readRegister(present(words(d).tune).progress.register));
    turned = Math.max(turned, Math.abs(d.machine.speed));
  });
  expect(state(d)).toBe(present(words(d).tune).states.done);
  expect(progress.length).toBeGreaterThan(60);
  expect(present(progress[20])).toBeGreaterThan(present(progress[5]));
  expect(turned).toBe(0);
  const { circuit } = d.machine.spec;
  // as cold as the winding is; the sensors have an offset
  const { statorResistance } = d.plant.truth.motor;
  expect(valueOf(d, 'statorResistance') / statorResistance).toBeGreaterThan(0.93);
  expect(valueOf(d, 'statorResistance') / statorResistance).toBeLessThan(1.07);
  // teeth saturate and the bars' slots push the field out: the leakage of the test is less than a turning motor's
  expect(valueOf(d, 'leakageReactance') / (circuit.x1 + circuit.x2)).toBeGreaterThan(0.65);
  expect(valueOf(d, 'leakageReactance') / (circuit.x1 + circuit.x2)).toBeLessThan(1.05);
  expect(valueOf(d, 'rotorResistance') / circuit.r2).toBeGreaterThan(0.6);
  expect(valueOf(d, 'rotorResistance') / circuit.r2).toBeLessThan(1.1);
  expect(valueOf(d, 'noLoadCurrent')).toBe(0);
});

test('results stand in working memory only, until they are kept', () => {
  const d = make();
  d.keep();
  tune(d, 'standstill');
  expect(d.readRegister(words(d).live.unkept.register)).toBe(1);
  const measured = valueOf(d, 'statorResistance');
  d.powerOff();
  d.powerOn();
  expect(valueOf(d, 'statorResistance')).toBe(0);
  expect(measured).toBeGreaterThan(0);
});

test('turning with the belt coupled fails with its reason; taken off, the no-load current is the true one', () => {
  const d = make();
  tune(d, 'rotating');
  expect(state(d)).toBe(present(words(d).tune).states.failed);
  const { faults, fault } = present(words(d).tune);
  expect(present(faults.find((f) => f.code === d.readRegister(fault.register))).sentence).toContain('The motor carries a load');
  expect(valueOf(d, 'statorResistance')).toBe(0);
  const free = make();
  free.machine.conditions.coupling = 0;
  tune(free, 'rotating');
  expect(state(free)).toBe(present(words(free).tune).states.done);
  const { circuit, drive } = free.machine.spec;
  const truth = noLoadCurrentOf(circuit, drive.motorVoltage / Math.sqrt(3));
  expect(valueOf(free, 'noLoadCurrent') / truth).toBeGreaterThan(0.9);
  expect(valueOf(free, 'noLoadCurrent') / truth).toBeLessThan(1.1);
  expect(Math.abs(free.machine.frequency)).toBeLessThan(0.2);
});

test('letting go of operation, or silence, ends it and changes nothing', () => {
  const d = make();
  tune(d, 'standstill', 3);
  d.writeRegister(words(d).command.control.register, ControlWord.switchOn);
  d.advance(200);
  expect(state(d)).toBe(present(words(d).tune).states.failed);
  expect(d.machine.motor.current).toBe(0);
  expect(valueOf(d, 'statorResistance')).toBe(0);
  const silent = make();
  tune(silent, 'standstill', 2);
  silent.advance(3000);
  expect(state(silent)).toBe(present(words(silent).tune).states.failed);
  expect(silent.readRegister(words(silent).live.commandHolder.register)).toBe(0);
});

test('an open motor lead is found before anything is believed', () => {
  const d = make();
  d.machine.conditions.motorPhaseOpen = 1;
  tune(d, 'standstill');
  const { faults, fault } = present(words(d).tune);
  expect(present(faults.find((f) => f.code === d.readRegister(fault.register))).sentence).toContain('One motor lead carries no current');
});

test('it needs command and a standing motor; an unknown kind is refused', () => {
  const d = make();
  const { command, codes, tune: t } = words(d);
  expect(() => d.writeRegister(present(t).command.register, present(t).codes.standstill)).toThrow(Refusal);
  d.writeRegister(command.take.register, codes.take);
  expect(() => d.writeRegister(present(t).command.register, 77)).toThrow(Refusal);
  expect(bookById('withy').words.tune).toBeUndefined();
});

test('the large family measures with its own codes and in its own unit', () => {
  const d = make('F-32');
  tune(d, 'standstill');
  expect(state(d)).toBe(8);
  expect(Math.abs(valueOf(d, 'statorResistance') / 1000 / d.plant.truth.motor.statorResistance - 1)).toBeLessThan(0.1);
});

// a fan's drive bends its law, and bent it the free motor has less flux: measured under it the no-load current read 38 % of Xm wrong
test('under a quadratic law too the no-load current is that of full flux, and the drive has its own law back afterwards', () => {
  const d = make('F-32');
  const law = d.machine.spec.drive.controlMethod;
  expect(law).toBe(ControlMethod.quadratic);
  d.machine.conditions.coupling = 0;
  tune(d, 'rotating', 300);
  const { circuit, drive } = d.machine.spec;
  expect(drive.controlMethod).toBe(law);
  expect(valueOf(d, 'noLoadCurrent') / noLoadCurrentOf(circuit, drive.motorVoltage / Math.sqrt(3))).toBeGreaterThan(0.93);
  expect(valueOf(d, 'noLoadCurrent') / noLoadCurrentOf(circuit, drive.motorVoltage / Math.sqrt(3))).toBeLessThan(1.07);
});

test('leads changed over stay so through power, and put right they turn the belt forward', () => {
  const d = make();
  d.advance(20);
  expect(d.machine.conditions.phasesSwapped).toBe(1);
  expect(d.keptState().leadsSwapped).toBe(true);
  d.disarm('leads');
  expect(d.keptState().leadsSwapped).toBe(false);
  const again = new SimulatedDrive(demo('C-21'), 11, d.keptState(), () => undefined);
  again.advance(20);
  expect(again.machine.conditions.phasesSwapped).toBe(0);
});

test('a lock at the drive refuses every setting but itself', () => {
  const d = make();
  const lock = d.settings.need('settingsLock');
  const ramp = d.settings.need('accelerationTime');
  d.writeRegister(lock.register, 1);
  expect(() => d.writeRegister(ramp.register, 50)).toThrow(Refusal);
  expect(d.readRegister(words(d).live.lastRefusal.register)).toBe(6);
  d.writeRegister(lock.register, 0);
  d.writeRegister(ramp.register, 50);
  expect(valueOf(d, 'accelerationTime')).toBe(5);
});
