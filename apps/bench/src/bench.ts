import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { demoPlant, type DemoMachine } from '@yare/books';
import type { BenchStand } from '@yare/contract';
import { freePort, serveModbus } from './modbusServer';
import { PlantSide } from './plant';
import { servePlant } from './plantChannel';
import { SimulatedDrive, type KeptState } from './simulatedDrive';

export interface BenchOptions {
  host: string;
  /** 0 takes a free one */
  port: number;
  /** of the plant side; 0 takes a free one */
  plantPort?: number;
  seed: number;
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

/** What is kept of a machine; one that people put here is kept whole. */
type Kept = KeptState & { stand?: BenchStand };

const isKept = (k: unknown): k is Kept =>
  typeof k === 'object' && k !== null && 'values' in k && typeof k.values === 'object' && 'hours' in k && typeof k.hours === 'number';

/** What the drives kept. A file that cannot be understood is put aside under another name and told: the drives then begin with lost memory. */
function readState(file: string | undefined, warn: (sentence: string) => void): Record<string, Kept> {
  if (!file || !existsSync(file)) return {};
  try {
    const state = JSON.parse(readFileSync(file, 'utf8')) as unknown;
    if (typeof state !== 'object' || state === null || !Object.values(state).every(isKept)) throw new Error('it holds something else');
    return state as Record<string, Kept>;
  } catch (error) {
    const aside = `${file}.damaged-${new Date().toISOString().replace(/[:.]/g, '')}`;
    renameSync(file, aside);
    warn(
      `The bench's memory ${file} is damaged (${(error as Error).message}). It is kept as ${aside}; the drives begin with factory and as-found values.`,
    );
    return {};
  }
}

const asDemo = (stand: BenchStand): DemoMachine => ({ ...stand, draft: [], asFound: {} });

/** Starts all demo machines, and those people put here, in real time behind one Modbus TCP server. */
export async function startBench({ host, port, plantPort = 0, seed, stateFile, warn = () => undefined }: BenchOptions): Promise<Bench> {
  const state = readState(stateFile, warn);
  const drives = new Map<number, SimulatedDrive>();
  const stands = new Map(Object.values(state).flatMap(({ stand }) => (stand ? [[stand.tag, stand] as const] : [])));
  const save = () => {
    if (!stateFile) return;
    const all = Object.fromEntries([...drives.values()].map((d) => [d.demo.tag, { ...d.keptState(), stand: stands.get(d.demo.tag) }]));
    writeFileSync(`${stateFile}.new`, JSON.stringify(all));
    renameSync(`${stateFile}.new`, stateFile);
  };
  const sides = new Map<string, PlantSide>();
  const build = (demo: DemoMachine, kept?: KeptState, built = false): PlantSide => {
    const drive = new SimulatedDrive(demo, seed, kept, save);
    for (const [unit, d] of drives) if (d.demo.tag === demo.tag) drives.delete(unit);
    const side = new PlantSide(drive, built);
    drives.set(demo.unit, drive);
    sides.set(demo.tag, side);
    return side;
  };
  for (const demo of demoPlant) build(demo, state[demo.tag]);
  for (const stand of stands.values()) build(asDemo(stand), state[stand.tag], true);
  /** Puts a machine here, or builds it anew. @throws RangeError when it ships with the bench, its address is another's, or its plate makes no motor */
  const put = (stand: BenchStand): PlantSide => {
    if (demoPlant.some((m) => m.tag === stand.tag)) throw new RangeError(`${stand.tag} ships with the bench and is not built from the record.`);
    const other = drives.get(stand.unit)?.demo.tag;
    if (other !== undefined && other !== stand.tag) throw new RangeError(`At address ${stand.unit} of the bench stands ${other}.`);
    const side = build(asDemo(stand), undefined, true);
    stands.set(stand.tag, stand);
    save();
    return side;
  };
  const plant = await servePlant(sides, put, host, plantPort);
  const listening = port === 0 ? await freePort(host) : port;
  const server = await serveModbus(drives, host, listening);
  let last = performance.now();
  const timer = setInterval(() => {
    const whole = Math.min(longestCatchUp, Math.floor(performance.now() - last));
    last = whole === longestCatchUp ? performance.now() : last + whole;
    const now = performance.now();
    for (const side of sides.values()) side.tick(now);
    for (const d of drives.values()) d.advance(whole);
  }, 5);
  return {
    drives,
    port: listening,
    plantPort: plant.port,
    stop: async () => {
      clearInterval(timer);
      try {
        save();
      } catch (error) {
        warn(`What the drives keep could not be stored: ${(error as Error).message}.`);
      }
      await plant.app.close();
      await server.close();
    },
  };
}
