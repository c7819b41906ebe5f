import type { MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { textOf } from '@yare/books';
import type { WriteLine } from '@yare/contract';
import { say } from '@yare/words/pages/write';
import { measure } from '../../ui/palette';
import { ProofShape, WarningShape } from '../../ui/shapes';
import { SheetRow } from '../../ui/sheet';
import { Mono, Strong } from '../../ui/text';
import { usePalette } from '../../ui/theme';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';

const resultText: Record<WriteLine['result'], string> = {
  verified: say.readBackTheSame,
  refused: 'refused',
  'put back': say.putBackAsItWas,
  'not reached': say.notWritten,
  unknown: say.notKnownReadTheDrive,
};

/** What came of each setting of a write. */
export const WriteReport = drawnWhenChanged(function WriteReport({ lines, model }: { lines: readonly WriteLine[]; model: MachineModel }) {
  const palette = usePalette();
  return (
    <>
      {lines.map((l) => {
        const s = model.drafted.at(l.code);
        if (!s) return null;
        const shown = textOf(s, l.readBack ?? l.before);
        return (
          <SheetRow
            key={l.code}
            testID={`line-${l.code}`}
            label={l.name}
            second={say.was({ code: l.code, resultText: resultText[l.result], sentence: l.sentence, textOf: textOf(s, l.before), unit: l.unit })}
            mark={
              l.result === 'verified' ? (
                <ProofShape proof="proved" />
              ) : l.result === 'not reached' ? (
                <ProofShape proof="not yet" />
              ) : (
                <WarningShape colour={l.result === 'refused' ? palette.red : palette.yellow} />
              )
            }
            {...(s.options ? { text: shown } : { figure: shown, unit: l.unit })}
          />
        );
      })}
    </>
  );
});

/** How far a write is. */
export function WriteProgress({ lines, of }: { lines: readonly WriteLine[]; of: number }) {
  const done = lines.filter((l) => l.result === 'verified').length;
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" padding={14} paddingLeft={measure.margin + 10} gap={8} role="status">
      <View flexDirection="row" justifyContent="space-between">
        <Strong>{say.writingAndReadingBack}</Strong>
        <Mono fontFamily="$monoBold" fontSize={17}>
          {say.ofText({ done, ofText: of })}
        </Mono>
      </View>
      <View height={14} borderWidth={1} borderColor="$ink">
        <View height={12} width={`${of === 0 ? 1 : Math.max(1, (100 * done) / of)}%`} backgroundColor="$plumFill" />
      </View>
    </View>
  );
}
