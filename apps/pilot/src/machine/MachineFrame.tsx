import { type MachineModel, stages, type StagePath } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { say } from '@yare/words/pages/frame';
import { undoLast, useMachineEdits, type EditKind } from '../data/edits';
import { ActionBar, type Act } from '../ui/bar';
import { KeyList } from '../ui/KeyList';
import { moveFocus, useHotkeys } from '../ui/keys';
import { EntryFoot } from '../ui/entry';
import type { Entry } from '../ui/entryStore';
import { EditTroubles } from './EditTroubles';
import { measure } from '../ui/palette';
import { SheetFoot } from '../ui/sheet';
import { StageHead } from '../ui/StageHead';
import { StageIndex } from './StageIndex';
import { StateStrip } from './StateStrip';
import { RunningNotice } from './RunningNotice';
import { TripNotice } from './TripNotice';
import { WhatIsNext } from './WhatIsNext';
import { Second, Strong } from '../ui/text';
import { useWide } from '../ui/theme';
import { SheetScroll } from '../ui/sheetScroll';
import { go } from '../ui/go';

export interface MachineFrameProps {
  model: MachineModel;
  /** none on the work plan */
  stage?: StagePath;
  title: string;
  /** always in the right-hand column of a wide screen; a phone shows it where the stage puts it */
  evidence?: ReactNode;
  evidenceTitle?: string;
  evidenceNote?: string;
  acts: Act[];
  /** stands at the foot instead of the acts */
  foot?: ReactNode;
  /** figures of the page in their order: the one in hand takes the foot */
  entries?: readonly Entry[];
  children: ReactNode;
}

const noEntries: readonly Entry[] = [];

/** M and then a stage's number within this opens the stage from any page, ms. */
const chordFor = 2000;
let planAsked = -Infinity;

/** Keys that open a page: the plant, and every stage by its number or letter. */
const pageKeys: ReadonlyArray<{ key: string; path: (tag: string) => string; name: string }> = [
  { key: '0', path: () => '/', name: say.plant },
  ...stages.map((s) => ({ key: s.key, path: (tag: string) => `/m/${tag}/${s.path}`, name: s.name })),
];

/** A page that opens has the keyboard at its heading: the next Tab goes to the first thing of its sheet. */
function useFocusOnHeading(stage: StagePath | undefined): void {
  const wide = useWide();
  useEffect(() => {
    if (wide) document.getElementById('title')?.focus({ preventScroll: true });
  }, [stage, wide]);
}

/** Keys of every page of a machine: the list of keys, up and down the sheet, the work plan and every stage. */
function useFrameKeys(tag: string, onPlan: boolean, setHelp: (help: (now: boolean) => boolean) => void): void {
  const keysOfFrame = useMemo(
    () => [
      { hotkey: '?', text: 'help', onPress: () => setHelp((h) => !h) },
      { hotkey: 'arrowdown', text: 'down', onPress: () => moveFocus(1) },
      { hotkey: 'arrowup', text: 'up', onPress: () => moveFocus(-1) },
      { hotkey: 'escape', text: say.closeHelp, onPress: () => setHelp(() => false) },
      {
        hotkey: 'm',
        text: 'plan',
        onPress: () => {
          planAsked = performance.now();
          go(`/m/${tag}`);
        },
      },
      ...pageKeys.map(({ key, path }) => ({
        hotkey: key,
        text: say.open({ key }),
        // a digit belongs to a figure, except on the work plan and right after the key that leads there
        when: () => !/\d/.test(key) || onPlan || performance.now() - planAsked < chordFor,
        onPress: () => go(path(tag)),
      })),
    ],
    [tag, onPlan, setHelp],
  );
  useHotkeys(keysOfFrame, true);
}

/** Every screen of a machine: strip, sheet and acts; on a wide screen the stage index left and the evidence right. */
export function MachineFrame(p: MachineFrameProps) {
  const wide = useWide();
  const tag = p.model.machine.tag;
  const here = stages.find((s) => s.path === p.stage);
  const [help, setHelp] = useState(false);
  const scroll = useRef<HTMLElement | null>(null);
  const onPlan = p.stage === undefined;
  useFrameKeys(tag, onPlan, setHelp);
  useFocusOnHeading(p.stage);
  return (
    <View flex={1} flexDirection="row" backgroundColor="$paper" justifyContent="center">
      {wide && <StageIndex model={p.model} stage={p.stage} />}
      <View
        flex={1}
        minWidth={0}
        maxWidth={wide ? undefined : 720}
        borderRightWidth={wide ? 1 : 0}
        borderLeftWidth={wide ? 1 : 0}
        borderColor="$rule2"
      >
        <StateStrip tag={tag} />
        <SheetScroll.Provider value={scroll}>
          <ScrollView
            {...{ dataSet: { sheet: true } }}
            style={{ flex: 1 }}
            contentContainerStyle={{ flexGrow: 1 }}
            key={p.stage}
            ref={(view) => {
              scroll.current = (view as unknown as { getScrollableNode?: () => HTMLElement } | null)?.getScrollableNode?.() ?? null;
            }}
          >
            <StageHead
              number={here?.number ?? undefined}
              tag={tag}
              name={p.model.machine.name}
              title={p.title}
              second={differText(p.model)}
              {...(!onPlan && { onMachine: () => go(`/m/${tag}`) })}
            />
            {p.stage !== 'trip' && <TripNotice tag={tag} />}
            <RunningNotice model={p.model} />
            <EditTroubles model={p.model} />
            {help && wide && <KeyList rows={keyRows(p.acts)} />}
            {p.children}
            {p.stage && !wide && <WhatIsNext model={p.model} stage={p.stage} />}
            <SheetFoot />
          </ScrollView>
        </SheetScroll.Provider>
        <EntryFoot entries={p.entries ?? noEntries}>{p.foot ?? <ActionBar acts={p.acts} />}</EntryFoot>
      </View>
      {wide && (
        <View width={measure.evidence} backgroundColor="$sheet" flexShrink={0}>
          <View
            minHeight={measure.strip}
            borderBottomWidth={2}
            borderColor="$ink"
            flexDirection="row"
            alignItems="center"
            justifyContent="space-between"
            paddingHorizontal={16}
            gap={12}
          >
            <Strong numberOfLines={1}>{p.evidenceTitle ?? ''}</Strong>
            <Second>{p.evidenceNote ?? ''}</Second>
          </View>
          <ScrollView style={{ flex: 1 }}>{p.evidence}</ScrollView>
        </View>
      )}
    </View>
  );
}

/** That draft and drive differ, and which side is newer; nothing when they agree. */
function differText({ differing, newer }: MachineModel): string | undefined {
  if (newer === null) return undefined;
  return say.settingDiffersFromTheDrive({ differing: differing.length, newer });
}

/** Undo of the last edit of a kind on this device, as an act for the bar. */
export function useUndo(tag: string, of: EditKind): Act {
  const { undo } = useMachineEdits(tag);
  return { text: say.undo, hotkey: 'z', disabled: !undo.some((u) => u.of === of), onPress: () => undoLast(tag, of) };
}

const keyRows = (acts: readonly Act[]): Array<readonly [string, string]> => [
  ...acts.flatMap((a) => (a.held ? [[say.space, say.hold({ text: a.text })] as const] : a.hotkey ? [[a.hotkey.toUpperCase(), a.text] as const] : [])),
  ['M', say.workPlanOfTheMachine],
  ...pageKeys.map(({ key, name }) => [/\d/.test(key) ? `M ${key}` : key.toUpperCase(), name] as const),
  ['↑ ↓', say.goUpAndDownThe],
  [say.digits, say.typeTheFigureOfThe],
  [say.enter, say.setTheFigureGoTo],
  [say.esc, say.leaveTheFigureOrThis],
];
