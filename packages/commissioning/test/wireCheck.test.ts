import '@yare/books/all';
import {
  askNext,
  changedOver,
  expectedAt,
  lookAtWires,
  notAtRest,
  nothingAnswered,
  takenAsRest,
  wireBegins,
  wireSteps,
  wireText,
  wireVerdict,
  type WireState,
  type WireStep,
  type WireVerdict,
  type WireVerdicts,
} from '../src';
import { InputJob, present, random, type Random } from '@yare/core';
import { demoDraft, demoMachine } from '@yare/demo-plant';

type Fault = { kind: 'none' } | { kind: 'swap'; a: number; b: number } | { kind: 'cut' | 'bridge' | 'other contact' | 'chatter'; a: number };

/** A panel as it really is, and a hand that works it. ms. */
class Panel {
  at = 0;
  state: WireState = wireBegins;
  readonly worked = new Set<number>();
  private chatters = 0;

  constructor(
    readonly steps: readonly WireStep[],
    private readonly inputs: number,
    readonly fault: Fault,
    private readonly u: Random,
  ) {}

  /** What the drive sees at each input: what hangs there, through the wire it is on. */
  private closed(): boolean[] {
    const { fault } = this;
    const contact = (i: number): boolean => {
      const s = this.steps.find((x) => x.input === i);
      const rest = s?.device.atRest === 'closed';
      const own = rest !== this.worked.has(i);
      return fault.kind === 'other contact' && fault.a === i ? !own : own;
    };
    return Array.from({ length: this.inputs }, (_, i) => {
      const from = fault.kind === 'swap' ? (i === fault.a ? fault.b : i === fault.b ? fault.a : i) : i;
      if (fault.kind === 'cut' && fault.a === i) return false;
      if (fault.kind === 'bridge' && fault.a === i) return true;
      if (fault.kind === 'chatter' && fault.a === i && this.chatters > 0) return this.u.uniform() < 0.5;
      return contact(from);
    });
  }

  /** So many ms go by; the link tells every 100. */
  wait(ms: number): void {
    for (const end = this.at + ms; this.at < end;) {
      this.at += 100;
      this.chatters = Math.max(0, this.chatters - 1);
      this.state = lookAtWires(this.state, { at: this.at, closed: this.closed() }, this.steps);
    }
  }

  move(i: number, on: boolean): void {
    if (on) this.worked.add(i);
    else this.worked.delete(i);
    if (this.fault.kind === 'chatter' && this.fault.a === i) this.chatters = 12;
  }

  /** A person who does as the page asks: rest first, then each contact there and back, with a hand so fast, ms. */
  walk(hand: number): WireVerdicts {
    const found: Record<number, WireVerdict> = {};
    this.wait(1500);
    // what stands worked is put to rest, as the page asks
    this.worked.clear();
    this.wait(1500);
    this.state = takenAsRest(this.state, this.at);
    for (const step of this.steps) {
      this.state = askNext(this.state);
      for (let i = 0; i < 6; i++) {
        this.move(step.input, true);
        this.wait(hand);
        this.move(step.input, false);
        this.wait(hand + 2500);
        const v = wireVerdict(step, this.steps, this.state);
        if (v) {
          found[step.input] = v;
          break;
        }
        if (this.state.stage === 'ready') this.state = nothingAnswered(this.state);
        const said = wireVerdict(step, this.steps, this.state);
        if (said) {
          found[step.input] = said;
          break;
        }
      }
    }
    return found;
  }
}

const panels = ['P-11', 'C-07', 'F-32', 'C-21', 'P-41', 'M-55'].map((tag) => {
  const d = demoDraft(demoMachine(tag));
  return { tag, steps: wireSteps(d, { inputs: {} }), inputs: d.inputs.length };
});

/** What each fault has to be told as, and at which inputs. */
function wanted(fault: Fault, steps: readonly WireStep[]): Record<number, string> {
  const { kind } = fault;
  if (kind === 'none') return {};
  const at = (i: number) => present(steps.find((s) => s.input === i));
  if (kind === 'swap') return { [fault.a]: 'elsewhere', [fault.b]: 'elsewhere' };
  // a cut wire of a contact that is closed at rest reads as open for ever, a bridged one as closed
  if (kind === 'other contact') return { [at(fault.a).input]: 'inverted' };
  return { [fault.a]: { cut: 'missing', bridge: 'always closed', chatter: 'bouncing' }[kind] };
}

test.each(panels)('$tag: no fault is told that is not there, and the one that is there is found', ({ steps, inputs }) => {
  const u = random(6);
  const ids = steps.map((s) => s.input);
  const singles = (['cut', 'bridge', 'other contact', 'chatter'] as const).flatMap((kind) => ids.map((a): Fault => ({ kind, a })));
  const swaps = ids.flatMap((a) => ids.filter((b) => b > a).map((b): Fault => ({ kind: 'swap', a, b })));
  for (const fault of [{ kind: 'none' } as Fault, { kind: 'none' } as Fault, ...singles, ...swaps])
    for (const hand of [100, 200, 500, 1500, 5000]) {
      const panel = new Panel(steps, inputs, fault, u);
      for (const i of ids) if (u.uniform() < 0.3) panel.worked.add(i);
      const found = panel.walk(hand);
      const wrong = Object.fromEntries(
        Object.entries(found)
          .filter(([, v]) => v.kind !== 'right')
          .map(([i, v]) => [i, v.kind]),
      );
      expect({ fault, hand, wrong }).toEqual({ fault, hand, wrong: wanted(fault, steps) });
      if (fault.kind === 'swap') expect(changedOver(present(steps.find((s) => s.input === fault.a)), steps, found)).toBe(true);
    }
});

describe('C-07', () => {
  const { steps } = present(panels.find((p) => p.tag === 'C-07'));
  const start = present(steps[0]);
  const rest = [false, true, false, false, false, true];
  const look = (s: WireState, at: number, change: Record<number, boolean> = {}) =>
    lookAtWires(s, { at, closed: rest.map((r, i) => change[i] ?? r) }, steps);
  const ready = takenAsRest(look(wireBegins, 0), 1000);

  test('asks for each input that has a job, by what hangs there', () => {
    expect(steps.map((s) => s.terminal)).toEqual(['D1', 'D2', 'D3', 'D4', 'D5', 'D6']);
    expect(start.ask).toBe('Press Start button and hold it for a moment.');
    expect(expectedAt(InputJob.stopOpens, false)).toMatchObject({ device: 'push button', atRest: 'closed' });
  });

  test('what is not at rest is asked to be put so first', () => {
    const s = look(wireBegins, 0, { 3: true });
    expect(notAtRest(steps, s).map((x) => x.terminal)).toEqual(['D4']);
    // only a person can say that nobody works anything, and not while something still moves
    expect(look(look(s, 5000), 9000).stage).toBe('rest');
    const still = look(s, 5000);
    expect([notAtRest(steps, still), takenAsRest(still, 5100).stage, takenAsRest(still, 6000).stage]).toEqual([[], 'rest', 'ready']);
  });

  test('said before anything was seen, or too soon: it counts once everything has stood still, and not when a hand is at work by then', () => {
    let early = takenAsRest(wireBegins, 0);
    for (const at of [0, 100, 700]) early = look(early, at);
    expect(early.stage).toBe('rest');
    expect(look(early, 800).stage).toBe('ready');
    const moved = look(early, 750, { 0: true });
    expect([moved.said, look(moved, 2000, { 0: true }).stage]).toEqual([false, 'rest']);
  });

  test('half a movement says nothing, however long it lasts', () => {
    expect(ready.stage).toBe('ready');
    const held = look(look(ready, 1100, { 2: true }), 60_000, { 2: true });
    expect([held.stage, wireVerdict(start, steps, held)]).toEqual(['moving', null]);
    const back = look(held, 61_000);
    expect(wireVerdict(start, steps, back)).toBeNull();
    expect(wireVerdict(start, steps, look(back, 63_000))).toEqual({ kind: 'elsewhere', with: 'D3' });
  });

  test('nothing that answered is asked for twice before it is called missing', () => {
    expect(wireVerdict(start, steps, nothingAnswered(ready))).toBeNull();
    expect(wireVerdict(start, steps, nothingAnswered(nothingAnswered(ready)))).toEqual({ kind: 'missing' });
  });

  test('rewiring is advised only where both inputs say so', () => {
    const one: WireVerdicts = { 0: { kind: 'elsewhere', with: 'D3' } };
    expect(wireText(start, present(one[0]), steps, one)).not.toContain('changed over. Change');
    const right: WireVerdicts = { ...one, 2: { kind: 'right' } };
    expect(wireText(start, present(right[0]), steps, right)).toContain('once more before anything is rewired');
    const both: WireVerdicts = { ...one, 2: { kind: 'elsewhere', with: 'D1' } };
    expect(wireText(start, present(both[0]), steps, both)).toContain('these two wires are changed over. Change them back');
  });
});
