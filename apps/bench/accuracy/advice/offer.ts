/** Where an offer comes from. */
export type OfferedBy = 'check' | 'trip' | 'look-ahead' | 'resistor' | 'sleep' | 'loop' | 'swinging' | 'terminals' | 'copy' | 'template';

/** One way out as it was taken and lived. */
export interface LivedOffer {
  by: OfferedBy;
  /** of the finding, cause or rule, and what was taken */
  id: string;
  tag: string;
  cured: boolean;
  /** what came that was not before: a trip, a worse finding, a limit passed; null where nothing did */
  harm: string | null;
  /** for each figure that was foretold, whether it came within its band */
  held: boolean[];
}

/** What one walk over offers came to. */
export interface AdviceSeen {
  offers: LivedOffer[];
  /** machines with nothing wrong that were looked at, and what was said against them all the same */
  sound: number;
  falseFindings: string[];
}

export const lived = (offers: LivedOffer[]): AdviceSeen => ({ offers, sound: 0, falseFindings: [] });
