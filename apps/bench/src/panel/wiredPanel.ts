import type { WireFault } from '@yare/contract';
import { keypadKeys, type Panel, type PanelContact } from '@yare/demo-plant';
import type { Random } from '@yare/core';

/** What the machine's own contacts say. */
export interface MachineContacts {
  /** the contacts of the external trip chain are as they should be */
  healthy: boolean;
  flow: boolean;
}

/** s a bad contact chatters after each change, and how often in a second it changes then. */
const chatter = { lasts: 1.5, perSecond: 12 };

interface Bouncing {
  was: boolean;
  left: number;
  now: boolean;
}

/** A panel with its devices as they stand, and wires as they truly lie: what a hand did wrong at the terminals is done here. */
export class WiredPanel {
  readonly state: Record<string, number>;
  faults: WireFault[] = [];
  private readonly bouncing = new Map<string, Bouncing>();
  /** what each terminal's wire leads to, in their order */
  private readonly contacts: ReadonlyArray<PanelContact | null>;

  constructor(
    readonly panel: Panel,
    /** digital inputs, in order */
    private readonly terminals: readonly string[],
    private readonly noise: Random,
  ) {
    this.state = Object.fromEntries(panel.devices.map((d) => [d.id, d.rest]));
    this.contacts = terminals.map((t) => panel.wires.find((w) => w.terminal === t)?.contact ?? null);
  }

  /** @throws RangeError with a sentence for a terminal there is not */
  strike(fault: WireFault): void {
    for (const terminal of fault.kind === 'swap' ? [fault.a, fault.b] : [fault.a])
      if (!this.terminals.includes(terminal)) throw new RangeError(`There is no input ${terminal} to wire.`);
    this.faults = [...this.faults, fault];
  }

  /** Does one thing wrong at the wired terminals, and tells nobody what. */
  err(kind: WireFault['kind']): void {
    const wired = this.panel.wires.map((w) => w.terminal);
    const pick = (from: readonly string[]): string => from[Math.floor(this.noise.uniform() * from.length)] ?? '';
    const a = pick(wired);
    const fault: WireFault = kind === 'swap' ? { kind, a, b: pick(wired.filter((t) => t !== a)), unseen: true } : { kind, a, unseen: true };
    if (a !== '') this.strike(fault);
  }

  /** Terminals whose contact is closed with the wires as they lie. @param dt s since the last call */
  closed(machine: MachineContacts, dt: number): boolean[] {
    const sound = this.contacts.map((contact) => contact !== null && this.isClosed(contact, machine));
    for (const fault of this.faults) {
      const a = this.terminals.indexOf(fault.a);
      const was = sound[a] === true;
      if (fault.kind === 'swap') {
        const b = this.terminals.indexOf(fault.b);
        sound[a] = sound[b] === true;
        sound[b] = was;
      } else if (fault.kind === 'bounce') sound[a] = this.bounce(fault.a, was, dt);
      else sound[a] = fault.kind === 'bridge' || (fault.kind === 'invert' && !was);
    }
    return sound;
  }

  private isClosed(contact: PanelContact, machine: MachineContacts): boolean {
    if ('machine' in contact) return contact.machine === 'external chain' ? machine.healthy : machine.flow;
    return contact.closedAt.includes(this.state[contact.device] ?? -1);
  }

  private bounce(terminal: string, sound: boolean, dt: number): boolean {
    const b = this.bouncing.get(terminal) ?? { was: sound, left: 0, now: sound };
    this.bouncing.set(terminal, b);
    if (sound !== b.was) b.left = chatter.lasts;
    b.was = sound;
    b.left -= dt;
    if (b.left <= 0) b.now = sound;
    else if (this.noise.uniform() < chatter.perSecond * dt) b.now = !b.now;
    return b.now;
  }

  /** Keys of the drive's own keypad. */
  get keypad(): { start: boolean; stop: boolean } {
    return { start: this.state[keypadKeys.start] === 1, stop: this.state[keypadKeys.stop] === 1 };
  }

  /** Share of a knob; null when there is none. */
  knob(which: 'knob' | 'secondKnob'): number | null {
    const id = this.panel[which];
    return id === null ? null : (this.state[id] ?? 0);
  }
}
