/**
 * Times its full-load current that a cage motor usually draws when it is put straight across the line: about 4 for the smallest to about 7 from some
 * kilowatts on, in a band of a third either way (common practice; catalogues of standard motors, from memory). An equivalent circuit that fits a plate
 * at running speed says too little there: leakage saturates and bars are deep.
 * @param power W at the shaft
 */
export function usualStartingCurrent(power: number): { times: number; least: number; most: number } {
  const [small, large] = [180, 5000];
  const share = Math.min(1, Math.max(0, Math.log(power / small) / Math.log(large / small)));
  const times = 4 + 3 * share;
  return { times, least: (times * 2) / 3, most: (times * 4) / 3 };
}
