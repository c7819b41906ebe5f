import { random, ReversePermit, type Random, nth } from '@yare/core';
import { demoMachine, type DemoMachine } from '@yare/demo-plant';
import { sameFinding, type Remedy, type StageFinding } from '@yare/commissioning';
import { harmOf, liveWith } from './live';
import type { AdviceSeen, LivedOffer } from './offer';
import { acts, findingsOf, keyOf, misset, offerOf, sound, taken, varied, waysOf, type Figures } from './wrongSettings';

export const tags = ['P-11', 'P-41', 'F-32', 'C-07', 'C-21', 'M-55'] as const;

const against = (demo: DemoMachine, now: Figures): StageFinding[] => findingsOf(demo, now).filter((f) => f.severity !== 'good');

/** An offer on paper: its finding gone, and nothing worse come in its place. */
function onPaper(
  demo: DemoMachine,
  now: Figures,
  found: readonly StageFinding[],
  f: StageFinding,
  way: Remedy,
): { cured: boolean; harm: string | null } {
  const after = against(demo, taken(demo, now, way));
  const worse = after.find((x) => (x.severity === 'error' || f.severity === 'good') && !found.some((y) => sameFinding(x, y)));
  return { cured: !after.some((x) => sameFinding(x, f)), harm: worse ? keyOf(worse) : null };
}

/** Machines with one to four settings left wrong: every offer of every check, taken on paper. */
export function offersOnPaper(seed: number, n: number, count: number): LivedOffer[] {
  const tag = nth(tags, n % tags.length);
  const demo = demoMachine(tag);
  const base = sound(tag);
  return Array.from({ length: count }, (_, i) => random(seed * 15_485_863 + n * 32_452_843 + i * 7919)).flatMap((r) => {
    const now = misset(base, r);
    const found = against(demo, now);
    return found.flatMap((f) =>
      waysOf(demo, now, found, f)
        .filter(acts)
        .map((way): LivedOffer => ({ by: 'check', id: offerOf(f, way), tag, ...onPaper(demo, now, found, f, way), held: [] })),
    );
  });
}

const tries = 300;

/** One setting left wrong, so that something is offered about it. */
function oneWrong(demo: DemoMachine, base: Figures, r: Random): { now: Figures; found: StageFinding[] } | null {
  for (let i = 0; i < tries; i++) {
    const now = misset(base, r, 1);
    const found = against(demo, now);
    if (found.some((f) => waysOf(demo, now, found, f).some(acts))) return { now, found };
  }
  return null;
}

/** One machine with one setting left wrong: each offer taken, and the machine lived with it and without. */
export function livedChecks(seed: number, n: number): AdviceSeen {
  const tag = nth(tags, n % tags.length);
  const demo = demoMachine(tag);
  const base = sound(tag);
  const r = random(seed * 49_979_687 + n * 86_028_121);
  const out: AdviceSeen = { offers: [], sound: 1, falseFindings: against(demo, varied(base, r)).map((f) => `${tag} ${keyOf(f)}`) };
  const wrong = oneWrong(demo, base, r);
  if (!wrong) return out;
  const { now, found } = wrong;
  const [of, day] = [seed * 31 + n, Math.floor(300 * r.uniform())];
  const before = liveWith(tag, now.settings, of, day);
  for (const f of found)
    for (const way of waysOf(demo, now, found, f).filter(acts)) {
      const paper = onPaper(demo, now, found, f, way);
      const after = taken(demo, now, way);
      const turns = after.settings.role('reversePermit') === ReversePermit.permitted;
      const life = liveWith(tag, after.settings, of, day);
      out.offers.push({
        ...{ by: 'check', id: offerOf(f, way), tag, held: [] },
        cured: paper.cured,
        harm: paper.harm ?? harmOf(before, life, turns),
      });
    }
  return out;
}
