/** A test that was made: what was expected, what was seen, and what it relied on. */
export interface ProofRecord {
  stage: string;
  item: string;
  /** taken back: somebody says the test no longer counts */
  outcome: 'passed' | 'failed' | 'taken back';
  /** what the test relied on, by name, as it stood then: settings in the drive, revision of the plate, figures of the survey */
  relied: Readonly<Record<string, number | string | null>>;
}

/** Names of what a proof relied on and what is not now as it was then. What is not known now is taken as changed. */
export function changedSince(proof: Pick<ProofRecord, 'relied'>, now: (name: string) => number | string | null | undefined): string[] {
  return Object.entries(proof.relied)
    .filter(([name, then]) => now(name) !== then)
    .map(([name]) => name);
}

export type ItemStanding = { state: 'not yet' } | { state: 'passed' } | { state: 'failed' } | { state: 'stale'; changed: string[] };

/** How one test stands: the newest record counts, and a passed one only as long as everything it relied on is as it was. */
export function itemStanding(newest: ProofRecord | undefined, now: (name: string) => number | string | null | undefined): ItemStanding {
  if (!newest || newest.outcome === 'taken back') return { state: 'not yet' };
  if (newest.outcome === 'failed') return { state: 'failed' };
  const changed = changedSince(newest, now);
  return changed.length > 0 ? { state: 'stale', changed } : { state: 'passed' };
}

/** A stage from its tests: failed above stale above not yet; proved when every one has passed. */
export function stageOfItems(items: readonly ItemStanding[]): ItemStanding['state'] {
  const states = items.map((i) => i.state);
  for (const worst of ['failed', 'stale', 'not yet'] as const) if (states.includes(worst)) return worst;
  return 'passed';
}

/** The first test of an ordered list that has not passed before a given one: what must be made safe first. Null when none is open. */
export function openBefore(items: readonly { id: string; standing: ItemStanding }[], id: string): string | null {
  for (const item of items) {
    if (item.id === id) return null;
    if (item.standing.state !== 'passed') return item.id;
  }
  return null;
}
