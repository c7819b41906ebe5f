import {
  drivenFromMotor,
  formatFigure,
  lookAheadRun,
  present,
  ReversePermit,
  Switch,
  type Driven,
  type MachineSpec,
  type StampedPlate,
} from '@yare/core';
import { motionFindings, safeStop, specOf, stageFindings, whileItRuns, type Checked } from '../src';
import { templateChanges } from '../src/templates';
import { demoDraft, demoMachine } from '@yare/demo-plant';

/** C-07's motor stamped 230/400 V and linked in delta, on its 400 V drive. */
const inDelta = (plate: Partial<StampedPlate> = {}): StampedPlate => ({
  ...demoMachine('C-07').plate,
  ...{ voltage: 230, connection: 'delta', current: 8.04, leads: 6 },
  ...plate,
});
const checked = (plate: StampedPlate): Checked => {
  const m = demoMachine('C-07');
  const settings = demoDraft(m);
  const written = settings.with({ ...settings.values, ...Object.fromEntries(settings.plate(plate).map((p) => [p.code, p.value])) });
  return { settings: written, plate, supply: m.supply, driven: m.driven };
};
const found = (plate: StampedPlate) => stageFindings(checked(plate)).filter((f) => f.id.startsWith('raised') || f.id === 'supply above plate');

describe('a motor run on to √3 of its frequency', () => {
  test('is a choice, and no longer only advised against', () => {
    expect(found(inDelta()).map((f) => f.id)).toEqual(['supply above plate']);
    const raised = found(inDelta({ base: 'raised' }));
    expect(raised.map((f) => f.id)).toEqual(['raised base', 'raised base too large', 'raised base speed', 'raised base insulation']);
    expect(present(raised[0]).sentence).toContain('up to 86.6 Hz and 398 V: 3.9 kW at 2543 rpm with the 8.04 A of delta');
    expect(present(raised[1]).sentence).toContain('a larger drive');
  });

  test('gives the drive its own base point, from which the volts at 50 Hz are those of the plate', () => {
    const { settings } = checked(inDelta({ base: 'raised' }));
    expect(settings.role('motorFrequency')).toBeCloseTo(86.6, 1);
    expect(settings.role('motorVoltage')).toBeCloseTo(398, 0);
    expect(settings.role('motorSpeed')).toBeCloseTo(2543, 0);
    expect((present(settings.role('motorVoltage')) * 50) / present(settings.role('motorFrequency'))).toBeCloseTo(230, 0);
  });

  test('in star, or on another supply, cannot be, and the way back is one touch', () => {
    const [f] = found(inDelta({ base: 'raised', connection: 'star', voltage: 400 }));
    expect(f).toMatchObject({ id: 'raised base impossible', severity: 'error', remedy: { plate: { base: 'rated' } } });
  });

  test('two poles and 15 kW would turn faster than a standard motor may', () => {
    const fast = found({ ...inDelta({ base: 'raised', speed: 2930, power: 15, current: 49 }) });
    expect(fast.find((f) => f.id === 'raised base too fast')).toMatchObject({ severity: 'warning' });
  });
});

describe('what a look-ahead says of its run-up and of a load that drives', () => {
  const f32 = () => {
    const m = demoMachine('F-32');
    const spec = specOf(m, m.plate, demoDraft(m));
    if (!spec.ok) throw new Error(spec.sentence);
    return spec.spec;
  };

  // F-32 ran up for a minute at what its drive carries for a minute, and that was called safe
  test('a run-up that stands on an overload curve is a warning, with what it takes', () => {
    const spec = f32();
    const heavy = { ...spec, rating: { ...spec.rating, current: 0.8 * spec.rating.current } };
    const ahead = lookAheadRun(heavy, { reference: 50, runTime: 3, longest: 300 });
    expect(ahead.summary.trip).toBeNull();
    const { cold, warm } = ahead.summary.startHeat;
    expect(cold.drive).toBeLessThan(0.5);
    expect(warm.drive).toBeGreaterThan(0.9);
    expect(motionFindings(heavy, ahead).find((f) => f.id === 'start heat')).toMatchObject({ severity: 'warning' });
    const light = { ...spec, inertia: 0.3 * spec.inertia };
    expect(motionFindings(light, lookAheadRun(light, { reference: 50, runTime: 3, longest: 300 })).some((f) => f.id === 'start heat')).toBe(false);
  });

  // 283 s against 91 s by the ramp, with a cold cage whose breakdown comes at less slip: the output ran ahead of the rotor
  test('F-32 stops no slower by a short ramp that waits for the bus than by the one that is set', () => {
    const spec = f32();
    const time = (decelerationTime: number) => {
      const { summary } = lookAheadRun({ ...spec, drive: { ...spec.drive, decelerationTime } }, { reference: 50, runTime: 3, longest: 400 });
      return present(summary.stopTime);
    };
    const set = time(60);
    for (const short of [5, 10, 40]) expect([short, time(short) < 1.05 * set]).toEqual([short, true]);
  });

  test('a load that drives its motor is told with the resistor it wants for ever', () => {
    const m = demoMachine('C-07');
    if (m.driven.kind !== 'conveyor') throw new Error('C-07 conveys');
    const belt = { ...m.driven, slope: -18, torqueShare: -60, brakeShare: null };
    const spec = specOf({ supply: m.supply, driven: belt }, m.plate, demoDraft(m, { '8e': 0 }));
    if (!spec.ok) throw new Error(spec.sentence);
    const ahead = lookAheadRun(spec.spec, { reference: 45, runTime: 20, longest: 60 });
    const [first] = motionFindings(spec.spec, ahead);
    expect(first).toMatchObject({
      id: 'overhauling',
      severity: 'error',
      sentence: expect.stringMatching(/^The load drives the motor: at 50\.0 Hz it gives back \d\.\d+ kW .* between \d+ and \d+ Ω/),
    });
    // what is fitted is held against what comes back for ever, however long the look-ahead: 100 W burn in it, 600 W after it
    const fitted = (brakeResistance: number, resistorPower: number) => {
      const braked = { ...spec.spec, drive: { ...spec.spec.drive, chopper: Switch.on, brakeResistance, resistorPower } };
      return motionFindings(braked, lookAheadRun(braked, { reference: 45, runTime: 20, longest: 60 }));
    };
    for (const watts of [100, 600]) {
      const [told, ...others] = fitted(200, watts);
      expect(told).toMatchObject({ id: 'overhauling', severity: 'error', sentence: expect.stringContaining('the resistor gets too hot') });
      expect(others.map((f) => f.id)).not.toContain('start trips');
    }
    expect(fitted(900, 3000)[0]).toMatchObject({ severity: 'error', sentence: expect.stringContaining('the DC bus trips whatever the ramps') });
    const [carried, stop] = fitted(200, 3000);
    expect(carried).toMatchObject({ id: 'overhauling', severity: 'good' });
    expect(stop?.sentence).toMatch(/the load drives the motor faster than it may turn .* only a brake holds it then\.$/);
    const runs = present(whileItRuns(spec.spec));
    expect(first?.sentence).toContain(`gives back ${formatFigure(runs.power / 1000, 2)} kW`);
    // P = U²/R: at the most it may have, it takes just that
    const { drive, rating } = spec.spec;
    const level = drive.chopper === Switch.on ? drive.chopperLevel : rating.overvoltageTrip - 25;
    expect(level ** 2 / runs.mostResistance).toBeCloseTo(runs.power, 6);
    expect(whileItRuns(f32())).toBeNull();
    expect(specOf({ supply: m.supply, driven: { ...belt, slope: 2 } }, m.plate, demoDraft(m))).toMatchObject({ ok: false });
  });

  describe('a hoist', () => {
    const m = demoMachine('C-07');
    const hoist = drivenFromMotor('hoist', m.plate);
    if (hoist.kind !== 'hoist') throw new Error('a hoist was asked for');
    const found = (change: Partial<MachineSpec['drive']>) => {
      const built = specOf({ supply: m.supply, driven: hoist }, m.plate, demoDraft(m));
      if (!built.ok) throw new Error(built.sentence);
      const spec = { ...built.spec, drive: { ...built.spec.drive, reversePermit: ReversePermit.permitted, holdingBrake: 0, ...change } };
      return motionFindings(spec, lookAheadRun(spec, { reference: 50, runTime: 3, longest: 60 })).find((f) => f.id === 'lowering');
    };

    test('lowers onto a resistor that takes it for as long as it goes down, or is told what it wants', () => {
      expect(found({ chopper: Switch.off })).toMatchObject({
        severity: 'error',
        sentence: expect.stringMatching(/gives back \d\.\d+ kW .*nothing takes that: .*brake resistor between \d+ and \d+ Ω that carries/),
      });
      expect(found({ chopper: Switch.on, brakeResistance: 200, resistorPower: 3000 })).toMatchObject({ severity: 'good' });
      expect(found({ chopper: Switch.on, brakeResistance: 200, resistorPower: 200 })).toMatchObject({ severity: 'error' });
      expect(found({ reversePermit: ReversePermit.forbidden })).toBeUndefined();
    });

    test('has to have a holding brake, may not start by itself, and its template lowers', () => {
      const draft = demoDraft(m);
      const ids = (driven: Driven) => stageFindings({ settings: draft, plate: m.plate, supply: m.supply, driven }).map((f) => f.id);
      expect(ids(hoist)).toContain('no brake on a hoist');
      expect(ids({ ...hoist, brakeShare: 200 })).not.toContain('no brake on a hoist');
      const reverse = draft.find('reversePermit');
      expect(templateChanges(draft, 'hoist', m.plate).find((c) => c.code === reverse?.code)?.value ?? draft.role('reversePermit')).toBe(
        ReversePermit.permitted,
      );
    });
  });

  test('what is offered as the shortest safe stop is longer than the one foreseen', () => {
    expect(safeStop('pump', false, 10)).toBeGreaterThanOrEqual(10);
    // nobody sets a shorter one
    expect(safeStop('pump', true, 0)).toBe(1);
    // a kind that was never judged is given the most of all, and no kind nothing
    const learned = (['pump', 'fan', 'conveyor', 'agitator'] as const).map((k) => safeStop(k, true, 10));
    expect(Math.min(...learned)).toBeGreaterThan(10.4);
    expect(safeStop('hoist', true, 10)).toBe(Math.max(...learned));
  });
});
