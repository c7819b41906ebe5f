import fc from 'fast-check';
import { allBooks, DriveSettings, factoryValues, toldOf } from '@yare/books';
import type { DriveBook, LiveWord } from '@yare/contract';
import { commandModes, holdBacks, present, resolveCommand, speedGivers, startGivers, wakingMemory, InputJob, type Resolution } from '@yare/core';
import { demoMachine, panelFor } from '@yare/demo-plant';
import { SimulatedDrive } from '../src/drive/simulatedDrive';

/** A demo machine of a family, so that every book has its running drive. */
const tags: Record<string, string> = { 'osier-g': 'C-07', sallow: 'F-32', withy: 'M-55' };
/** ms from one reading of the terminals to the next */
const scan = 10;

/** A drive of a book on the bench, its contacts in the test's hand, and beside it the resolver with a memory of its own that is told the same. */
class Pair {
  readonly drive: SimulatedDrive;
  private closed: boolean[];
  private memory = wakingMemory(true);
  resolution: Resolution | null = null;

  constructor(
    private readonly book: DriveBook,
    values: Record<string, number>,
  ) {
    this.drive = new SimulatedDrive({ ...demoMachine(present(tags[book.id])), asFound: values }, 5, undefined, () => undefined);
    this.closed = this.drive.settings.jobs.map(() => false);
    this.drive.panel.closed = () => this.closed;
  }

  /** So many scans of both with some contacts closed. */
  scan(closed: boolean[], times: number): void {
    this.closed = closed;
    const { drive } = this;
    for (let i = 0; i < times; i++) {
      const { trip, ramp } = drive.machine;
      drive.advance(scan);
      const seen = {
        closed,
        analogue: drive.controls.feedback / 100,
        second: drive.second,
        keypad: { start: false, stop: false },
        link: drive.link.master,
        borrowed: false,
        torqueAllowed: true,
        trip: trip?.cause ?? null,
        present: ramp,
      };
      this.resolution = resolveCommand(drive.controlSettings.command, seen, this.memory, scan / 1000);
      this.memory = this.resolution.memory;
    }
  }

  /** Both wake anew. */
  wake(): void {
    this.drive.controls.memory = wakingMemory(true);
    this.memory = wakingMemory(true);
  }

  private word(name: LiveWord): number {
    const word = this.book.words.live[name];
    return this.drive.settings.wordValue(word, this.drive.readRegister(word.register));
  }

  /** What the drive tells over its link of the last scan, beside what the resolver made of it. */
  expectSame(what: string): void {
    const told = toldOf(this.book, {
      mode: this.word('mode'),
      startedBy: this.word('startedBy'),
      speedBy: this.word('speedBy'),
      heldBack: this.word('heldBack'),
    });
    const r = present(this.resolution);
    const awake = told.held.filter((h) => h !== 'asleep');
    expect([what, told.mode, told.start, told.speed, awake]).toEqual([what, r.mode, r.start, r.speed, inOrder(r.holds)]);
    const { drive } = this;
    if (r.reference !== null || !r.run) expect([what, drive.machine.goal]).toEqual([what, r.run ? r.reference : 0]);
  }
}

const inOrder = (holds: Resolution['holds']) => holdBacks.filter((h) => holds.includes(h));
const rows = (n: number) => Array.from({ length: 2 ** n }, (_, bits) => Array.from({ length: n }, (_unused, i) => ((bits >> i) & 1) === 1));

describe.each(allBooks().map((b) => [b.family, b] as const))('%s: the running drive and the resolver', (_name, book) => {
  const size = demoMachine(present(tags[book.id])).size;
  const factory = factoryValues(book, size, 50);
  const plain = new DriveSettings(book, size, factory, 50);
  const jobs = plain.inputs;

  // every combination of the contacts of a panel, from all open to that combination, for jobs drawn by chance
  test('every combination of contacts gives one command, the same on both', () => {
    fc.assert(
      fc.property(
        fc.tuple(...jobs.map((s) => fc.constantFrom(...present(s.options).map((o) => o.value)))),
        fc.constantFrom(0, 1, 2, 3),
        (chosen, source) => {
          const speed = present(plain.need('speedSource').options)[source];
          const values: Record<string, number> = { ...factory, ...Object.fromEntries(jobs.map((s, i) => [s.code, present(chosen[i])])) };
          const { code } = plain.need('speedSource');
          values[code] = present(speed).value;
          // the signal is told as the drive's filter leaves it, and acts as it comes
          for (const c of plain.change('analogueFilter', 0)) values[c.code] = c.value;
          // looking for a turning motor takes longer than a look at the contacts
          for (const c of plain.change('startMode', 0)) values[c.code] = c.value;
          const pair = new Pair(book, values);
          const open = jobs.map(() => false);
          for (const row of rows(jobs.length)) {
            pair.wake();
            pair.scan(open, 2);
            // long enough for the drive to go through its states to enabled
            pair.scan(row, 6);
            pair.expectSame(`${chosen.join(',')} at ${row.map(Number).join('')}`);
          }
        },
      ),
      { numRuns: 12 },
    );
  });

  test('its words for command are one each, and there is one for everything the core can say', () => {
    for (const [names, codes] of [
      [startGivers, book.told.start],
      [speedGivers, book.told.speed],
      [holdBacks, book.told.held],
      [commandModes, book.told.mode],
    ] as const) {
      expect(Object.keys(codes).sort()).toEqual([...names].sort());
      expect(new Set(Object.values(codes)).size).toBe(names.length);
    }
  });
});

test('a panel built for a drive’s jobs has a contact for each, and none without', () => {
  for (const book of allBooks()) {
    const demo = demoMachine(present(tags[book.id]));
    const settings = new DriveSettings(book, demo.size, {}, 50);
    const wired = settings.jobs.filter((j) => j !== InputJob.notUsed && !(settings.jobs.includes(InputJob.hand) && j === InputJob.runForward));
    expect(panelFor(settings).wires).toHaveLength(wired.length);
  }
});

describe('wires', () => {
  const conveyor = () => {
    const drive = new SimulatedDrive(demoMachine('C-07'), 5, undefined, () => undefined);
    drive.advance(100);
    return drive;
  };
  const inputs = (d: SimulatedDrive) => d.readRegister(111) & 0x3f;

  test('a swapped pair, a cut wire, one that always has voltage and a contact of the wrong kind', () => {
    const d = conveyor();
    const sound = inputs(d);
    for (const [fault, pressed] of [
      [{ kind: 'swap', a: 'D1', b: 'D3' } as const, sound | 4],
      [{ kind: 'cut', a: 'D1' } as const, sound],
      [{ kind: 'bridge', a: 'D1' } as const, sound | 1],
      [{ kind: 'invert', a: 'D1' } as const, sound & ~1],
    ] as const) {
      d.panel.faults = [fault];
      d.panel.state.start = 1;
      d.advance(50);
      expect([fault.kind, inputs(d)]).toEqual([fault.kind, pressed]);
      d.panel.state.start = 0;
      d.advance(50);
    }
  });

  test('a bad contact chatters after it was worked, and is quiet otherwise', () => {
    const d = conveyor();
    d.panel.strike({ kind: 'bounce', a: 'D1' });
    d.advance(500);
    const changes = (milliseconds: number) => {
      let n = 0;
      for (let was = inputs(d), t = 0; t < milliseconds; t += 20) {
        d.advance(20);
        if (inputs(d) !== was) n++;
        was = inputs(d);
      }
      return n;
    };
    expect(changes(1000)).toBe(0);
    d.panel.state.start = 1;
    expect(changes(1600)).toBeGreaterThan(4);
    expect(changes(1000)).toBe(0);
  });

  test('an error that nobody is told of is at a wire the panel has, and is kept with the machine', () => {
    const d = conveyor();
    for (const kind of ['swap', 'cut', 'invert'] as const) d.panel.err(kind);
    expect(d.panel.faults.every((f) => f.unseen && d.panel.panel.wires.some((w) => w.terminal === f.a))).toBe(true);
    const again = new SimulatedDrive(demoMachine('C-07'), 5, d.keptState(), () => undefined);
    expect(again.panel.faults).toEqual(d.panel.faults);
  });

  test('a terminal there is not is refused', () => {
    expect(() => conveyor().panel.strike({ kind: 'cut', a: 'D9' })).toThrow('There is no input D9 to wire.');
  });
});
