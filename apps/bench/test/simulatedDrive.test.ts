import { demoPlant } from '@yare/demo-plant';
import { ControlWord, DriveState, present } from '@yare/core';
import { Refusal } from '../src/drive/linkSide';
import { SimulatedDrive } from '../src/drive/simulatedDrive';
import { truthOf } from '../src/plant/truth';

const p11 = present(demoPlant[0]);
const make = (seed = 5) => new SimulatedDrive(p11, seed, undefined, () => undefined);
const setting = {
  accelerationTime: 1024 + 2 * 32,
  minimumFrequency: 1024 + 32,
  maximumFrequency: 1024 + 33,
  ratedCurrent: 1024 + 3,
  hours: 1024 + 8 * 32 + 10,
};
const take = 202;

/** Runs the drive over the link, refreshing the command every 100 ms. */
function run(d: SimulatedDrive, hertz: number, seconds: number): void {
  d.writeRegister(take, 1);
  for (let i = 0; i < seconds * 10; i++) {
    d.writeRegister(200, [ControlWord.shutdown, ControlWord.switchOn][i] ?? ControlWord.enableOperation);
    d.writeRegister(201, hertz * 100);
    d.advance(100);
  }
}

test('the same seed is the same machine and the same run; another seed is another machine', () => {
  const [a, b, c] = [make(5), make(5), make(6)];
  for (const d of [a, b, c]) run(d, 40, 6);
  expect(a.machine.speed).toBe(b.machine.speed);
  expect(a.machine.motor.current).toBe(b.machine.motor.current);
  expect(a.machine.motor.current).not.toBe(c.machine.motor.current);
});

test('the true machine differs from the estimate, within manufacture', () => {
  const one = truthOf(p11, make().settings, 1).spec;
  const two = truthOf(p11, make().settings, 2).spec;
  expect(one.circuit.r1).not.toBe(two.circuit.r1);
  expect(one.inertia / two.inertia).toBeGreaterThan(0.4);
  expect(one.inertia / two.inertia).toBeLessThan(2.5);
});

test('what the registers say is what the machine does, rounded', () => {
  const d = make();
  expect(d.readRegister(103)).toBe(Math.round(d.machine.bus.voltage));
  run(d, 40, 8);
  expect(d.readRegister(101)).toBe(Math.round(d.machine.frequency * 100));
  expect(d.readRegister(102) / 10).toBeCloseTo(d.machine.motor.current, 0);
  expect(d.readRegister(100) & 0x6f).toBe(0x27);
  expect(d.readRegister(110)).toBe(1);
  expect(() => d.readRegister(9999)).toThrow(Refusal);
});

test('nothing moves without taking command first', () => {
  const d = make();
  expect(() => d.writeRegister(200, ControlWord.enableOperation)).toThrow(Refusal);
  d.advance(500);
  expect(d.machine.state).toBe(DriveState.ready);
  expect(d.machine.speed).toBe(0);
});

test('a command that is not refreshed lapses after the time-out and ramps the motor down', () => {
  const d = make();
  run(d, 30, 6);
  expect(d.running).toBe(true);
  d.advance(880);
  expect(d.machine.ramp).toBeCloseTo(30, 1);
  d.advance(300);
  expect(d.machine.ramp).toBeLessThan(30);
  d.advance(20_000);
  expect(d.running).toBe(false);
  expect(d.readRegister(110)).toBe(0);
});

test('on link loss it can also coast or trip', () => {
  for (const [choice, state] of [
    [1, DriveState.switchOnDisabled],
    [2, DriveState.fault],
  ] as const) {
    const d = make();
    d.writeRegister(1024 + 4 * 32 + 3, choice);
    run(d, 30, 5);
    d.advance(1100);
    expect(d.machine.motor.current).toBe(0);
    expect(choice === 1 ? [DriveState.ready, DriveState.switchOnDisabled] : [state]).toContain(d.machine.state);
    if (choice === 2) expect(d.readRegister(108)).toBe(51);
  }
});

test('giving command back while it turns stops it', () => {
  const d = make();
  run(d, 30, 6);
  d.writeRegister(take, 0);
  d.advance(30_000);
  expect(d.running).toBe(false);
});

test('refusals: range, locked while running, read only, contradiction; nothing is changed', () => {
  const d = make();
  const before = { ...d.values };
  const refused = (register: number, word: number, exception: number, why: number) => {
    expect(() => d.writeRegister(register, word)).toThrow(expect.objectContaining({ modbusErrorCode: exception }));
    expect(d.readRegister(115)).toBe(why);
  };
  refused(setting.accelerationTime, 0, 3, 1);
  refused(setting.hours, 5, 2, 3);
  refused(setting.minimumFrequency, 6000, 3, 4);
  run(d, 20, 3);
  refused(setting.ratedCurrent, 100, 6, 2);
  expect(d.values).toEqual(before);
  d.writeRegister(setting.accelerationTime, 77);
  expect(d.values['3a']).toBe(7.7);
  expect(d.readRegister(115)).toBe(0);
});

test('written values are lost at power-off unless kept', () => {
  let saved = 0;
  const d = new SimulatedDrive(p11, 5, undefined, () => (saved += 1));
  d.writeRegister(setting.accelerationTime, 77);
  expect(d.readRegister(116)).toBe(1);
  expect(new SimulatedDrive(p11, 5, d.keptState(), () => undefined).values['3a']).toBe(5);
  expect(() => d.writeRegister(203, 1)).toThrow(Refusal);
  d.writeRegister(203, 19269);
  expect(d.readRegister(116)).toBe(0);
  expect(saved).toBe(1);
  expect(new SimulatedDrive(p11, 5, d.keptState(), () => undefined).values['3a']).toBe(7.7);
});
