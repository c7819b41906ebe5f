import { bandsOf, bandQuantities, isUnsafe, pct, resultOf, shownErrors, type Beside, type OfQuantity, type Result } from './figures';
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

/** Share of each half's machines that lie inside the bands made from the other half. */
function acrossHalves([a, b]: readonly [Judged[], Judged[]]): string {
  const inside = (judged: Judged[], other: Judged[]) => {
    const bands = bandsOf(other);
    return (quantity: (typeof bandQuantities)[number], side: 'plate' | 'learning') =>
      judged.flatMap((j) => {
        const width = bands[j.kind]?.[side === 'plate' ? 'estimate' : 'learned'][quantity];
        return shownErrors([j], quantity, side).map((e) => width !== undefined && e <= width);
      });
  };
  const [first, second] = [inside(a, b), inside(b, a)];
  const share = (q: (typeof bandQuantities)[number], side: 'plate' | 'learning') => {
    const all = [...first(q, side), ...second(q, side)];
    return `${pct(all.filter(Boolean).length / all.length)} of ${all.length}`;
  };
  return bandQuantities.map((q) => line([q, share(q, 'plate'), share(q, 'learning')])).join('\n');
}

/** Offers of each half by the bands of the other that are too short. */
const unsafeAcross = ([a, b]: readonly [Judged[], Judged[]]): number => {
  const count = (judged: Judged[], other: Judged[]) => {
    const bands = bandsOf(other);
    return judged.filter((j) => isUnsafe(j, (kind, learned, q) => bands[kind]?.[learned ? 'learned' : 'estimate'][q] ?? null)).length;
  };
  return count(a, b) + count(b, a);
};

const decisions = (r: Result) => line(['right in %', ...stands.map((s) => r.tripsRightPct[s]), r.tripsRightPct.sameOtherDay]);

/** docs/accuracy.md. @param halves the machines split in two, to judge the bands of one by the other */
export function pageOf(all: readonly Judged[], halves: readonly [Judged[], Judged[]], made: { seed: number; stamp: string }): string {
  const r = resultOf(all);
  const refused = all.filter((j) => j.refused).length;
  return `# Accuracy of the look-ahead

Made by \`npm run accuracy\`; never edited by hand. Seed ${made.seed}, ${all.length} machines, every one of them **simulated**; ${all.filter((j) => j.truthTrips).length} tripped while they stopped,
${refused} recordings were refused to be learned from. Made from: ${made.stamp} (a test fails when core, books, plant or bench have changed since).

The machine that is judged against is another model than the application's, in code of its own (apps/bench/truth): windings in time with bending iron,
deep bars and heat, diodes one by one, a firmware that estimates what it cannot measure, loads of other shape than the handbook's. Its constants are drawn as
far from the plate's as the application itself says they may lie. On one day a gentle run is recorded through the drive's registers, rounded and late, and
learned from; the motor is measured at standstill where its drive can. On **another day**, with other mains, air, water and load, other runs are judged: other
ramps, another top speed, a stop anywhere from far too fast to far too slow.

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

The screens offer the shortest stop lengthened by what any machine of its kind fell short of its own, after learning by twice that, and by 12 % at least. After learning, by the other half of the machines, that lay more than 3 % below
the true shortest stop of ${unsafeAcross(halves)} of ${all.length} machines (none should).

Bands. The screens draw the 95th percentile by kind of machine as the band of a figure. Here each half of the machines is held against bands made from the
other half; a 95 % band should hold 90 to 97 %:

| | from the plate: inside, % | after learning: inside, % |
|---|---|---|
${acrossHalves(halves)}
`;
}
