import type { BenchTrigger } from '@yare/contract';
import type { Plant } from '../plant/plant';
import { faults, type Fault } from './faults';

/** A fault that waits, has struck, or is over. */
class ArmedFault {
  state: 'armed' | 'struck' = 'armed';
  /** s of the machine's time since it struck */
  age = 0;
  private was = { running: false, stopping: false };

  constructor(
    readonly fault: Fault,
    readonly trigger: BenchTrigger,
    p: Plant,
  ) {
    this.was = { running: p.running, stopping: p.stopping };
  }

  /** Advances by dt s; true when it is over by itself. */
  step(p: Plant, dt: number): boolean {
    if (this.state === 'struck') {
      this.age += dt;
      if (this.fault.over?.(p)) return true;
      if (this.fault.lasts !== undefined && this.age >= this.fault.lasts) {
        this.fault.heal(p);
        return true;
      }
      return false;
    }
    const starts = p.running && !this.was.running;
    const stops = p.stopping && !this.was.stopping;
    this.was = { running: p.running, stopping: p.stopping };
    const due =
      this.trigger === 'now' ||
      (this.trigger === 'next start' && starts) ||
      (this.trigger === 'next stop' && stops) ||
      (this.trigger === 'at speed' && p.atSpeed);
    if (due) {
      this.state = 'struck';
      this.fault.strike(p);
    }
    return false;
  }
}

/** The faults of one plant: those that wait and those that have struck. */
export class Faults {
  private readonly armed = new Map<string, ArmedFault>();

  constructor(private readonly plant: Plant) {}

  get(id: string): Pick<ArmedFault, 'state' | 'trigger'> | undefined {
    return this.armed.get(id);
  }

  arm(id: string, trigger: BenchTrigger): void {
    const fault = faults.find((f) => f.id === id);
    if (fault?.applies(this.plant) && !this.armed.has(id)) this.armed.set(id, new ArmedFault(fault, trigger, this.plant));
  }

  /** Takes a waiting fault back, or puts right what one that struck has done. */
  disarm(id: string): void {
    const armed = this.armed.get(id);
    if (armed?.state === 'struck') armed.fault.heal(this.plant);
    this.armed.delete(id);
  }

  /** Advances by dt s of the machine's time. */
  step(dt: number): void {
    for (const [id, armed] of this.armed) if (armed.step(this.plant, dt)) this.armed.delete(id);
  }
}
