import {
  conveyorFromDuty,
  givenBackAt,
  hardestStopFrom,
  lookAheadRun,
  resistorForStop,
  restingLoad,
  ReversePermit,
  shortestStop,
  stepConveyor,
  stepHoist,
  totalInertia,
  type ConveyorLoad,
  type HoistLoad,
  type MachineSpec,
} from '../src';
import { machineTypes } from './specs';

const speed = 151;
const downhill = (torque: number, slope = -0.25): ConveyorLoad =>
  conveyorFromDuty({ ratedSpeed: speed, torque, feed: 6, beltSpeed: 1.1, length: 20, slope, ratio: 28 });

/** N·m the belt asks of its motor in steady feed; below zero it drives. */
function asked(belt: ConveyorLoad): number {
  const state = restingLoad();
  for (let i = 0; i < 60_000; i++) stepConveyor(state, belt, speed, 0.001);
  return state.torque + state.friction;
}

// before, a downhill belt was given mass until it motored, and a torque below zero was refused
test.each([-6, -12, 4, 12])('a belt is made to ask what its survey says, driving or driven: %i N·m', (torque) => {
  expect(Math.abs(asked(downhill(torque, torque > 0 ? 0.1 : -0.25)) - torque)).toBeLessThan(0.1 * Math.abs(torque) + 0.2);
});

test('a load that drives its motor gives back for as long as it runs, and the bus trips whatever the ramps', () => {
  const { conveyor } = machineTypes();
  if (!conveyor) throw new Error('there is a conveyor');
  const driven: MachineSpec = { ...conveyor, brake: undefined, load: downhill(-10) };
  expect(givenBackAt(driven, 45)).toBeGreaterThan(300);
  expect(givenBackAt(conveyor, 45)).toBe(0);
  for (const decelerationTime of [2, 60]) {
    const { summary } = lookAheadRun(
      { ...driven, drive: { ...driven.drive, decelerationTime, holdingBrake: 0 } },
      { reference: 45, runTime: 30, longest: 60 },
    );
    expect(summary.trip?.cause).toBe('overvoltage');
  }
});

test('all that turns is counted, the belt and what lies on it too', () => {
  const { conveyor, pump } = machineTypes();
  if (!conveyor || !pump || conveyor.load.kind !== 'conveyor') throw new Error('there are both');
  const arm = conveyor.load.radius / conveyor.load.ratio;
  expect(totalInertia(conveyor)).toBeGreaterThan(conveyor.inertia + conveyor.load.beltMass * arm * arm);
  expect(totalInertia(pump)).toBe(pump.inertia);
});

describe('a hoist', () => {
  const load: HoistLoad = { kind: 'hoist', mass: 900, hookMass: 60, travel: 0.15 / speed, efficiency: 0.8 };
  const hung = (change: Partial<MachineSpec['drive']> = {}): MachineSpec => {
    const { conveyor } = machineTypes();
    if (!conveyor) throw new Error('there is a conveyor');
    const drive = { ...conveyor.drive, holdingBrake: 0, reversePermit: ReversePermit.permitted, ...change };
    return { ...conveyor, brake: undefined, load, drive };
  };

  // M = m g v / (ω η) on the way up and m g v η / ω on the way down: any handbook of crane drives
  test('asks for its weight over its losses on the way up, gives it back less them on the way down, and hangs still between', () => {
    const state = restingLoad();
    stepHoist(state, load);
    const weight = (960 * 9.80665 * 0.15) / speed;
    expect(state.torque + state.friction).toBeCloseTo(weight / 0.8, 9);
    expect(state.torque - state.friction).toBeCloseTo(weight * 0.8, 9);
  });

  test('gives back on the way down no more than its weight does, and nothing on the way up', () => {
    const spec = hung();
    const falling = 960 * 9.80665 * 0.15 * (45 / 50);
    expect(givenBackAt(spec, 45)).toBe(0);
    const back = givenBackAt(spec, -45);
    expect(back).toBeGreaterThan(0.45 * falling);
    expect(back).toBeLessThan(0.8 * falling * 1.05);
  });

  test('is harder to stop on the way down, where it may go down; a resistor is sized for that way', () => {
    const spec = hung();
    const upOnly = hung({ reversePermit: ReversePermit.forbidden });
    expect([hardestStopFrom(spec, 45), hardestStopFrom(upOnly, 45)]).toEqual([-45, 45]);
    expect(shortestStop(spec, 45, 60)).toBeGreaterThan(5 * shortestStop(upOnly, 45, 60));
    const down = resistorForStop(spec, 45, 1, 600);
    const up = resistorForStop(upOnly, 45, 1, 600);
    expect(down?.energy ?? 0).toBeGreaterThan(2 * (up?.energy ?? 0));
  });

  test('counts what hangs on it in all that moves', () => {
    expect(totalInertia(hung())).toBeCloseTo(hung().inertia + 960 * load.travel ** 2, 12);
  });
});
