import { stepSharedSump, type Attached, type PumpLoad, type SharedSump } from '@yare/core';
import { quietWire } from '@yare/core/firmware';
import type { SimulatedDrive } from '../drive/simulatedDrive';

const dt = 0.001;

/** Machines whose time goes on together: one by itself, or several at one sump. */
export class Together {
  readonly drives: SimulatedDrive[] = [];
  private sump: SharedSump | null = null;
  private readonly wire = quietWire();

  add(drive: SimulatedDrive, sharesSump: boolean): void {
    if (sharesSump) this.sump = drive.plant.share(this.sump);
    this.drives.push(drive);
    if (this.drives.length > 1) for (const d of this.drives) d.station = this.wire;
  }

  private get pumps(): Array<Attached<PumpLoad>> {
    return this.drives.flatMap(({ machine }) => (machine.spec.load.kind === 'pump' ? [{ load: machine.spec.load, state: machine.loadState }] : []));
  }

  /** Advances all by whole milliseconds of real time. */
  advance(milliseconds: number): void {
    const { sump } = this;
    if (!sump) {
      for (const d of this.drives) d.advance(milliseconds);
      return;
    }
    const { pumps } = this;
    const pace = this.drives[0]?.pace ?? 1;
    for (const d of this.drives) d.begin(milliseconds);
    for (let i = 0; i < milliseconds * pace; i++) {
      for (const d of this.drives) d.step();
      stepSharedSump(sump, pumps, dt);
    }
    for (const d of this.drives) d.end(milliseconds);
    // with nobody left to keep the process, nothing is asked of anybody
    if (!this.wire.members.some((m) => m?.able)) {
      this.wire.order = [];
      this.wire.output = 0;
    }
  }
}
