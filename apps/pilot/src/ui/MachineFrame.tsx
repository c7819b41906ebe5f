import { View } from '@tamagui/core';
import { Link, router } from 'expo-router';
import { useMemo, useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useConnected } from '../data/live';
import { dropRefused, settleConflict, undoLast, useEdits, useMachineEdits } from '../data/edits';
import type { MachineModel } from '../data/machineModel';
import { useRecordings } from '../data/queries';
import { stages, stageStanding, type Stage } from '../data/stages';
import { ActionBar, useHotkeys, type Act } from './bar';
import { EntryPad, type Entry } from './entry';
import { measure } from './look';
import { ProofShape } from './shapes';
import { Finding, SheetFoot, StageHead } from './sheet';
import { StateStrip } from './StateStrip';
import { Body, Mono, Second, Strong } from './text';
import { useLook, useWide } from './theme';

export interface MachineFrameProps {
  model: MachineModel;
  stage?: Stage['path'];
  title: string;
  /** always in the right-hand column of a wide screen; a phone shows it where the stage puts it */
  evidence?: ReactNode;
  evidenceTitle?: string;
  evidenceNote?: string;
  acts: Act[];
  /** stands at the foot instead of the acts */
  foot?: ReactNode;
  entry?: Entry | null;
  onNextEntry?: () => void;
  children: ReactNode;
}

const pathOf = (tag: string, stage: Stage['path']) => `/m/${tag}${stage ? `/${stage}` : ''}` as const;

/** Every screen of a machine: strip, sheet and acts; on a wide screen the stage index left and the evidence right. */
export function MachineFrame(p: MachineFrameProps) {
  const wide = useWide();
  const tag = p.model.machine.tag;
  const here = stages.find((s) => s.path === p.stage);
  const [help, setHelp] = useState(false);
  const keysOfFrame = useMemo(
    () => [
      { hotkey: '?', onPress: () => setHelp((h) => !h) },
      { hotkey: 'escape', onPress: () => setHelp(false) },
      { hotkey: '0', onPress: () => router.navigate('/') },
      ...stages.map((s) => ({ hotkey: s.hotkey, onPress: () => router.navigate(pathOf(tag, s.path)) })),
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
        <ScrollView style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }} key={p.stage}>
          <StageHead number={here?.number} tag={tag} name={p.model.machine.name} title={p.title} />
          <EditTroubles model={p.model} />
          {help && wide && <KeyList acts={p.acts} />}
          {p.children}
          <SheetFoot />
        </ScrollView>
        {p.entry ? <EntryPad entry={p.entry} onNext={p.onNextEntry} /> : (p.foot ?? <ActionBar acts={p.acts} />)}
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

/** Undo of the last edit of a kind on this device, as an act for the bar. */
export function useUndo(tag: string, of: 'draft' | 'plate'): Act {
  const { undo } = useMachineEdits(tag);
  return { words: 'Undo', hotkey: 'z', disabled: !undo.some((u) => u.of === of), onPress: () => undoLast(tag, of) };
}

function StageIndex({ model, stage }: { model: MachineModel; stage?: Stage['path'] }) {
  const look = useLook();
  const { machine } = model;
  const recordings = useRecordings(machine.tag).data?.pages[0]?.recordings.length ?? 0;
  return (
    <View width={measure.index} backgroundColor="$paper" flexShrink={0} role="navigation">
      <Link href="/" asChild>
        <Pressable role="link" style={{ minHeight: 48, justifyContent: 'center', paddingHorizontal: 16 }}>
          <Body color="$plum">‹ {machine.site}</Body>
        </Pressable>
      </Link>
      <Link href={pathOf(machine.tag, '')} asChild>
        <Pressable role="link" style={{ paddingHorizontal: 16, paddingBottom: 12, borderBottomWidth: 1, borderColor: look.rule2 }}>
          <Mono color="$plum" fontFamily="$monoBold" fontSize={16} lineHeight={22}>
            {machine.tag}
          </Mono>
          <Strong>{machine.name}</Strong>
          <Second>{machine.area}</Second>
        </Pressable>
      </Link>
      <View paddingHorizontal={16} paddingTop={14} paddingBottom={4}>
        <Second>Stages</Second>
      </View>
      {stages.map((s) => {
        const standing = stageStanding(s, model, recordings);
        const here = s.path === stage;
        return (
          <Link key={s.path} href={pathOf(machine.tag, s.path)} asChild>
            <Pressable
              role="link"
              aria-current={here ? 'page' : undefined}
              aria-label={`${s.name}: ${standing.words}`}
              style={{
                flexDirection: 'row',
                alignItems: 'center',
                minHeight: 48,
                paddingHorizontal: 8,
                gap: 10,
                backgroundColor: here ? look.sheet : 'transparent',
                borderLeftWidth: 3,
                borderColor: here ? look.plum : 'transparent',
              }}
            >
              <ProofShape proof={standing.proof} />
              <View flex={1}>{here ? <Strong>{s.name}</Strong> : <Body>{s.name}</Body>}</View>
              <Mono color="$soft" paddingRight={8}>
                {s.number}
              </Mono>
            </Pressable>
          </Link>
        );
      })}
      <View flex={1} />
      <View padding={16}>
        <Second>? lists the keys</Second>
      </View>
    </View>
  );
}

function KeyList({ acts }: { acts: Act[] }) {
  const rows = [
    ...acts.filter((a) => a.hotkey).map((a) => [a.hotkey === ' ' ? 'Space' : a.hotkey!.toUpperCase(), a.words]),
    ['0', 'Plant'],
    ...stages.map((s) => [s.hotkey, s.name]),
    ['Enter', 'Set the figure in hand'],
    ['Esc', 'Leave the figure in hand, or this list'],
  ];
  return (
    <View backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" paddingVertical={8} paddingLeft={measure.margin + 10}>
      {rows.map(([key, words]) => (
        <View key={key} flexDirection="row" gap={12} paddingVertical={3}>
          <Mono width={56} fontFamily="$monoBold">
            {key}
          </Mono>
          <Body>{words}</Body>
        </View>
      ))}
    </View>
  );
}

/** What stands between an edit of this device and the server: a race lost, a refusal, no server. */
function EditTroubles({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const edits = useMachineEdits(tag);
  const offline = useEdits((s) => s.offline);
  const connected = useConnected();
  const waiting = Object.keys(edits.draft.changes).length + Object.keys(edits.plate.changes).length;
  const { draft, plate } = edits;
  return (
    <>
      {(offline || (!connected && waiting > 0)) && waiting > 0 && (
        <Finding
          severity="warning"
          sentence={`The server does not answer. ${waiting} ${waiting === 1 ? 'change is' : 'changes are'} kept on this device and sent when it is back.`}
        />
      )}
      {draft.conflict && (
        <Finding
          severity="act"
          sentence={`${draft.conflict.author} changed the draft while you were typing.`}
          act="Keep mine on top"
          onAct={() => settleConflict(tag, 'draft', 'mine')}
        >
          {Object.entries(draft.changes).map(([code, c]) => {
            const s = model.settings.find((x) => x.code === code);
            return (
              <Body key={code}>
                {s?.name ?? code}: yours {c.value}, theirs {draft.conflict!.values[code]?.value ?? '–'} {s?.unit}
              </Body>
            );
          })}
          <Pressable role="button" onPress={() => settleConflict(tag, 'draft', 'theirs')} style={{ minHeight: 48, justifyContent: 'center' }}>
            <Strong color="$plum">Take theirs, drop mine</Strong>
          </Pressable>
        </Finding>
      )}
      {plate.conflict && (
        <Finding
          severity="act"
          sentence={`${plate.conflict.author} changed the plate while you were typing.`}
          act="Keep mine on top"
          onAct={() => settleConflict(tag, 'plate', 'mine')}
        >
          {Object.entries(plate.changes).map(([field, value]) => (
            <Body key={field}>
              {field}: yours {String(value)}, theirs {String(plate.conflict!.plate[field as keyof typeof plate.conflict.plate])}
            </Body>
          ))}
          <Pressable role="button" onPress={() => settleConflict(tag, 'plate', 'theirs')} style={{ minHeight: 48, justifyContent: 'center' }}>
            <Strong color="$plum">Take theirs, drop mine</Strong>
          </Pressable>
        </Finding>
      )}
      {draft.refused && (
        <Finding severity="error" sentence={draft.refused.sentence} act="Put back what was there" onAct={() => dropRefused(tag, 'draft')} />
      )}
      {plate.refused && (
        <Finding severity="error" sentence={plate.refused.sentence} act="Put back what was there" onAct={() => dropRefused(tag, 'plate')} />
      )}
    </>
  );
}
