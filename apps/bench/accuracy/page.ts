import { heldBy } from './again';
import { bandQuantities, besideOthers, isUnsafe, pct, resultOf, shownErrors, type Beside, type OfQuantity, type Result } from './figures';
import { stands, type Judged, type Stand } from './oneMachine';
import { quantities, type Quantity } from './quantities';

const names: Record<Quantity, string> = {
  peakBusRise: 'Rise of the DC bus while stopping',
  shortestStop: 'Shortest safe stop',
  coastTime: 'Coasting down to a quarter of the speed',
  peakCurrent: 'Peak current on the run-up',
  settledCurrent: 'Current at speed',
  slip: 'Slip at speed',
  settledPressure: 'Pressure at speed, where a sensor measures it',
  unseenPressure: 'Pressure at speed, where nothing measures it',
  timeToTrip: 'Time until an overload trips',
  resistorEnergy: 'Energy into a brake resistor',
};
const columns: Record<Stand, string> = { naive: 'handbook', plate: 'plate', tune: 'after a tune', learning: 'after learning', both: 'after both' };
const otherDay = 'the same machine on the day learned from';
/** After learning, on another day: median, 95th percentile in %. */
const goals: Partial<Record<Quantity, [number, number]>> = {
  peakBusRise: [2, 8],
  peakCurrent: [2, 8],
  settledCurrent: [2, 8],
  settledPressure: [2, 8],
};
/** Shortest safe stop: 95th percentile in %. */
const stopGoal = 10;

const line = (cells: readonly (string | number)[]) => `| ${cells.join(' | ')} |`;

function row(q: Quantity, of: OfQuantity): string {
  const cell = (s: Beside) => (of[s] ? `${of[s].medianPct} / ${of[s].p95Pct}` : '');
  const goal = goals[q];
  const wanted = goal ? `${goal[0]} / ${goal[1]}` : q === 'shortestStop' ? `– / ${stopGoal}` : '';
  return line([names[q], of.count, ...stands.map(cell), wanted, cell('sameOtherDay')]);
}

/** Share of the machines that lie inside the bands made from all the others. */
function insideOthers(each: ReturnType<typeof besideOthers>): string {
  const share = (q: (typeof bandQuantities)[number], side: 'plate' | 'learning') => {
    const all = each.flatMap(({ judged, band }) => {
      const width = band(judged.kind, side === 'learning', q);
      return shownErrors([judged], q, side).map((e) => width !== null && e <= width);
    });
    return `${pct(all.filter(Boolean).length / all.length)} of ${all.length}`;
  };
  return bandQuantities.map((q) => line([q, share(q, 'plate'), share(q, 'learning')])).join('\n');
}

const decisions = (r: Result) => line(['right in %', ...stands.map((s) => r.tripsRightPct[s]), r.tripsRightPct.sameOtherDay]);

/** docs/accuracy.md. */
export function pageOf(all: readonly Judged[], seed: number): string {
  const r = resultOf(all);
  const each = besideOthers(all);
  const refused = all.filter((j) => j.refused).length;
  return `# Accuracy of the look-ahead

Made by \`npm run accuracy\`; never edited by hand. Seed ${seed}, ${all.length} machines, every one of them **simulated**; ${all.filter((j) => j.truthTrips).length} tripped while they stopped,
${refused} recordings were refused to be learned from. ${heldBy('lookahead', (n) => all[n])}.

The machine that is judged against is another model than the application's, in code of its own (apps/bench/truth): windings in time with bending iron,
deep bars and heat, diodes one by one, a firmware that estimates what it cannot measure, loads of other shape than the handbook's. Its constants
are drawn as far from the plate's as the application itself says they may lie. On one day a run with the stop that the screens offer from the plate
alone, about twice the shortest foreseen, is recorded through the drive's registers, rounded and late, and learned from; where that tells little of the
inertia, as the screen says then, another run is made with the stop that is offered then, and both are learned from together. The motor is measured at
standstill where its drive can. On **another day**, with other mains, air, water and load, other runs are judged: other ramps, another top speed, a
stop anywhere from far too fast to far too slow. Nobody sets a stop below a second on such machines and none is offered: a shortest stop below it
counts as a second. What flows while a drive looks for a spinning shaft is not counted to the run-up, and neither is its stop.

Each cell is the median error / the 95th percentile, in % of the true figure. An estimate that could not be made counts as 100 % off. "Handbook" is what plate,
energy and ramp settings say without a model. A drive family that cannot measure its motor keeps the plate's figures in "after a tune".
The last column is no estimate: it is how far the machine itself, on the day that was learned from, lies from itself on the day it is judged. Who knew that day
to the last digit would be as far off; a goal below that cannot be met by learning.

${line(['', 'machines', ...stands.map((s) => columns[s]), 'wanted after learning', otherDay])}
|---|---|---|---|---|---|---|---|---|
${quantities.flatMap((q) => (r.quantities[q] ? [row(q, r.quantities[q])] : [])).join('\n')}

Whether it trips while stopping, as the ramp is set:

${line(['', ...stands.map((s) => columns[s]), otherDay])}
|---|---|---|---|---|---|---|
${decisions(r)}

The screens offer the shortest stop lengthened by what any machine of its kind fell short of its own, after learning by twice that, and by 12 % at
least. After learning, by all the other machines, that lay more than 3 % below the true shortest stop of ${each.filter(({ judged, band }) => isUnsafe(judged, band)).length} of ${all.length} machines (none should).

Bands. The screens draw the 95th percentile by kind of machine as the band of a figure. Here each machine is held against bands made from
all the others; a 95 % band should hold 90 to 97 %:

| | from the plate: inside, % | after learning: inside, % |
|---|---|---|
${insideOthers(each)}
`;
}
