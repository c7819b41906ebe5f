import { type MachineModel, stages, type StagePath } from '@yare/commissioning';
import { present } from '@yare/core';
import { View } from '@tamagui/core';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { undoLast, useMachineEdits, type EditKind } from '../data/edits';
import { ActionBar, useHotkeys, type Act } from '../ui/bar';
import { EntryFoot, type Entry } from '../ui/entry';
import { EditTroubles } from './EditTroubles';
import { measure } from '../ui/palette';
import { SheetFoot, StageHead } from '../ui/sheet';
import { StageIndex } from './StageIndex';
import { StateStrip } from './StateStrip';
import { Body, Mono, Second, Strong } from '../ui/text';
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

const pathOf = (tag: string, stage: StagePath) => `/m/${tag}/${stage}` as '/';

/** Every screen of a machine: strip, sheet and acts; on a wide screen the stage index left and the evidence right. */
export function MachineFrame(p: MachineFrameProps) {
  const wide = useWide();
  const tag = p.model.machine.tag;
  const here = stages.find((s) => s.path === p.stage);
  const [help, setHelp] = useState(false);
  const scroll = useRef<HTMLElement | null>(null);
  const keysOfFrame = useMemo(
    () => [
      { hotkey: '?', onPress: () => setHelp((h) => !h) },
      { hotkey: 'escape', onPress: () => setHelp(false) },
      { hotkey: '0', onPress: () => go('/') },
      { hotkey: 'm', onPress: () => go(`/m/${tag}`) },
      ...stages.map((s) => ({ hotkey: s.key, onPress: () => go(pathOf(tag, s.path)) })),
    ],
    [tag],
  );
  useHotkeys(keysOfFrame);
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
            style={{ flex: 1 }}
            contentContainerStyle={{ flexGrow: 1 }}
            key={p.stage}
            ref={(view) => {
              scroll.current = (view as unknown as { getScrollableNode?: () => HTMLElement } | null)?.getScrollableNode?.() ?? null;
            }}
          >
            <StageHead number={here?.number ?? undefined} tag={tag} name={p.model.machine.name} title={p.title} second={differText(p.model)} />
            <EditTroubles model={p.model} />
            {help && wide && <KeyList acts={p.acts} />}
            {p.children}
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
  return `${differing.length} ${differing.length === 1 ? 'setting differs' : 'settings differ'} from the drive, the ${newer} is newer`;
}

/** Undo of the last edit of a kind on this device, as an act for the bar. */
export function useUndo(tag: string, of: EditKind): Act {
  const { undo } = useMachineEdits(tag);
  return { text: 'Undo', hotkey: 'z', disabled: !undo.some((u) => u.of === of), onPress: () => undoLast(tag, of) };
}

function KeyList({ acts }: { acts: Act[] }) {
  const rows = [
    ...acts.filter((a) => a.hotkey).map((a) => [a.hotkey === ' ' ? 'Space' : present(a.hotkey).toUpperCase(), a.text]),
    ['0', 'Plant'],
    ['M', 'Work plan of the machine'],
    ...stages.map((s) => [s.key.toUpperCase(), s.name]),
    ['Enter', 'Set the figure in hand'],
    ['Esc', 'Leave the figure in hand, or this list'],
  ];
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" paddingVertical={8} paddingLeft={measure.margin + 10}>
      {rows.map(([key, text]) => (
        <View key={key} flexDirection="row" gap={12} paddingVertical={3}>
          <Mono width={56} fontFamily="$monoBold">
            {key}
          </Mono>
          <Body>{text}</Body>
        </View>
      ))}
    </View>
  );
}
