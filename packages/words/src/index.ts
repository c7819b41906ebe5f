/** Every word the application says, by language; there is one so far. */
import type { Proof, ProofFacts } from '@yare/contract';
import { found, type TripName } from './en/proofs';

export { and, capital, counted, many } from './en/grammar';
export { positionText, quantities } from './en/proofs';

const noNames: TripName = () => undefined;

/** What a test found, in words. */
export const factsText = (facts: ProofFacts, passed = true, tripName: TripName = noNames): string =>
  (found[facts.kind] as (f: ProofFacts, passed: boolean, tripName: TripName) => string)(facts, passed, tripName);

/** What a proof found, in words; one of before figures were kept says what was written down. */
export const proofText = ({ facts, told, outcome }: Pick<Proof, 'facts' | 'told' | 'outcome'>, tripName: TripName = noNames): string =>
  told ?? (facts ? factsText(facts, outcome === 'passed', tripName) : '');
