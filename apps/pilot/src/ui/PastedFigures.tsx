import { useState } from 'react';
import { say } from '@yare/words/pages/ui';
import { ActRow, Finding } from './sheet';
import { TextLine } from './TextLine';

export interface PastedFiguresProps {
  /** what opens it, and its second line */
  text: string;
  second: string;
  /** over the field, and read out with it */
  label: string;
  lines: number;
  placeholder: string;
  /** takes what was typed; says what is wrong with it, null when it was taken */
  onTake: (text: string) => string | null;
  /** what opens it, the field, and what takes it */
  testIDs: readonly [string, string, string];
}

/** Figures typed or pasted at once: a field that opens, takes them or says what is wrong, and loses nothing meanwhile. */
export function PastedFigures({ text, second, label, lines, placeholder, onTake, testIDs: [open, field, take] }: PastedFiguresProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const shut = () => {
    setTyped(null);
    setTrouble(null);
  };
  if (typed === null) return <ActRow text={text} second={second} onPress={() => setTyped('')} testID={open} />;
  return (
    <>
      <TextLine
        label={label}
        caption={label}
        lines={lines}
        value={typed}
        onChange={setTyped}
        placeholder={placeholder}
        act={say.take}
        onAct={() => {
          const wrong = onTake(typed);
          if (wrong === null) shut();
          else setTrouble(wrong);
        }}
        testID={field}
        actTestID={take}
      />
      {trouble && <Finding severity="error" sentence={trouble} />}
      <ActRow text={say.leaveIt} onPress={shut} />
    </>
  );
}
