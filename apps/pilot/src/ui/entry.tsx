import { styled, View } from '@tamagui/core';
import { useEffect, useLayoutEffect, useRef, type ReactNode } from 'react';
import { Pressable, TextInput } from 'react-native';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { convert, formatFigure, parseFigure, unbroken, type UnitSymbol } from '@yare/core';
import { afterPaint } from './afterPaint';
import { fontFamily, measure } from './palette';
import { drawnWhenChanged } from './drawnWhenChanged';
import { Body, Second, Strong } from './text';
import { usePalette, useWide } from './theme';

/** A figure that can be typed. Values go in and out in `unit`; other `units` are offered and converted. */
export interface Entry {
  /** unique on the device: machine, stage, row */
  id: string;
  label: string;
  value: number | null;
  unit: string;
  units?: readonly UnitSymbol[];
  decimals: number;
  min?: number;
  max?: number;
  /** counts something: no part of one */
  whole?: boolean;
  /** an empty entry means "not stamped" */
  optional?: boolean;
  /** keep a figure in the unit it was typed in instead of converting */
  keepUnit?: boolean;
  onSet: (value: number | null, unit: string) => void;
}

interface EntryStore {
  id: string | null;
  text: string;
  unit: string;
  sentence: string | null;
  fresh: boolean;
}

/** The figure in hand. Its text is kept through a reload. */
export const useEntryStore = create<EntryStore>()(
  persist((): EntryStore => ({ id: null, text: '', unit: '', sentence: null, fresh: false }), { name: 'yare.entry' }),
);

const asText = (value: number | null, decimals: number): string => (value === null ? '' : String(Number(value.toFixed(decimals + 2))));

/** The figures of the page that stands, in their order. */
let shown: readonly Entry[] = [];
/** The figure that digits begin when the keyboard is on none: the one after the figure just set. */
let after: string | null = null;

/** Takes a figure in hand. */
export function openEntry(entry: Entry): void {
  after = null;
  useEntryStore.setState({ id: entry.id, text: asText(entry.value, entry.decimals), unit: entry.unit, sentence: null, fresh: true });
}

/** The foot of a page: the pad while one of its figures is in hand, with the way to the figure after it, and else what stands there. */
export function EntryFoot({ entries, children }: { entries: readonly Entry[]; children: ReactNode }) {
  const at = useEntryStore((s) => entries.findIndex((e) => e.id === s.id));
  const entry = entries[at];
  useFigureKeys(entries);
  if (!entry) return children;
  const next = entries[at + 1];
  return <EntryPad entry={entry} onNext={next && (() => openEntry(next))} />;
}

export function closeEntry(): void {
  useEntryStore.setState({ id: null, text: '', sentence: null });
}

/** What a text would set, or the sentence why not. */
export function readEntry(entry: Entry, text: string, unit: string): { value: number | null } | { sentence: string } {
  if (text.trim() === '') return entry.optional ? { value: null } : { sentence: `${entry.label} needs a number.` };
  const figure = parseFigure(text);
  if (figure === null) return { sentence: `“${text}” is not a number. Use digits and one decimal point.` };
  const value =
    unit === entry.unit || entry.keepUnit ? figure : Number(convert(figure, unit as UnitSymbol, entry.unit as UnitSymbol).toPrecision(10));
  if (entry.whole && !Number.isInteger(value)) return { sentence: `${entry.label} takes a whole number; ${text} is not one.` };
  const { min = -Infinity, max = Infinity } = entry;
  if (value < min || value > max) {
    const text = (x: number) => formatFigure(x, Number.isInteger(x) ? 0 : entry.decimals);
    return { sentence: `${entry.label} takes ${text(min)} to ${text(max)} ${entry.unit}; ${formatFigure(value, entry.decimals)} is outside.` };
  }
  return { value };
}

function setFrom(entry: Entry): void {
  const { text, unit } = useEntryStore.getState();
  const read = readEntry(entry, text, unit);
  if ('sentence' in read) {
    useEntryStore.setState({ sentence: read.sentence });
    return;
  }
  closeEntry();
  // the pad goes first, then what the figure changes is worked out
  afterPaint(() => entry.onSet(read.value, unit));
}

/** Sets a figure by the keyboard and goes to the row of the next: digits typed from now on are its. */
function setAndGoDown(entry: Entry): void {
  setFrom(entry);
  if (useEntryStore.getState().id !== null) return;
  after = shown[shown.findIndex((e) => e.id === entry.id) + 1]?.id ?? null;
  const row = after === null ? null : [...document.querySelectorAll<HTMLElement>('[data-entry]')].find((r) => r.dataset.entry === after);
  row?.focus();
}

const figureKey = /^[\d.,−-]$/;
const keyOf = (key: string): string => (key === ',' ? '.' : key === '−' ? '-' : key);

/**
 * One rule for keys: a digit belongs to a figure, at any speed and wherever the focus is. To the one in hand, else to the row the keyboard
 * is on, else to the one after the figure just set; it never does anything else on a page with figures.
 */
function onFigureKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const target = event.target instanceof HTMLElement ? event.target : null;
  const ownInput = target?.dataset.testid === 'entry-input';
  if (!ownInput && target && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
  const { id } = useEntryStore.getState();
  const inHand = shown.find((e) => e.id === id);
  const isFigure = figureKey.test(event.key);
  const take = (work: () => void): void => {
    event.preventDefault();
    event.stopPropagation();
    work();
  };
  if (inHand) {
    if (event.key === 'Enter' && !target?.matches('[data-testid=entry] [role=button]')) return take(() => setAndGoDown(inHand));
    if (event.key === 'Escape') return take(closeEntry);
    if (!ownInput && event.key === 'Backspace') return take(() => typeKey('⌫'));
    if (!ownInput && isFigure) return take(() => typeKey(keyOf(event.key)));
    return;
  }
  const on = target?.closest<HTMLElement>('[data-entry]')?.dataset.entry ?? after;
  const entry = shown.find((e) => e.id === on);
  if (!isFigure || !entry) return;
  take(() => {
    openEntry(entry);
    typeKey(keyOf(event.key));
  });
}

/** Hands the figures of a page to {@link onFigureKey}. */
function useFigureKeys(entries: readonly Entry[]): void {
  useLayoutEffect(() => {
    shown = entries;
  }, [entries]);
  useLayoutEffect(() => {
    window.addEventListener('keydown', onFigureKey, true);
    return () => {
      window.removeEventListener('keydown', onFigureKey, true);
      shown = [];
      after = null;
    };
  }, []);
}

function typeKey(key: string): void {
  useEntryStore.setState((s) => {
    const text = s.fresh ? '' : s.text;
    if (key === '⌫') return { text: s.fresh ? '' : text.slice(0, -1), fresh: false, sentence: null };
    if (key === '−') return { text: s.text.startsWith('-') ? s.text.slice(1) : `-${s.text}`, fresh: false, sentence: null };
    if (key === '-') return { text: text.startsWith('-') ? text.slice(1) : `-${text}`, fresh: false, sentence: null };
    if (key === '.' && text.includes('.')) return { sentence: null };
    return { text: (text + key).slice(0, 12), fresh: false, sentence: null };
  });
}

function switchUnit(to: string, keep: boolean | undefined): void {
  useEntryStore.setState((s) => {
    const figure = parseFigure(s.text);
    const text = keep || figure === null ? s.text : String(Number(convert(figure, s.unit as UnitSymbol, to as UnitSymbol).toPrecision(5)));
    return { unit: to, text, sentence: null };
  });
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
            <Pressable key={k} onPress={() => typeKey(k)} role="button" aria-label={k === '⌫' ? 'Delete' : k} style={{ flex: 1 }}>
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
          <Second>
            {end(entry.min)} to {end(entry.max)} {entry.unit}
          </Second>
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
      <PadAct text={wide ? 'Leave (Esc)' : 'Leave'} onPress={closeEntry} />
      {(entry.min ?? 0) < 0 && !wide && <PadAct text="±" name="Minus" large onPress={() => typeKey('−')} />}
      {entry.optional && <PadAct text="Not given" onPress={() => useEntryStore.setState({ text: '', fresh: false })} />}
      {onNext && !wide && <PadAct text="Set, next" onPress={setThenNext} />}
      <Pressable
        onPress={() => setFrom(entry)}
        role="button"
        testID="entry-set"
        style={{ flex: 1.4, alignItems: 'center', justifyContent: 'center', backgroundColor: palette.plumFill }}
      >
        <Strong color="$onPlum" fontSize={18}>
          {wide ? 'Set (Enter)' : 'Set'}
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
  return (
    <View role="radiogroup" backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2">
      {options.map((o) => (
        <Pressable key={o.value} role="radio" aria-checked={o.value === value} onPress={() => onChoose(o.value)}>
          <View
            flexDirection="row"
            minHeight={52}
            alignItems="center"
            paddingLeft={measure.margin + 10}
            paddingRight={16}
            borderBottomWidth={1}
            borderColor="$rule"
            gap={12}
          >
            <View width={18} height={18} borderWidth={2} borderColor="$plum" backgroundColor={o.value === value ? '$plum' : 'transparent'} />
            <View flex={1}>
              <Body>{o.label}</Body>
              {o.second && <Second>{o.second}</Second>}
            </View>
          </View>
        </Pressable>
      ))}
    </View>
  );
});
