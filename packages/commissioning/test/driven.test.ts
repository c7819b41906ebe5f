import { drivenFields, drivenFigure, specOf } from '../src';
import { demoDraft, demoMachine, demoPlant } from '@yare/demo-plant';
import Ajv from 'ajv';
import { Driven, type DrivenKind } from '@yare/contract';
import { usualRotorInertia, type StampedPlate, drivenFromMotor, loadFromDriven, lookAheadRun, present } from '@yare/core';
import { completePlate } from '@yare/core';

const isDriven = new Ajv().compile(Driven);
const kinds = Object.keys(drivenFields) as DrivenKind[];
const plates = demoPlant.map((m) => m.plate);
const plate: StampedPlate = present(demoPlant.find((m) => m.tag === 'F-32')).plate;

describe.each(kinds)('a %s', (kind) => {
  test('is asked for figures the record takes, from the least to the most', () => {
    const driven = drivenFromMotor(kind, plate);
    for (const f of drivenFields[kind]) {
      expect(drivenFigure(driven, f.key) === null).toBe(f.optional === true);
      for (const value of [f.min, f.max, ...(f.optional ? [null] : [])]) {
        isDriven({ ...driven, [f.key]: value });
        expect([f.key, value, isDriven.errors]).toEqual([f.key, value, null]);
      }
    }
  });

  test('is estimated from any motor of the plant so that it can be computed', () => {
    for (const p of plates) {
      const driven = drivenFromMotor(kind, p);
      expect(isDriven(driven)).toBe(true);
      expect(() => loadFromDriven(driven, completePlate(p))).not.toThrow();
    }
  });
});

// hydraulic power ρ g Q H and air power p Q over the efficiency: textbook relations (for example ISO 9906, ISO 5801)
test('an estimated pump or fan takes the usual share of its motor', () => {
  for (const p of plates) {
    const watts = p.power * (p.powerUnit === 'kW' ? 1000 : 745.7);
    const pump = drivenFromMotor('pump', p);
    const fan = drivenFromMotor('fan', p);
    if (pump.kind !== 'pump' || fan.kind !== 'fan') throw new Error('another kind');
    expect((998 * 9.81 * (pump.flow / 3600) * pump.head) / (pump.efficiency / 100) / watts).toBeCloseTo(0.85, 1);
    expect(((fan.flow / 3600) * fan.pressure) / (fan.efficiency / 100) / watts).toBeCloseTo(0.85, 1);
  }
});

test('a fan is taken to be far heavier than the rotor, a pump about as heavy', () => {
  const rotor = usualRotorInertia(30_000, 4);
  // 0.04 · 30^0.9 · 2^2.5 = 4.83 kg·m², worked by hand
  expect(drivenFromMotor('fan', plate).inertia).toBeCloseTo(4.8, 1);
  expect(drivenFromMotor('fan', plate).inertia / rotor).toBeGreaterThan(5);
  expect(drivenFromMotor('pump', plate).inertia / rotor).toBeCloseTo(1, 1);
});

// a bridge on one phase lets the bus sag between its pulses: under load it stands well below one on three phases (Mohan, Undeland, Robbins, ch. 5)
test('a drive for three phases that the survey found on one is looked ahead on one', () => {
  const [three, one] = [undefined, 1 as const].map((phases) => {
    const machine = demoMachine('P-41');
    const spec = specOf({ ...machine, supply: { ...machine.supply, phases } }, machine.plate, demoDraft(machine));
    if (!spec.ok) throw new Error(spec.sentence);
    return lookAheadRun(spec.spec, { reference: 35, runTime: 2, longest: 60, stop: false }).summary;
  });
  expect(present(three).lowestRunningBus).toBeGreaterThan(525);
  expect(present(one).lowestRunningBus).toBeLessThan(present(three).lowestRunningBus - 15);
});
