import { View } from '@tamagui/core';
import { memo, useState } from 'react';
import { Pressable } from 'react-native';
import type { BenchAct, BenchTrigger, BenchView } from '@yare/contract';
import { say } from '@yare/words/pages/bench';
import { Answer } from '../../ui/Answer';
import { Choices } from '../../ui/entry';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { WarningShape } from '../../ui/shapes';
import { Strong } from '../../ui/text';
import { usePalette } from '../../ui/theme';

const triggers: ReadonlyArray<{ value: BenchTrigger; label: string }> = [
  { value: 'now', label: say.now },
  { value: 'next start', label: say.atTheNextStart },
  { value: 'at speed', label: say.whenItIsAtSpeed },
  { value: 'next stop', label: say.atTheNextStop },
];

/** The library of faults: each says what happens in the plant; armed ones strike at their moment. */
export const Faults = memo(function Faults({ faults, onAct }: { faults: BenchView['faults']; onAct: (act: Omit<BenchAct, 'author'>) => void }) {
  const palette = usePalette();
  const [open, setOpen] = useState<string | null>(null);
  const struck = faults.filter((f) => f.state !== 'off').length;
  return (
    <>
      <SectionHead right={struck === 0 ? say.nothingArmed : say.armedOrActive({ struck })}>{say.faults}</SectionHead>
      {faults.map((f) => (
        <View key={f.id}>
          <SheetRow
            label={f.name}
            second={f.state === 'armed' ? say.waits({ what: f.what, trigger: f.trigger }) : f.what}
            mark={f.state === 'struck' ? <WarningShape colour={palette.yellow} /> : undefined}
            inHand={open === f.id}
            onPress={f.state === 'off' ? () => setOpen(open === f.id ? null : f.id) : undefined}
            testID={`fault-${f.id}`}
          >
            {f.state !== 'off' && (
              <Pressable
                role="button"
                testID={`heal-${f.id}`}
                onPress={() => onAct({ fault: { id: f.id, trigger: null } })}
                style={{ minHeight: 48, minWidth: 96, justifyContent: 'center', alignItems: 'flex-end', paddingRight: 14 }}
              >
                <Strong color="$plum">{f.state === 'struck' ? say.clearFault : say.takeBack}</Strong>
              </Pressable>
            )}
          </SheetRow>
          {open === f.id && f.state === 'off' && (
            <Answer>
              <Choices
                options={triggers}
                value={null}
                onChoose={(trigger) => {
                  setOpen(null);
                  onAct({ fault: { id: f.id, trigger: trigger as BenchTrigger } });
                }}
              />
            </Answer>
          )}
        </View>
      ))}
    </>
  );
});
