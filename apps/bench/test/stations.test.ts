import { SimulatedDrive } from '../src/drive/simulatedDrive';
import { PlantSide } from '../src/panel/plantSide';
import { Together } from '../src/plant/together';
import { auto, make, seconds, until, type Change } from './autoMachine';

describe('three pumps at one sump', () => {
  function station(change: Change = {}) {
    const group = new Together();
    const drives = ['P-41', 'P-42', 'P-43'].map((tag) => make(tag, { sleepFrequency: 0, ...change }));
    for (const { d } of drives) group.add(d, true);
    const sides = drives.map(({ d }) => new PlantSide(d, false, () => group.drives));
    for (const side of sides) side.act(auto, 0);
    const running = () => drives.filter(({ d }) => d.running && d.machine.goal !== 0).map((_, i) => i);
    return { group, drives, sides, running };
  }

  test('one pumps while it is enough; another comes when more flows in, and one that trips is replaced', () => {
    const { group, drives, sides } = station({ stageUpDelay: 5, stageDownDelay: 5 });
    sides[0]?.act({ handles: { inflow: 12 } }, 0);
    group.advance(60_000);
    const runs = () => drives.filter(({ d }) => d.running && Math.abs(d.machine.goal) > 0).length;
    expect(runs()).toBe(1);
    sides[0]?.act({ handles: { inflow: 60 } }, 0);
    expect(until(group, () => runs() === 2, 240)).toBeLessThan(240);
    const first = drives.findIndex(({ d }) => d.running);
    sides[first]?.act({ fault: { id: 'external', trigger: 'now' } }, 0);
    group.advance(20_000);
    const lost = drives[first]?.d;
    expect(lost?.machine.trip?.cause).toBe('externalTrip');
    expect(runs()).toBe(2);
    // whoever looks at the lost one is told which pumps took over
    const word = lost?.book.words.live.pumpsOn;
    const others = [1, 2, 3].filter((n) => n !== first + 1).reduce((bits, n) => bits | (1 << (n - 1)), 0);
    expect(word && lost?.readRegister(word.register)).toBe(others);
    sides[0]?.act({ handles: { inflow: 8 } }, 0);
    expect(until(group, () => runs() === 1, 400)).toBeLessThan(400);
    for (const side of sides) side.act({ panel: { mode: 1 } }, 0);
    group.advance(1000);
    expect(word && drives[2]?.d.readRegister(word.register)).toBe(0);
  });

  test('one in hand runs by itself and the others go on without it', () => {
    const { group, drives, sides } = station();
    sides[0]?.act({ panel: { mode: 0, knob: 0.6 }, handles: { inflow: 30 } }, 0);
    group.advance(60_000);
    expect(drives[0]?.d.controls.resolution?.mode).toBe('hand');
    expect(drives[0]?.d.machine.goal).toBeCloseTo(30, 0);
    expect(drives.slice(1).filter(({ d }) => d.running).length).toBe(1);
    expect(drives[1]?.d.controls.station.order).not.toContain(1);
  });
});

describe('pumps on contactors', () => {
  /** The pressure pump with another of its make on relay R2. */
  const pair: Change = {
    ...{ setpoint: 0.52, sleepFrequency: 0, noFlowDelay: 0, stationKind: 1, stationPumps: 2, stationMost: 2, 'relay R2': 8 },
    // against a kept pressure the output never falls below what just holds it, here about 47 Hz
    ...{ stageUpFrequency: 49.5, stageUpDelay: 5, stageDownFrequency: 47.6, stageDownDelay: 10 },
  };
  const assisting = (d: SimulatedDrive) => (d.machine.spec.load.kind === 'pump' ? d.machine.spec.load.assisting : -1);

  test('another comes when the drive’s own is not enough, and goes when it is', () => {
    const { d, side } = make('P-11', pair);
    side.act({ ...auto, handles: { demand: 40 } }, 0);
    seconds(d, 30);
    expect(assisting(d)).toBe(0);
    // more than the drive's own pump makes at full speed: the pressure falls, and is held again by two
    side.act({ handles: { demand: 100 } }, 0);
    expect(until(d, () => assisting(d) === 1, 60)).toBeLessThan(60);
    seconds(d, 30);
    expect(Math.abs(d.controls.feedback - 52)).toBeLessThan(2);
    expect(d.controls.pumpHours[1]).toBeGreaterThan(0.005);
    side.act({ handles: { demand: 10 } }, 0);
    expect(until(d, () => assisting(d) === 0, 60)).toBeLessThan(60);
  });

  test.each([
    ['hand', { panel: { mode: 0 } }],
    ['off', { panel: { mode: 1 } }],
    ['the emergency stop', { panel: { stop: 1 } }],
    ['an external trip', { fault: { id: 'external', trigger: 'now' as const } }],
  ])('%s drops the one on its contactor at once', (_name, act) => {
    const { d, side } = make('P-11', pair);
    side.act({ ...auto, handles: { demand: 100 } }, 0);
    expect(until(d, () => assisting(d) === 1, 60)).toBeLessThan(60);
    side.act(act, 0);
    seconds(d, 0.5);
    expect(assisting(d)).toBe(0);
  });
});
