import { heldBy } from '../again';
import { pct } from '../figures';
import type { AdviceSeen, LivedOffer, OfferedBy } from './offer';

export interface AdviceResult {
  /** ways out that were offered, and taken */
  offers: number;
  /** % whose finding was gone, or whose trip did not come again */
  curedPct: number;
  /** after which something came that was not before: a trip, a worse finding, a limit passed */
  harmful: number;
  /** % of machines with nothing wrong against which something was said */
  falseFindingsPct: number;
  /** % of foretold figures of a stop that came within their band */
  bandHeldPct: number;
}

const offersOf = (all: readonly AdviceSeen[]): LivedOffer[] => all.flatMap((x) => x.offers);

export function adviceOf(all: readonly AdviceSeen[]): AdviceResult {
  const offers = offersOf(all);
  const held = offers.flatMap((o) => o.held);
  const sound = all.reduce((sum, x) => sum + x.sound, 0);
  const share = (some: number, of: number) => (of === 0 ? 0 : pct(some / of));
  return {
    offers: offers.length,
    curedPct: share(offers.filter((o) => o.cured).length, offers.length),
    harmful: offers.filter((o) => o.harm !== null).length,
    falseFindingsPct: share(all.filter((x) => x.falseFindings.length > 0).length, sound),
    bandHeldPct: share(held.filter((h) => h).length, held.length),
  };
}

const names: Record<OfferedBy, string> = {
  check: 'a check of the settings',
  trip: 'the cure of a trip',
  'look-ahead': 'the look-ahead of a stop',
  resistor: 'a brake resistor for a stop',
  sleep: 'a cure of the day ahead',
  loop: 'values after a step test',
  swinging: 'values against a swing',
  terminals: 'a way to wire it',
  copy: 'a copy of another machine',
  template: 'a start for its kind',
};

const line = (cells: readonly (string | number)[]) => `| ${cells.join(' | ')} |`;

/** docs/accuracy-advice.md. */
export function advicePage(all: readonly AdviceSeen[], seed: number): string {
  const offers = offersOf(all);
  const r = adviceOf(all);
  const row = (name: string, some: readonly LivedOffer[]) =>
    line([
      name,
      some.length,
      new Set(some.map((o) => o.id)).size,
      some.length === 0 ? '–' : pct(some.filter((o) => o.cured).length / some.length),
      some.filter((o) => o.harm !== null).length,
    ]);
  const failed = offers
    .filter((o) => !o.cured || o.harm !== null)
    .map((o) => `- ${o.by}, ${o.tag}: ${o.id}${o.harm === null ? ', without effect' : `: ${o.harm}`}`);
  const against = [...new Set(all.flatMap((x) => x.falseFindings))].map((f) => `- ${f}`);
  return `# What becomes of a machine whose advice is taken

Made by \`npm run accuracy -- --part advice --seed ${seed} --count ${all.length}\`; never edited by hand; ${offers.length} offers taken, every machine **simulated**.
${heldBy('advice', (n) => all[n])}.

Machines of every kind and family are left with seeded wrong settings, or led to a trip by a fault, a loop is set too firm, a panel is to be wired otherwise, and
another machine's settings are taken over. **Every** way out that is offered then is taken: checks are gone through as a whole, so that a new one cannot be forgotten.
What was said is looked at again, and the machine is lived on the bench, whose motor, load, bus and panel share no equation with what gave the advice: left alone,
started at its panel, run and stopped, once without and once with the advice. Harmful is a trip, a start by itself, a turn backwards, a stop that does not come or
an error that was not there before. Sound machines are set anew within what any hand might choose; nothing may be said against them.
Wanted: cured in 95 %, none harmful, less than 1 % false, 90 % of what is foretold of a stop within its band.

${line(['', 'offers', 'of them different', 'cured, %', 'harmful'])}
|---|---|---|---|---|
${(Object.keys(names) as OfferedBy[])
  .map((by) =>
    row(
      names[by],
      offers.filter((o) => o.by === by),
    ),
  )
  .join('\n')}
${row('all', offers)}

Said against sound machines: ${r.falseFindingsPct} %. Foretold and within its band: ${r.bandHeldPct} % of ${offers.flatMap((o) => o.held).length} figures.

## What did not help, or harmed

${failed.length === 0 ? 'Nothing.' : failed.join('\n')}

## What was said against sound machines

${against.length === 0 ? 'Nothing.' : against.join('\n')}
`;
}
