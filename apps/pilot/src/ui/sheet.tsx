import { styled, View } from '@tamagui/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Pressable } from 'react-native';
import { unbroken } from '@yare/core/units';
import { say } from '@yare/words/pages/ui';
import { useEntryStore } from './entryStore';
import { afterPaint } from './afterPaint';
import { FewAtATime } from './FewAtATime';
import { measure } from './palette';
import { Body, Figure, LinkText, Mono, Second, Strong } from './text';
import { WarningShape } from './shapes';
import { drawnWhenChanged } from './drawnWhenChanged';
import { usePalette } from './theme';

const RowFrame = styled(View, {
  flexDirection: 'row',
  minHeight: measure.row,
  borderBottomWidth: 1,
  borderColor: '$rule',
  backgroundColor: '$sheet',
});
export const Margin = styled(View, {
  width: measure.margin,
  alignItems: 'center',
  justifyContent: 'center',
  borderRightWidth: 1,
  borderColor: '$plum',
  flexShrink: 0,
});

/** A touch is seen at once, before its work is done. */
export const pressedStyle = ({ pressed }: { pressed: boolean }) => ({ opacity: pressed ? 0.55 : 1 });

/** The unit column is as wide everywhere, so that figures stand under one another. */
const unitWidth = 56;

export interface SheetRowProps {
  label: string;
  second?: ReactNode;
  figure?: string;
  unit?: string;
  /** words instead of a figure, for a choice */
  text?: string;
  mark?: ReactNode;
  /** differs from the drive */
  changed?: boolean;
  inHand?: boolean;
  /** its figure can be typed: digits typed on it begin one */
  entryId?: string;
  estimate?: boolean;
  onPress?: () => void;
  children?: ReactNode;
  testID?: string;
}

/** One line of the log sheet: source mark in the margin, label left with its quiet second line, figure right, unit small after it. */
export const SheetRow = drawnWhenChanged(function SheetRow(p: SheetRowProps) {
  const node = useRef<HTMLElement | null>(null);
  useEffect(() => {
    // the pad takes the foot of the screen: the row in hand stays in sight above it
    if (p.inHand && useEntryStore.getState().id !== null) afterPaint(() => node.current?.scrollIntoView({ block: 'nearest' }));
  }, [p.inHand]);
  const content = (
    <RowFrame
      ref={(n: unknown) => {
        node.current = n as HTMLElement | null;
      }}
      {...(p.inHand && { backgroundColor: '$hand', outlineColor: '$plum', outlineStyle: 'solid', outlineWidth: 2, outlineOffset: -2 })}
    >
      <Margin>
        {typeof p.mark === 'string' ? (
          <Mono color={p.changed ? '$plum' : '$soft'} fontFamily="$monoBold">
            {p.mark}
          </Mono>
        ) : (
          p.mark
        )}
      </Margin>
      <View
        flex={1}
        flexDirection="row"
        alignItems="center"
        paddingVertical={7}
        paddingLeft={10}
        paddingRight={p.figure === undefined && p.text === undefined && !p.children ? 14 : 0}
        gap={8}
      >
        <View flex={1} minWidth={0} paddingRight={4}>
          <Body>{p.label}</Body>
          {typeof p.second === 'string' ? <Second>{unbroken(p.second)}</Second> : p.second}
        </View>
        {p.figure !== undefined && (
          <View flexDirection="row" alignItems="baseline" flexShrink={0}>
            <Figure color={p.changed ? '$plum' : '$ink'} fontStyle={p.estimate ? 'italic' : 'normal'}>
              {p.figure}
            </Figure>
            <View width={unitWidth} paddingLeft={6}>
              <Second>{p.unit ?? ''}</Second>
            </View>
          </View>
        )}
        {p.text !== undefined && (
          <View flexShrink={1} maxWidth="52%" paddingRight={16}>
            <Strong fontSize={18} textAlign="right" color={p.changed ? '$plum' : '$ink'}>
              {p.text}
            </Strong>
          </View>
        )}
        {p.children}
      </View>
    </RowFrame>
  );
  if (!p.onPress)
    return (
      <div className="row">
        <View testID={p.testID}>{content}</View>
      </div>
    );
  return (
    <div className="row">
      <Pressable
        onPress={p.onPress}
        role="button"
        testID={p.testID}
        {...(p.entryId !== undefined && { dataSet: { entry: p.entryId } })}
        aria-label={[p.label, p.figure ?? p.text, p.unit].filter(Boolean).join(' ')}
        style={pressedStyle}
      >
        {content}
      </Pressable>
    </div>
  );
});

/** A section's head between two rules. */
export const SectionHead = drawnWhenChanged(function SectionHead({ children, right }: { children: string; right?: ReactNode }) {
  return (
    <View
      flexDirection="row"
      backgroundColor="$sheet"
      borderTopWidth={1}
      borderBottomWidth={1}
      borderTopColor="$rule2"
      borderBottomColor="$rule"
      marginTop={-1}
    >
      <Margin />
      <View
        flex={1}
        flexDirection="row"
        justifyContent="space-between"
        alignItems="flex-end"
        paddingTop={20}
        paddingBottom={6}
        paddingHorizontal={10}
        gap={12}
      >
        <Strong role="heading" aria-level={2}>
          {children}
        </Strong>
        {typeof right === 'string' ? <Second>{unbroken(right)}</Second> : right}
      </View>
    </View>
  );
});

/** Words about a row, standing under it, with its way out. */
export const Finding = drawnWhenChanged(function Finding({
  severity,
  sentence,
  act,
  onAct,
  children,
}: {
  /** 'past' is a verdict on figures that are no longer so, while the new one is worked out */
  severity: 'warning' | 'error' | 'good' | 'act' | 'past';
  sentence: string;
  act?: string;
  onAct?: () => void;
  children?: ReactNode;
}) {
  const palette = usePalette();
  const ground = { warning: '$yellowGround', error: '$redGround', good: '$greenGround', act: '$blueGround', past: '$paper' } as const;
  return (
    <View
      flexDirection="row"
      backgroundColor={ground[severity]}
      borderBottomWidth={1}
      borderColor="$rule2"
      role={severity === 'error' ? 'alert' : 'status'}
    >
      <View width={measure.margin} alignItems="center" paddingTop={12}>
        {severity === 'good' || severity === 'act' ? (
          <View width={12} height={12} marginTop={4} backgroundColor={severity === 'good' ? '$green' : '$blue'} />
        ) : (
          severity !== 'past' && <WarningShape colour={severity === 'error' ? palette.red : palette.yellow} />
        )}
      </View>
      <View flex={1} paddingVertical={10} paddingLeft={10} paddingRight={14} alignItems="flex-start">
        <Body {...(severity === 'past' && { color: '$soft' })}>
          {unbroken(severity === 'past' ? say.workingItOutAnewBefore({ sentence }) : sentence)}
        </Body>
        {act && onAct && (
          <Pressable onPress={onAct} role="button" style={{ minHeight: 48, justifyContent: 'center' }}>
            <LinkText>{unbroken(act)}</LinkText>
          </Pressable>
        )}
        {children}
      </View>
    </View>
  );
});

/** One more way out under a finding's sentence. */
export const WayOut = ({ text, onPress }: { text: string; onPress: () => void }) => (
  <Pressable onPress={onPress} role="button" style={{ minHeight: 48, justifyContent: 'center' }}>
    <LinkText>{unbroken(text)}</LinkText>
  </Pressable>
);

/** A plain line of the sheet for what is empty, loading or explained. */
export const Note = drawnWhenChanged(function Note({ children }: { children: ReactNode }) {
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
      <Margin />
      <View flex={1} padding={12} paddingLeft={10}>
        {typeof children === 'string' ? (
          <Second fontSize={15} lineHeight={21}>
            {unbroken(children)}
          </Second>
        ) : (
          children
        )}
      </View>
    </View>
  );
});

/** The rest of the page, so that the margin rule runs to the foot. */
export const SheetFoot = drawnWhenChanged(function SheetFoot() {
  return (
    <View flex={1} minHeight={40} flexDirection="row" backgroundColor="$sheet">
      <Margin />
    </View>
  );
});

/** A section that opens and shuts; what is in it counts even while it is shut. */
export function Fold({
  title,
  right,
  open: first,
  children,
  testID,
}: {
  title: string;
  right?: string;
  open: boolean;
  children: ReactNode;
  testID?: string;
}) {
  const [open, setOpen] = useState(first);
  return (
    <>
      <Pressable role="button" aria-expanded={open} onPress={() => afterPaint(() => setOpen(!open))} testID={testID} style={pressedStyle}>
        <SectionHead
          right={
            <View flexDirection="row" gap={10} alignItems="baseline">
              {right !== undefined && <Second>{right}</Second>}
              <Mono color="$plum" fontFamily="$monoBold" fontSize={16}>
                {open ? '−' : '+'}
              </Mono>
            </View>
          }
        >
          {title}
        </SectionHead>
      </Pressable>
      {open && <FewAtATime>{children}</FewAtATime>}
    </>
  );
}

/** An act that stands in the sheet itself, as a line of it. */
export const ActRow = drawnWhenChanged(function ActRow({
  text,
  second,
  onPress,
  testID,
  disabled,
}: {
  text: string;
  second?: string;
  onPress: () => void;
  testID?: string;
  disabled?: boolean;
}) {
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
      <Margin />
      <Pressable
        role="button"
        testID={testID}
        onPress={onPress}
        disabled={disabled}
        aria-disabled={disabled}
        style={{ flex: 1, minHeight: 52, justifyContent: 'center', paddingHorizontal: 10, paddingVertical: 6 }}
      >
        <Strong color={disabled ? '$soft' : '$plum'}>{unbroken(text)}</Strong>
        {second && <Second>{unbroken(second)}</Second>}
      </Pressable>
    </View>
  );
});
