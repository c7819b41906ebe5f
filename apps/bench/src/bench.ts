import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { demoPlant } from '@yare/books';
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

function readState(file: string | undefined): Record<string, KeptState> {
  if (!file || !existsSync(file)) return {};
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Record<string, KeptState>;
  } catch {
    return {}; // a half-written file is a drive with lost memory: factory and as-found values again
  }
}

/** Starts all demo machines in real time behind one Modbus TCP server. */
export async function startBench({ host, port, plantPort = 0, seed, stateFile }: BenchOptions): Promise<Bench> {
  const state = readState(stateFile);
  const drives = new Map<number, SimulatedDrive>();
  const save = () => {
    if (!stateFile) return;
    const all = Object.fromEntries([...drives.values()].map((d) => [d.demo.tag, d.keptState()]));
    writeFileSync(`${stateFile}.new`, JSON.stringify(all));
    renameSync(`${stateFile}.new`, stateFile);
  };
  for (const demo of demoPlant) drives.set(demo.unit, new SimulatedDrive(demo, seed, state[demo.tag], save));
  const sides = new Map([...drives.values()].map((d) => [d.demo.tag, new PlantSide(d)]));
  const plant = await servePlant(sides, host, plantPort);
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
      save();
      await plant.app.close();
      await server.close();
    },
  };
}
