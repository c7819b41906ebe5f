import { resolveTerminals, type TerminalSettings } from './terminals';

/** Bits of the word in which a drive tells its inputs: the digital ones from the lowest up, both safe-torque-off channels on top. */
const stoBits = [14, 15] as const;

export interface InputsTold {
  closed: boolean[];
  /** both channels of safe torque off are closed: the motor may have torque */
  sto: boolean;
}

/** The word a drive tells its inputs in. @param sto channels closed, 0 or 1 */
export const inputsWord = (closed: readonly boolean[], sto: readonly [number, number]): number =>
  closed.reduce((bits, is, i) => bits | (is ? 1 << i : 0), (sto[0] << stoBits[0]) | (sto[1] << stoBits[1]));

/** @param count of digital inputs */
export const inputsTold = (word: number, count: number): InputsTold => ({
  closed: Array.from({ length: count }, (_, i) => ((word >> i) & 1) === 1),
  sto: stoBits.every((bit) => ((word >> bit) & 1) === 1),
});

/** What a standing drive waits for before it starts from its terminals. */
export type WaitsFor = 'safe torque off' | 'start contact';

/**
 * What a drive that stands, untripped, with its terminals in command, waits for; null when a start would start it. One whose start is given
 * already waits for it to be taken away and given anew: a trip that was reset, power that came back, or command that was lent to the link
 * never starts a motor by itself.
 */
export function waitsFor(s: TerminalSettings, { closed, sto }: InputsTold, analogue: number): WaitsFor | null {
  if (!sto) return 'safe torque off';
  const { run } = resolveTerminals(s, { closed, analogue, handSpeed: 0 }, { latched: false, lastReference: 0 });
  return run ? 'start contact' : null;
}
