import { present } from '../src/present';
import {
  hardToStop,
  resistorForStop,
  runningMachine,
  shortestStop,
  sizeResistor,
  stepResistorHeat,
  stopFrom,
  stoppingOptions,
  ControlWord,
  type MachineSpec,
} from '../src';
import { machine, noLoad, run } from './specs';

describe('braking', () => {
  const heavy = machine({ chopperLevel: 760 }, noLoad, 0.3);
  test('a resistor shortens the shortest stop; what is worked out for it is what the model uses', () => {
    const without = shortestStop(heavy, 50);
    const withOne = shortestStop(heavy, 50, 600, 10, heavy.rating.leastResistance);
    expect(withOne).toBeLessThan(0.6 * without);
    const time = (without + withOne) / 2;
    const sizing = present(resistorForStop({ ...heavy, drive: { ...heavy.drive, decelerationTime: time } }, 50, time, 120));
    expect(sizing.energy).toBeGreaterThan(500);
    expect(sizing.energy).toBeLessThan(0.5 * 0.3 * 314 ** 2);
    expect(sizing.meanPower).toBeCloseTo(sizing.energy / 120, 6);
    const drive = {
      ...heavy.drive,
      decelerationTime: time,
      chopper: 1,
      brakeResistance: Math.min(sizing.mostResistance, 200) * 0.95,
      resistorPower: 1e6,
    };
    expect(stopFrom({ ...heavy, drive }, 50, 60).trip).toBeNull();
    const tooLarge = { ...drive, brakeResistance: sizing.mostResistance * 4 };
    expect(stopFrom({ ...heavy, drive: tooLarge }, 50, 60).trip).toBe('overvoltage');
  });
  test('a machine as hard to stop as it may be is heavier and turns easier; what a run has narrowed narrows that too', () => {
    const hard = hardToStop(heavy);
    expect(hard.inertia / heavy.inertia).toBeCloseTo(Math.exp(1.645 * 0.35), 6);
    expect(hardToStop(heavy, { inertia: { times: 1, spread: 0.03 } }).inertia / heavy.inertia).toBeLessThan(1.06);
    const energy = (spec: MachineSpec) => present(resistorForStop(spec, 50, 8, 600)).energy;
    expect(energy(hard)).toBeGreaterThan(1.5 * energy(heavy));
    expect(stoppingOptions(heavy, 50, 600, hard).resistorAtMost).toEqual(resistorForStop(hard, 50, heavy.drive.decelerationTime, 600));
  });
  test('no resistor is offered where none suits, or where the current limit makes the stop and not the resistor', () => {
    const braked = machine({ decelerationTime: 1 }, noLoad, 0.6);
    // a chopper whose least resistor takes less than the peak: 300 Ω or more, and far less to take it
    expect(resistorForStop({ ...braked, rating: { ...braked.rating, leastResistance: 300 } }, 50, 1.5, 600)).toBeNull();
    const limited = { ...braked, drive: { ...braked.drive, currentLimit: 14 } };
    expect(
      stopFrom({ ...limited, drive: { ...limited.drive, decelerationTime: 0.5, chopper: 1, brakeResistance: 10, resistorPower: 1e9 } }, 50, 10).held,
    ).toBe(true);
    expect(resistorForStop({ ...limited, rating: { ...limited.rating, leastResistance: 10 } }, 50, 0.5, 600)).toBeNull();
  });
  // peak V²/R, least ohms from chopper current (engineering text books)
  test('sizing arithmetic', () => {
    const s = sizeResistor({ energy: 6000, peak: 4000 }, 760, 10, 50, 60);
    expect(s.leastResistance).toBe(76);
    expect(s.mostResistance).toBeCloseTo(144.4, 1);
    expect(s.peakPower).toBeCloseTo(4000, 0);
    expect(s.meanPower).toBe(100);
  });
  test('a resistor of the rating that is given carries one stop after another, one of the mean power trips', () => {
    const warmest = (rated: number, energy: number, takes: number, every: number): number => {
      let [heat, most] = [0, 0];
      for (let t = 0; t < 20 * every; t += 0.1)
        most = Math.max(most, (heat = stepResistorHeat(heat, (t % every < takes ? energy / takes : 0) / rated, 0.1)));
      return most;
    };
    for (const [energy, takes, every] of [
      [6000, 2, 60],
      [44_000, 8, 600],
      [3000, 1, 20],
    ] as const) {
      const s = sizeResistor({ energy, peak: 4000 }, 760, 10, 50, every);
      expect(warmest(s.ratedPower, energy, takes, every)).toBeLessThan(0.75);
      expect(warmest(s.ratedPower, energy, takes, every)).toBeGreaterThan(0.5);
      if (every > 60) expect(warmest(s.meanPower, energy, takes, every)).toBeGreaterThan(1);
    }
  });
  test('a resistor that is too weak trips on its own heat, one that has burnt through leaves the bus to trip', () => {
    const spec = machine({ decelerationTime: 3, chopper: 1, brakeResistance: 60, resistorPower: 60 }, noLoad, 0.3);
    const m = runningMachine(spec, 50);
    run(m, 50, 5, ControlWord.switchOn);
    expect(m.trip?.cause).toBe('brakeResistor');
    const open = runningMachine({ ...spec, drive: { ...spec.drive, resistorPower: 5000 } }, 50);
    open.conditions.resistorOpen = 1;
    run(open, 50, 5, ControlWord.switchOn);
    expect(open.trip?.cause).toBe('overvoltage');
  });
});

// a drive warm from rated current carries its duty's overload for 60 s (common practice); ± 5 %
