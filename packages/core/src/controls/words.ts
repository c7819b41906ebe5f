/** Bits of the word in which a drive tells its inputs: the digital ones from the lowest up, both safe-torque-off channels on top. */
const stoBits = [14, 15] as const;

export interface InputsTold {
  closed: boolean[];
  /** both channels of safe torque off are closed: the motor may have torque */
  sto: boolean;
}

/** Bits from the lowest up, one for each of a row. */
export const bitsOf = (row: readonly boolean[]): number => row.reduce((bits, is, i) => bits | (is ? 1 << i : 0), 0);

/** @param count of bits to read, from the lowest up */
export const rowOf = (word: number, count: number): boolean[] => Array.from({ length: count }, (_, i) => ((word >> i) & 1) === 1);

/** The word a drive tells its inputs in. @param sto channels closed, 0 or 1 */
export const inputsWord = (closed: readonly boolean[], sto: readonly [number, number]): number =>
  bitsOf(closed) | (sto[0] << stoBits[0]) | (sto[1] << stoBits[1]);

/** Which of the two channels of safe torque off are closed. */
export const channelsTold = (word: number): boolean[] => stoBits.map((bit) => ((word >> bit) & 1) === 1);

/** @param count of digital inputs */
export const inputsTold = (word: number, count: number): InputsTold => ({
  closed: rowOf(word, count),
  sto: channelsTold(word).every(Boolean),
});
