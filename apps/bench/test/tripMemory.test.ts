import { readMemory, readTrace } from '@yare/books';
import { demoDraft, demoMachine, demoPlant, flywheelStand } from '@yare/demo-plant';
import { createMachine, present, stepMachine, tripMachine, ControlWord, TripHistory } from '@yare/core';
import { measurements, usually, type MeasurementId } from '@yare/core/trips';
import { SimulatedDrive, type KeptState } from '../src/drive/simulatedDrive';
import { PlantSide } from '../src/panel/plantSide';
import { reading } from '../src/plant/readings';

const make = (tag: string, kept?: KeptState): SimulatedDrive => {
  const demo = demoMachine(tag);
  const d = new SimulatedDrive({ ...demo, asFound: { ...demoDraft(demo).values } }, 9, kept, () => undefined);
  d.advance(300);
  return d;
};
const memoryOf = (d: SimulatedDrive) => {
  const { first, stride, count } = d.book.words.memory;
  return readMemory(
    d.settings,
    Array.from({ length: stride * count }, (_, i) => d.readRegister(first + i)),
  );
};

describe('what a drive remembers', () => {
  test('its trips, newest first, with how long it had run, through power-off and no more than its family keeps', () => {
    const d = make('P-11');
    new PlantSide(d).act({ panel: { mode: 0, knob: 0.8 } }, 0);
    d.advance(9000);
    const before = d.machine.frequency;
    tripMachine(d.machine, 'overcurrent');
    d.advance(10);
    const [newest] = memoryOf(d);
    expect(newest?.trip).toBe(present(d.book.trips.find((t) => t.cause === 'overcurrent')).code);
    expect(newest?.outputFrequency).toBeCloseTo(before, 0);
    expect(newest?.since).toBeGreaterThan(5);
    expect(d.readRegister(d.book.words.memory.trips.register)).toBe(1);
    for (let i = 0; i < 8; i++) {
      d.machine.trip = null;
      tripMachine(d.machine, i % 2 ? 'undervoltage' : 'externalTrip');
      d.advance(5);
    }
    expect(memoryOf(d)).toHaveLength(d.book.words.memory.count);
    expect(memoryOf(d)[0]?.trip).toBe(present(d.book.trips.find((t) => t.cause === 'undervoltage')).code);
    const again = make('P-11', d.keptState());
    expect(memoryOf(again)).toEqual(memoryOf(d));
    expect(again.readRegister(again.book.words.memory.trips.register)).toBe(9);
  });

  test('two seconds before the newest at every millisecond, where its family keeps them', () => {
    const d = make('F-32');
    new PlantSide(d).act({ panel: { mode: 0, knob: 1 } }, 0);
    d.advance(6000);
    tripMachine(d.machine, 'overvoltage');
    d.advance(5);
    const trace = present(d.book.words.memory.trace);
    const length = d.readRegister(trace.length.register);
    expect(length).toBe(2000);
    const read = present(
      readTrace(
        d.settings,
        Array.from({ length: length * trace.channels.length }, (_, i) => d.readRegister(trace.first + i)),
      ),
    );
    const kept = present(d.machine.trip?.history);
    expect(read.channels.outputFrequency?.at(-1)).toBeCloseTo(present(kept.channels.frequency.at(-1)), 1);
    expect(read.channels.busVoltage?.at(-500)).toBeCloseTo(present(kept.channels.busVoltage.at(-500)), -1);
    const small = make('M-55');
    expect(small.book.words.memory.trace).toBeUndefined();
    expect(() => small.readRegister(20_000)).toThrow();
  });

  test('power that goes while it turns trips it on its bus before its electronics die; the record is there when it is back', () => {
    const d = make('C-21');
    new PlantSide(d).act({ panel: { run: 1, knob: 0.8 } }, 0);
    d.advance(6000);
    d.arm('outage', 'now');
    d.advance(8000);
    expect(d.machine.trip).toBeNull();
    expect(memoryOf(d)[0]?.trip).toBe(present(d.book.trips.find((t) => t.cause === 'undervoltage')).code);
  });

  // common practice: a drive that trips at 460 V remembers 461 V
  test('what it remembers of an overvoltage is the level it tripped at and a volt or two', () => {
    const spec = flywheelStand(1.25);
    const m = createMachine(spec);
    m.history = new TripHistory();
    for (const word of [ControlWord.shutdown, ControlWord.switchOn]) stepMachine(m, word, 0, 0.001);
    for (let i = 0; i < 15_000; i++) stepMachine(m, ControlWord.enableOperation, 60, 0.001);
    for (let i = 0; i < 5000 && m.trip === null; i++) stepMachine(m, ControlWord.switchOn, 0, 0.001);
    expect(m.trip?.cause).toBe('overvoltage');
    expect(spec.rating.overvoltageTrip).toBe(460);
    expect(m.trip?.busVoltage).toBeGreaterThan(460);
    expect(m.trip?.busVoltage).toBeLessThan(462.5);
  });
});

describe('what a person with instruments finds', () => {
  test.each(demoPlant.map((m) => m.tag))('%s when sound: nothing that is wrong anywhere', (tag) => {
    const d = make(tag);
    d.disarm('leads');
    for (const id of Object.keys(measurements) as MeasurementId[]) {
      const outcome = reading(d, id);
      expect([id, Object.keys(usually[id]).includes(outcome)]).toEqual([id, true]);
      if (id !== 'brakeOpens') expect([id, usually[id][outcome as never] as number]).toEqual([id, Math.max(...Object.values(usually[id]))]);
    }
  });
  test('what is wrong is found where it is', () => {
    const d = make('P-11');
    const strikes: Array<[string, MeasurementId, string]> = [
      ['jam', 'turnByHand', 'does not turn'],
      ['sag', 'lineVoltage', 'low'],
      ['inputPhase', 'lineVoltage', 'one phase missing'],
      ['earth', 'insulation', 'low'],
      ['short', 'motorLeads', 'shorted'],
      ['coupling', 'coupling', 'apart'],
      ['valve', 'valves', 'shut'],
      ['external', 'chainContact', 'open'],
      ['hot', 'panelFan', 'stands'],
      ['wire', 'milliamperes', 'none'],
    ];
    for (const [fault, id, outcome] of strikes) {
      d.arm(fault, 'now');
      d.advance(500);
      expect([fault, reading(d, id)]).toEqual([fault, outcome]);
      d.disarm(fault);
      d.advance(500);
      expect([fault, reading(d, id) === outcome]).toEqual([fault, false]);
    }
    expect(() => new PlantSide(d).measure('moon')).toThrow('Nobody can measure "moon".');
  });
});

test('a drill hides a fault that strikes at speed, and tells it when it is over', () => {
  const d = make('C-07');
  const side = new PlantSide(d);
  side.act({ drill: 'begin' }, 0);
  expect(side.view().drill).toEqual({ on: true, was: null });
  expect(side.view().faults.every((f) => f.state === 'off')).toBe(true);
  expect(() => side.act({ drill: 'begin' }, 0)).toThrow('goes on at C-07 already');
  side.act({ drill: 'end' }, 0);
  const was = present(side.view().drill).was;
  expect(side.view().faults.map((f) => f.id)).toContain(was);
  expect(() => side.act({ drill: 'end' }, 0)).toThrow('No drill goes on');
});
