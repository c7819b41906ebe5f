/** What all demo machines together cost in real time: share of one core, all of them turning; and one of them twenty times as fast. `--json` prints one object. */
import { demoPlant } from '@yare/demo-plant';
import { present } from '@yare/core';
import { PlantSide } from '../src/panel/plantSide';
import { SimulatedDrive } from '../src/drive/simulatedDrive';

const seconds = 60;
const starts: Record<string, Record<string, number>> = { mode: { mode: 2 }, start: { start: 1 }, run: { run: 1 }, way: { way: 2 } };

const drives = demoPlant.map((demo) => new SimulatedDrive(demo, 11, undefined, () => undefined));
const sides = drives.map((d) => new PlantSide(d));
for (const d of drives) d.advance(500);
for (const [i, side] of sides.entries()) {
  const device = present(present(drives[i]).panel.panel.devices[0]).id;
  side.act({ panel: present(starts[device]) }, 0);
}
for (const d of drives) d.advance(20_000);
const turning = drives.filter((d) => d.running).length;
/** % of a core that some of them take, at a pace, in steps of the bench's own timer: 5 ms. */
function shareOf(these: readonly SimulatedDrive[], pace: number): number {
  const before = process.cpuUsage();
  for (let i = 0; i < seconds * 200; i++) for (const d of these) d.advance(5 * pace);
  const used = process.cpuUsage(before);
  return Math.round((used.user + used.system) / 1e2 / seconds) / 100;
}
const result = {
  ...{ machines: drives.length, turning, shareOfOneCorePct: shareOf(drives, 1) },
  oneAtTwentyPct: shareOf(drives.slice(0, 1), 20),
};
if (process.argv.includes('--json')) console.log(JSON.stringify(result));
else console.table(result);
