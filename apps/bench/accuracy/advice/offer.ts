/** Where an offer comes from. */
export type OfferedBy = 'check' | 'trip' | 'look-ahead' | 'loop' | 'swinging' | 'terminals' | 'copy';

/** One way out as it was taken and lived. */
export interface LivedOffer {
  by: OfferedBy;
  /** of the finding, cause or rule, and what was taken */
  id: string;
  tag: string;
  cured: boolean;
  /** what came that was not before: a trip, a worse finding, a limit passed; null where nothing did */
  harm: string | null;
  /** what was foretold came within its band; null where nothing was foretold that can be seen */
  held: boolean | null;
}

/** What one walk over offers came to. */
export interface AdviceSeen {
  offers: LivedOffer[];
  /** machines with nothing wrong that were looked at, and what was said against them all the same */
  sound: number;
  falseFindings: string[];
}

export const nothingSeen = (): AdviceSeen => ({ offers: [], sound: 0, falseFindings: [] });
