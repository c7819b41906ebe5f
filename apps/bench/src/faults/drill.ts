import type { Faults } from './armed';
import { faults } from './faults';
import type { Plant } from '../plant/plant';

/** Faults that surely trip a machine at speed within moments, with what the drive has to watch for so that they do. */
const drilled: ReadonlyArray<{ id: string; watched?: 'phaseLoss' | 'earthFault' }> = [
  ...[{ id: 'swell' }, { id: 'dip' }, { id: 'short' }, { id: 'jam' }, { id: 'external' }, { id: 'sto' }],
  { id: 'motorPhase', watched: 'phaseLoss' },
  { id: 'earth', watched: 'earthFault' },
];

/** Something that goes wrong once the machine runs, and nobody is told what: whoever looks for it finds out with what the link tells. */
export class Drill {
  private hidden: string | null = null;
  private told: string | null = null;

  constructor(
    private readonly plant: Plant,
    private readonly own: Faults,
    /** whether the drive watches for something now */
    private readonly watches: (role: 'phaseLoss' | 'earthFault') => boolean,
  ) {}

  /** @throws RangeError when one goes on already */
  begin(): void {
    if (this.hidden) throw new RangeError(`A drill goes on at ${this.plant.demo.tag} already: end it first.`);
    const may = drilled.filter(
      ({ id, watched }) => faults.some((f) => f.id === id && f.applies(this.plant)) && !this.own.get(id) && (!watched || this.watches(watched)),
    );
    const id = may[Math.floor(this.plant.noise.uniform() * may.length)]?.id;
    if (!id) throw new RangeError(`${this.plant.demo.tag} has no fault left to hide.`);
    this.hidden = id;
    this.told = null;
    this.own.arm(id, 'at speed');
  }

  /** Puts it right and says what it was. @throws RangeError without a drill */
  end(): void {
    const id = this.hidden;
    if (!id) throw new RangeError(`No drill goes on at ${this.plant.demo.tag}.`);
    this.own.disarm(id);
    this.told = id;
    this.hidden = null;
  }

  hides = (id: string): boolean => this.hidden === id;

  view(): { on: boolean; was: string | null } | null {
    return this.hidden || this.told ? { on: this.hidden !== null, was: this.told } : null;
  }
}
