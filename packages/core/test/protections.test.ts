import {
  createMachine,
  powerCycle,
  protections,
  soundConditions,
  stepMachine,
  tripCauses,
  ControlWord,
  DriveState,
  Phase,
  TripHistory,
  type Conditions,
  type DriveParameters,
  type Machine,
  type MachineSpec,
} from '../src';
import { present } from '../src/present';
import { machine, machineTypes, run } from './specs';

const dt = 0.001;

const started = (change: Partial<DriveParameters> = {}, conditions: Partial<Conditions> = {}, spec: MachineSpec = machine(change, undefined, 0.05)) =>
  createMachine(spec, { ...soundConditions(), ...conditions });

const whenTurning = (change: Partial<DriveParameters>, strike: Partial<Conditions>, seconds: number, spec?: MachineSpec): Machine => {
  const m = started(change, {}, spec ?? machine(change));
  run(m, 45, 8);
  expect(m.trip).toBeNull();
  Object.assign(m.conditions, strike);
  return run(m, 45, seconds);
};

describe('protections', () => {
  test('every cause has a policy, and what safety or damage tripped never restarts by itself', () => {
    expect(Object.keys(protections).sort()).toEqual([...tripCauses].sort());
    for (const cause of ['earthFault', 'overcurrent', 'stoDiscrepancy', 'externalTrip', 'motorTemperature'] as const)
      expect(protections[cause].autoRestart).toBe(false);
  });

  test.each([
    ['earthFault', { earthFault: 1 }, { earthConductance: 0.06 }, 0.2],
    ['overcurrent', {}, { shortCircuit: 1 }, 0.05],
    ['outputPhaseLoss', { phaseLoss: 1 }, { motorPhaseOpen: 1 }, 1],
    ['externalTrip', {}, { externalTrip: 1 }, 0.2],
    ['liveZeroLoss', { liveZeroLoss: 3 }, { liveZeroLost: 1 }, 1],
    ['stoDiscrepancy', {}, { sto1: 0 }, 2],
  ] as Array<[string, Partial<DriveParameters>, Partial<Conditions>, number]>)('%s', (cause, change, strike, seconds) => {
    const m = whenTurning(change, strike, seconds);
    expect(m.trip?.cause).toBe(cause);
    expect(m.motor.current).toBe(0);
  });

  test('switched off, the same conditions do not trip', () => {
    expect(whenTurning({ liveZeroLoss: 0 }, { liveZeroLost: 1 }, 2).trip).toBeNull();
  });

  test('a jam at speed trips at once on current; a motor that cannot start stalls', () => {
    expect(whenTurning({}, { jam: 150 }, 0.5).trip?.cause).toBe('overcurrent');
    const held = started({ stallTime: 2, currentLimit: 18 }, { jam: 150 });
    run(held, 45, 8);
    expect(held.trip?.cause).toBe('stall');
    // a small motor held at part speed stands at the limit far above 0 Hz, and has stalled all the same
    const { agitator, fan } = machineTypes();
    const stirrer = createMachine({ ...agitator, drive: { ...agitator.drive, stallTime: 4, currentLimit: 1 } });
    run(stirrer, 35, 6);
    stirrer.conditions.jam = 8;
    run(stirrer, 35, 10);
    expect(stirrer.trip?.cause).toBe('stall');
    // a heavy fan that climbs along its limit has not
    const heavy = createMachine({ ...fan, drive: { ...fan.drive, stallTime: 5, accelerationTime: 10 } });
    run(heavy, 45, 60);
    expect(heavy.trip).toBeNull();
    expect(heavy.speed).toBeGreaterThan(130);
  });

  test('a heatsink without its fan in a hot panel trips, and only lets go when it has cooled', () => {
    const m = started({}, { heatsinkFan: 0, ambient: 55 });
    run(m, 50, 400);
    expect(m.trip?.cause).toBe('driveTemperature');
    stepMachine(m, ControlWord.faultReset, 0, dt);
    expect(m.state).toBe(DriveState.fault);
    m.conditions.heatsinkFan = 1;
    m.conditions.ambient = 25;
    run(m, 0, 200, ControlWord.shutdown);
    stepMachine(m, ControlWord.faultReset, 0, dt);
    expect(m.state).not.toBe(DriveState.fault);
  });
});

describe('what a trip leaves behind, and what ends it', () => {
  test('thermistors trip only where they are wired', () => {
    const hot = (motorSensor: number) => {
      const m = started({ motorSensor });
      run(m, 20, 1);
      m.temperature.winding = 150;
      m.temperature.frame = 150;
      return run(m, 20, 2).trip?.cause ?? null;
    };
    expect(hot(1)).toBe('motorTemperature');
    expect(hot(0)).toBeNull();
  });

  test('what needs power off and on is not reset otherwise', () => {
    const m = whenTurning({ earthFault: 1 }, { earthConductance: 0.06 }, 0.2);
    m.conditions.earthConductance = 0;
    stepMachine(m, ControlWord.shutdown, 0, dt);
    stepMachine(m, ControlWord.faultReset, 0, dt);
    expect(m.state).toBe(DriveState.fault);
    powerCycle(m);
    expect(m.trip).toBeNull();
  });

  test('safe torque off always wins: no current in the same step, whatever the control word', () => {
    const m = started();
    run(m, 40, 5);
    m.conditions.sto1 = m.conditions.sto2 = 0;
    stepMachine(m, ControlWord.enableOperation, 40, dt);
    expect(m.motor.current).toBe(0);
    run(m, 40, 1);
    expect(m.state).toBe(DriveState.switchOnDisabled);
    m.conditions.sto1 = m.conditions.sto2 = 1;
    // nor does it start again by itself: the ladder has to be climbed from the foot
    for (let i = 0; i < 500; i++) stepMachine(m, ControlWord.enableOperation, 40, dt);
    expect(m.state).toBe(DriveState.switchOnDisabled);
  });

  test('a trip keeps a snapshot and the last two seconds at full rate', () => {
    const m = started({ earthFault: 1 });
    m.history = new TripHistory();
    run(m, 45, 8);
    m.conditions.earthConductance = 0.06;
    run(m, 45, 0.3);
    const { trip } = m;
    expect(trip).toMatchObject({ cause: 'earthFault', state: DriveState.operationEnabled });
    expect(present(trip).frequency).toBeCloseTo(45, 0);
    expect(present(trip).reference).toBe(45);
    const h = present(present(trip).history);
    expect(h.time).toHaveLength(2000);
    expect(h.time.at(-1)).toBe(0);
    expect(h.time[0]).toBeCloseTo(-1.999, 6);
    expect(h.channels.current.at(-1)).toBeCloseTo(present(trip).current, 3);
    expect(h.channels.frequency[0]).toBeCloseTo(45, 0);
  });

  test('catching and the phases of a stop are left at once when the drive trips', () => {
    const m = started({ stopMode: 2, dcCurrent: 0.5, dcTime: 10 });
    run(m, 40, 5);
    run(m, 40, 1, ControlWord.switchOn);
    expect(m.phase).toBe(Phase.directCurrent);
    m.conditions.externalTrip = 1;
    run(m, 40, 0.2, ControlWord.switchOn);
    expect(m.trip?.cause).toBe('externalTrip');
    expect(m.motor.current).toBe(0);
  });
});
