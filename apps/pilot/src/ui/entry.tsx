import { styled, View } from '@tamagui/core';
import { FewAtATime } from './FewAtATime';
import { useEffect, useRef, type ReactNode } from 'react';
import { Pressable, TextInput, View as Plain } from 'react-native';
import { formatFigure, unbroken } from '@yare/core/units';
import { say } from '@yare/words/pages/ui';
import { closeEntry, openEntry, setFrom, switchUnit, typeKey, useEntryStore, type Entry } from './entryStore';
import { useFigureKeys } from './figureKeys';
import { fontFamily, measure } from './palette';
import { drawnWhenChanged } from './drawnWhenChanged';
import { Body, Second, Strong } from './text';
import { usePalette, useWide } from './theme';

/** The foot of a page: the pad while one of its figures is in hand, with the way to the figure after it, and else what stands there. */
export function EntryFoot({ entries, children }: { entries: readonly Entry[]; children: ReactNode }) {
  const at = useEntryStore((s) => entries.findIndex((e) => e.id === s.id));
  const entry = entries[at];
  useFigureKeys(entries);
  if (!entry) return children;
  const next = entries[at + 1];
  return <EntryPad entry={entry} onNext={next && (() => openEntry(next))} />;
}

const Key = styled(View, {
  width: '100%',
  height: 56,
  alignItems: 'center',
  justifyContent: 'center',
  borderRightWidth: 1,
  borderBottomWidth: 1,
  borderColor: '$rule',
  backgroundColor: '$sheet',
});

const padRows = [
  ['1', '2', '3'],
  ['4', '5', '6'],
  ['7', '8', '9'],
  ['.', '0', '⌫'],
];

function Pad() {
  return (
    <>
      {padRows.map((row) => (
        <View key={row[0]} flexDirection="row">
          {row.map((k) => (
            <Pressable key={k} onPress={() => typeKey(k)} role="button" aria-label={k === '⌫' ? say.deleteText : k} style={{ flex: 1 }}>
              <Key>
                <Strong fontSize={24} lineHeight={28}>
                  {k}
                </Strong>
              </Key>
            </Pressable>
          ))}
        </View>
      ))}
    </>
  );
}

/** The units a figure can be typed in, beside it. */
function UnitSwitch({ entry }: { entry: Entry }) {
  const palette = usePalette();
  const unit = useEntryStore((s) => s.unit);
  const units = entry.units ?? [];
  if (units.length < 2)
    return (
      <View width={52}>
        <Second>{unit}</Second>
      </View>
    );
  return (
    <View flexDirection="row" height={60}>
      {units.map((u) => (
        <Pressable
          key={u}
          role="radio"
          aria-checked={u === unit}
          onPress={() => switchUnit(u, entry.keepUnit)}
          style={{
            minWidth: 52,
            height: 60,
            alignItems: 'center',
            justifyContent: 'center',
            backgroundColor: u === unit ? palette.hand : 'transparent',
            borderLeftWidth: 1,
            borderColor: palette.rule,
          }}
        >
          <Strong color={u === unit ? '$plum' : '$soft'}>{u}</Strong>
        </Pressable>
      ))}
    </View>
  );
}

/** What is typed, between what the figure may be and its unit. */
function FigureInput({ entry }: { entry: Entry }) {
  const { text, fresh } = useEntryStore();
  const palette = usePalette();
  const wide = useWide();
  const input = useRef<TextInput>(null);
  useEffect(() => {
    const node = input.current as unknown as HTMLInputElement | null;
    node?.focus();
    // what was typed before this stood here goes on where it ended
    if (!useEntryStore.getState().fresh) node?.setSelectionRange?.(node.value.length, node.value.length);
  }, [entry.id]);
  const end = (x: number) => formatFigure(x, x % 1 ? entry.decimals : 0);
  return (
    <View flexDirection="row" alignItems="center" paddingLeft={12} minHeight={60} borderBottomWidth={1} borderColor="$rule2" gap={8}>
      <View flex={1} minWidth={0}>
        <Second numberOfLines={1}>{entry.label}</Second>
        {entry.min !== undefined && entry.max !== undefined && (
          <Second>{say.to({ end: end(entry.min), end2: end(entry.max), unit: entry.unit })}</Second>
        )}
      </View>
      <TextInput
        ref={input}
        testID="entry-input"
        aria-label={entry.label}
        value={text.replace('-', '−')}
        inputMode={wide ? 'decimal' : 'none'}
        selectTextOnFocus={fresh}
        onChangeText={(t) => useEntryStore.setState({ text: t.replace('−', '-').slice(0, 16), sentence: null, fresh: false })}
        style={{
          width: 150,
          height: 52,
          fontFamily: fontFamily.mono,
          fontSize: 26,
          textAlign: 'right',
          color: palette.plum,
          paddingHorizontal: 6,
          backgroundColor: fresh ? palette.hand : 'transparent',
        }}
      />
      <UnitSwitch entry={entry} />
    </View>
  );
}

function PadAct({ text, onPress, name, large = false }: { text: string; onPress: () => void; name?: string; large?: boolean }) {
  return (
    <Pressable onPress={onPress} role="button" aria-label={name} style={{ flex: 1, alignItems: 'center', justifyContent: 'center' }}>
      {/* a size that is given as undefined would put the usual one out of force */}
      <Strong color="$plum" {...(large && { fontSize: 24 })}>
        {text}
      </Strong>
    </Pressable>
  );
}

function PadActs({ entry, onNext }: { entry: Entry; onNext?: () => void }) {
  const palette = usePalette();
  const wide = useWide();
  const setThenNext = () => {
    setFrom(entry);
    if (useEntryStore.getState().id === null) onNext?.();
  };
  return (
    <View flexDirection="row" height={measure.bar}>
      <PadAct text={wide ? say.leaveEsc : say.leave} onPress={closeEntry} />
      {(entry.min ?? 0) < 0 && !wide && <PadAct text="±" name={say.minus} large onPress={() => typeKey('−')} />}
      {entry.optional && <PadAct text={say.notGiven} onPress={() => useEntryStore.setState({ text: '', fresh: false })} />}
      {onNext && !wide && <PadAct text={say.setNext} onPress={setThenNext} />}
      <Pressable
        onPress={() => setFrom(entry)}
        role="button"
        testID="entry-set"
        style={{ flex: 1.4, alignItems: 'center', justifyContent: 'center', backgroundColor: palette.plumFill }}
      >
        <Strong color="$onPlum" fontSize={18}>
          {wide ? say.setEnter : say.set}
        </Strong>
      </Pressable>
    </View>
  );
}

/**
 * The decimal pad at the foot of the screen with the unit switch beside the figure. On a wide screen the keyboard does the same:
 * digits, Enter sets, Escape leaves.
 */
export function EntryPad({ entry, onNext }: { entry: Entry; onNext?: () => void }) {
  const sentence = useEntryStore((s) => s.sentence);
  const wide = useWide();
  return (
    <View borderTopWidth={2} borderColor="$plum" backgroundColor="$sheet" flexShrink={0} testID="entry">
      {sentence && (
        <View backgroundColor="$redGround" padding={10} paddingLeft={measure.margin + 10} role="alert">
          <Body>{unbroken(sentence)}</Body>
        </View>
      )}
      <FigureInput entry={entry} />
      {!wide && <Pad />}
      <PadActs entry={entry} onNext={onNext} />
    </View>
  );
}

/** More choices than this come in a few at a time, so that the touch that opens them does not wait for all. */
const drawnAtOnce = 6;

const choiceRow = {
  flexDirection: 'row',
  minHeight: 52,
  alignItems: 'center',
  paddingLeft: measure.margin + 10,
  paddingRight: 16,
  borderBottomWidth: 1,
  gap: 12,
} as const;
const choiceBox = { width: 18, height: 18, borderWidth: 2 } as const;

/** Choices under a row, one of them in force. */
export const Choices = drawnWhenChanged(function Choices({
  options,
  value,
  onChoose,
}: {
  options: ReadonlyArray<{ value: string | number; label: string; second?: string }>;
  value: string | number | null;
  onChoose: (value: string | number) => void;
}) {
  const { plum, rule } = usePalette();
  const rows = options.map((o) => (
    <Pressable
      key={o.value}
      role="radio"
      aria-checked={o.value === value}
      onPress={() => onChoose(o.value)}
      style={{ ...choiceRow, borderColor: rule }}
    >
      <Plain style={{ ...choiceBox, borderColor: plum, backgroundColor: o.value === value ? plum : 'transparent' }} />
      {o.second ? (
        <View flex={1}>
          <Body>{o.label}</Body>
          <Second>{o.second}</Second>
        </View>
      ) : (
        <Body flex={1}>{o.label}</Body>
      )}
    </Pressable>
  ));
  return (
    <View role="radiogroup" backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2">
      {rows.length > drawnAtOnce ? <FewAtATime>{rows}</FewAtATime> : rows}
    </View>
  );
});
