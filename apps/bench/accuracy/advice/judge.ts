import { livedChecks, offersOnPaper } from './checkOffers';
import { swingOffers, tuningOffers } from './loopOffers';
import { lived, type AdviceSeen } from './offer';
import { copyOffers, wiringOffers } from './paperOffers';
import { resistorOffers } from './resistorOffers';
import { sleepOffers } from './sleepOffers';
import { stopOffers } from './stopOffers';
import { tripOffers } from './tripOffers';
import { nth } from '@yare/core';

/** Machines with wrong settings looked at on paper beside each one that is lived. */
const onPaper = 60;

/** Every producer of offers, each as often as it has kinds of them. */
const walks: ReadonlyArray<(seed: number, n: number) => AdviceSeen> = [
  livedChecks,
  tripOffers,
  stopOffers,
  (seed, n) => lived(offersOnPaper(seed, n, onPaper)),
  tripOffers,
  livedChecks,
  copyOffers,
  wiringOffers,
  tuningOffers,
  swingOffers,
  resistorOffers,
  sleepOffers,
];

/** One seeded walk over what some part of the application offers. */
export function judgeAdvice(seed: number, n: number): AdviceSeen {
  const round = Math.floor(n / walks.length);
  const which = n % walks.length;
  // walks that come twice a round go on, and do not begin anew
  return nth(walks, which)(seed, which === 4 || which === 5 ? 2 * round + 1 : which < 2 ? 2 * round : round);
}
