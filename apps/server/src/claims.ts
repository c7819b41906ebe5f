import type { Purpose } from '@yare/contract';
import { refuseWhenGone } from './door/actor';
import { databaseAway, ProblemError } from './problem';

export interface Claim {
  tag: string;
  /** the person who holds it */
  who: string;
  purpose: Purpose;
  /** the server is no longer sure to be alone: what goes on step by step ends with this one */
  lost?: boolean;
}

const doing: Record<Purpose, (c: Claim) => string> = {
  hold: ({ who, tag }) => `${who} holds ${tag} to run`,
  tune: ({ who, tag }) => `${who} is measuring the motor of ${tag}`,
  write: ({ who, tag }) => `${who} is writing to the drive of ${tag}`,
  keep: ({ who, tag }) => `${who} is keeping the settings of ${tag} through power-off`,
  read: ({ who, tag }) => `${who} is reading the drive of ${tag}`,
  drive: ({ who, tag }) => `${who} is naming another drive for ${tag}`,
  address: ({ who, tag }) => `${who} is changing the Modbus address of ${tag}`,
  reset: ({ who, tag }) => `${who} is resetting the trip of ${tag}`,
  wires: ({ who, tag }) => `${who} is trying the wires of ${tag}`,
  bench: ({ who, tag }) => `${who} is building ${tag} on the bench`,
};

/** The machine is claimed by somebody else, or for something else. */
export class Claimed extends ProblemError {
  constructor(readonly claim: Claim) {
    const { who, purpose } = claim;
    super(409, 'Claimed', `${doing[purpose](claim)} at this moment. Nothing was done; wait until that has ended.`, { claim: { who, purpose } });
  }
}

/** The server is not sure to be the only one. */
export const notAlone = (): ProblemError =>
  databaseAway('Another server may have taken it. Nothing acts on a machine until it answers again. Nothing was done.');

/**
 * One claim on a machine at a time, for whatever acts on it: a run, a measurement, a write, keeping, reading, another drive, another
 * address. Taken at once or refused at once; nobody queues for a machine.
 */
export class Claims {
  private readonly held = new Map<string, Claim>();
  private readonly counts = new Map<string, number>();

  /** @param refuse why nothing may act on any machine at this moment; null when it may */
  constructor(private readonly refuse: () => ProblemError | null = () => null) {}

  /** @returns what gives it back. @throws Claimed with who holds it and for what, ProblemError when nothing may act at all */
  take(tag: string, who: string, purpose: Purpose): () => void {
    const why = this.refuse();
    if (why) throw why;
    refuseWhenGone();
    const other = this.held.get(tag);
    if (other) throw new Claimed(other);
    const claim: Claim = { tag, who, purpose };
    this.held.set(tag, claim);
    this.counts.set(tag, this.count(tag) + 1);
    return () => {
      if (this.held.get(tag) === claim) this.held.delete(tag);
    };
  }

  /** Holds the claim while something is done. @throws Claimed before it is begun */
  async during<T>(tag: string, who: string, purpose: Purpose, work: () => Promise<T>): Promise<T> {
    const giveBack = this.take(tag, who, purpose);
    try {
      return await work();
    } finally {
      giveBack();
    }
  }

  /** Whatever is being done to any machine ends with its next step. */
  loseAll(): void {
    for (const claim of this.held.values()) claim.lost = true;
  }

  of(tag: string): Claim | undefined {
    return this.held.get(tag);
  }

  /** How many claims there ever were on a machine: tells whether one came between two looks. */
  count(tag: string): number {
    return this.counts.get(tag) ?? 0;
  }
}
