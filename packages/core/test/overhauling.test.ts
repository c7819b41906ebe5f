import { conveyorFromDuty, givenBackAt, lookAheadRun, restingLoad, stepConveyor, totalInertia, type ConveyorLoad, type MachineSpec } from '../src';
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
