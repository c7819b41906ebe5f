import { templateChanges, templateKinds } from '@yare/commissioning/templates';
import { fitJobs, schemesFor } from '@yare/commissioning/fitJobs';
import { transfer } from '@yare/commissioning/copy';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { tags } from './checkOffers';
import { harmOf, liveWith } from './live';
import { lived, type AdviceSeen, type LivedOffer } from './offer';
import { findingsOf, keyOf, sound, type Figures } from './wrongSettings';
import { nth } from '@yare/core';

const errorsOf = (tag: string, now: Figures): string[] =>
  findingsOf(demoMachine(tag), now)
    .filter((f) => f.severity === 'error')
    .map(keyOf);

/** A set of changes taken as a whole: what is wrong afterwards that was not, on paper and, where its panel stays as it is, on the bench. */
function taken(
  by: LivedOffer['by'],
  id: string,
  tag: string,
  changes: ReadonlyArray<{ code: string; value: number }>,
  seed: number,
  live: boolean,
): LivedOffer {
  const base = sound(tag);
  const now = { ...base, settings: base.settings.with({ ...base.settings.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) }) };
  const known = errorsOf(tag, base);
  const worse = errorsOf(tag, now).find((k) => !known.includes(k));
  const harm = worse ?? (live ? harmOf(liveWith(tag, base.settings, seed, seed % 300), liveWith(tag, now.settings, seed, seed % 300)) : null);
  return { by, id, tag, cured: harm === null, harm, held: [] };
}

/** Everything that is taken over from another machine. */
export function copyOffers(seed: number, n: number): AdviceSeen {
  const to = nth(tags, n % tags.length);
  return lived(
    tags
      .filter((from) => from !== to)
      .slice(0, 5)
      .map((from) => {
        const [a, b] = [demoMachine(from), demoMachine(to)];
        const sensor = (m: typeof a) => ('sensor' in m.driven ? m.driven.sensor : null);
        const { taken: values } = transfer(
          sound(from).settings,
          sound(to).settings,
          { from: sensor(a), to: sensor(b) },
          { from: a.driven.kind, to: b.driven.kind },
        );
        return taken('copy', `${a.driven.kind} onto ${b.driven.kind}`, to, values, seed, true);
      }),
  );
}

/** Every way to wire it, and the start its kind is given. */
export function wiringOffers(seed: number, n: number): AdviceSeen {
  const tag = nth(tags, n % tags.length);
  const demo = demoMachine(tag);
  const kind = templateKinds.find((k) => k === demo.driven.kind) ?? 'general';
  const ways = schemesFor(sound(tag).settings).flatMap((s) => {
    const fit = fitJobs(sound(tag).settings, s);
    return fit.lacksSpeed || (s.id === 'hand-off-auto' && !('sensor' in demo.driven && demo.driven.sensor))
      ? []
      : [taken('terminals', s.name, tag, fit.changes, seed, false)];
  });
  return lived([...ways, taken('template', kind, tag, templateChanges(demoDraft(demo), kind, demo.plate), seed, true)]);
}
