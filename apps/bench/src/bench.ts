import getPort from 'get-port';
import { demoPlant, type DemoMachine } from '@yare/demo-plant';
import type { BenchStand } from '@yare/contract';
import { serveModbus } from './drive/modbusServer';
import { PlantSide } from './panel/plantSide';
import { servePlant } from './panel/plantChannel';
import { SimulatedDrive, type KeptState } from './drive/simulatedDrive';
import { readMemory, storeMemory } from './memory';
import { Together } from './plant/together';

export interface BenchOptions {
  host: string;
  /** 0 takes a free one */
  port: number;
  /** of the plant side; 0 takes a free one */
  plantPort?: number;
  seed: number;
  /** mains, air, water and grain are those of this day; 0, unless said, is the day everything was drawn on */
  day?: number;
  /** file that holds what the drives keep through power-off; none keeps nothing */
  stateFile?: string;
  /** told of what went wrong with that file */
  warn?: (sentence: string) => void;
}

export interface Bench {
  drives: ReadonlyMap<number, SimulatedDrive>;
  port: number;
  /** of the plant side, HTTP */
  plantPort: number;
  stop(): Promise<void>;
}

/** After a pause of the process the machines catch up at most this far, ms: time lost is lost, not played back. */
const longestCatchUp = 250;

const asDemo = (stand: BenchStand): DemoMachine => ({ ...stand, draft: [], asFound: {} });

/** Every machine that stands on the bench. */
class Machines {
  readonly drives = new Map<number, SimulatedDrive>();
  readonly sides = new Map<string, PlantSide>();
  /** those that people put here, whole */
  private readonly stands: Map<string, BenchStand>;
  /** by the name of what they share, or by tag */
  private readonly groups = new Map<string, Together>();

  constructor(
    private readonly options: Pick<BenchOptions, 'seed' | 'day' | 'stateFile'>,
    warn: (sentence: string) => void,
  ) {
    const memory = readMemory(options.stateFile, warn);
    this.stands = new Map(Object.values(memory).flatMap(({ stand }) => (stand ? [[stand.tag, stand] as const] : [])));
    for (const demo of demoPlant) this.build(demo, memory[demo.tag]);
    for (const stand of this.stands.values()) this.build(asDemo(stand), memory[stand.tag], true);
  }

  save = (): void => {
    const { stateFile } = this.options;
    if (!stateFile) return;
    const all = [...this.drives.values()].map((d) => [d.demo.tag, { ...d.keptState(), stand: this.stands.get(d.demo.tag) }] as const);
    storeMemory(stateFile, Object.fromEntries(all));
  };

  private build(demo: DemoMachine, kept?: KeptState, built = false): PlantSide {
    const drive = new SimulatedDrive(demo, this.options.seed, kept, this.save, this.options.day);
    for (const [unitId, d] of this.drives) if (d.demo.tag === demo.tag) this.drives.delete(unitId);
    const name = demo.sharedSump ?? demo.tag;
    const before = demo.sharedSump === undefined ? undefined : this.groups.get(name);
    const group = before ?? new Together();
    group.add(drive, demo.sharedSump !== undefined);
    this.groups.set(name, group);
    const side = new PlantSide(drive, built, () => group.drives);
    this.drives.set(demo.unitId, drive);
    this.sides.set(demo.tag, side);
    return side;
  }

  /** Puts a machine here, or builds it anew. @throws RangeError when it ships with the bench, its address is another's, or its plate makes no motor */
  put = (stand: BenchStand): PlantSide => {
    if (demoPlant.some((m) => m.tag === stand.tag)) throw new RangeError(`${stand.tag} ships with the bench and is not built from the record.`);
    const other = this.drives.get(stand.unitId)?.demo.tag;
    if (other !== undefined && other !== stand.tag) throw new RangeError(`At address ${stand.unitId} of the bench stands ${other}.`);
    const side = this.build(asDemo(stand), undefined, true);
    this.stands.set(stand.tag, stand);
    this.save();
    return side;
  };

  /** Advances all by whole milliseconds of real time. */
  advance(milliseconds: number): void {
    const now = performance.now();
    for (const side of this.sides.values()) side.tick(now);
    for (const group of this.groups.values()) group.advance(milliseconds);
  }
}

/** Starts all demo machines, and those people put here, in real time behind one Modbus TCP server. */
export async function startBench(options: BenchOptions): Promise<Bench> {
  const { host, port, plantPort = 0, warn = () => undefined } = options;
  const machines = new Machines(options, warn);
  const plant = await servePlant(machines.sides, machines.put, host, plantPort);
  const listening = port === 0 ? await getPort({ host }) : port;
  const server = await serveModbus(machines.drives, host, listening);
  let last = performance.now();
  const timer = setInterval(() => {
    const whole = Math.min(longestCatchUp, Math.floor(performance.now() - last));
    last = whole === longestCatchUp ? performance.now() : last + whole;
    machines.advance(whole);
  }, 5);
  return {
    drives: machines.drives,
    port: listening,
    plantPort: plant.port,
    stop: async () => {
      clearInterval(timer);
      try {
        machines.save();
      } catch (error) {
        warn(`What the drives keep could not be stored: ${error instanceof Error ? error.message : String(error)}.`);
      }
      await plant.app.close();
      await server.close();
    },
  };
}
