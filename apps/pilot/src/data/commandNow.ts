import { useMemo } from 'react';
import { decode, inForce, type Command, type Decoded, type MachineModel } from '@yare/commissioning';
import type { LiveSample } from '@yare/contract';
import { useLiveValue } from './live';

/** Who has command of a machine now, as its drive says, decoded with the settings that are in it. */
export interface CommandNow extends Decoded {
  command: Command;
  words: LiveSample['words'];
  holder: LiveSample['holder'];
  state: LiveSample['state'];
  /** Hz, signed, to a tenth */
  frequency: number;
}

type Part = Pick<LiveSample, 'words' | 'holder' | 'state' | 'trip' | 'outputFrequency'>;

const halves = (percent: number): number => Math.round(percent * 2) / 2;
const tenths = (x: number): number => Math.round(x * 10) / 10;

/** What of a sample matters here, as one text: it changes when something does, not ten times a second. */
const partOf = (s: LiveSample | undefined): string | null => {
  if (!s || s.link === 'down') return null;
  const { words, holder, state, trip, outputFrequency } = s;
  const part: Part = {
    words: { ...words, analogue: halves(words.analogue), second: halves(words.second) },
    holder,
    state,
    trip,
    outputFrequency: tenths(outputFrequency),
  };
  return JSON.stringify(part);
};

/** null while the drive does not answer, or was not read yet. */
export function useCommandNow({ machine, held }: Pick<MachineModel, 'machine' | 'held'>): CommandNow | null {
  const text = useLiveValue(machine.tag, partOf);
  return useMemo(() => {
    if (text === null || !held) return null;
    const part = JSON.parse(text) as Part;
    const decoded = decode(held, part);
    return {
      ...decoded,
      command: inForce(held, decoded),
      words: part.words,
      holder: part.holder,
      state: part.state,
      frequency: part.outputFrequency,
    };
  }, [text, held]);
}
