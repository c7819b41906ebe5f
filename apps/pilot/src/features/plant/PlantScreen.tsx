import { retryAll } from '../../data/client';
import { useMachines } from '../../data/machines';
import { useAudit } from '../../data/audit';
import { View } from '@tamagui/core';
import { Fragment, useMemo, useState } from 'react';
import { Pressable, ScrollView } from 'react-native';
import type { LiveSample, MachineSummary } from '@yare/contract';
import { formatFigure } from '@yare/core/units';
import { leftOpen } from '@yare/words/stages';
import { say } from '@yare/words/pages/plant';
import { useDevice } from '../../data/device';
import { useConnected, useLive, useLiveValue } from '../../data/live';
import { moveFocus, useHotkeys } from '../../ui/keys';
import { measure } from '../../ui/palette';
import { StateShape, stateWord } from '../../ui/shapes';
import { ActRow, Finding, Note, SectionHead, SheetFoot } from '../../ui/sheet';
import { Body, Figure, Mono, Second, Strong } from '../../ui/text';
import { usePalette, useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { Waiting } from '../../ui/Waiting';
import { isTold, sentenceOf } from '../../machine/logText';
import { KeyList } from '../../ui/KeyList';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';
import { go } from '../../ui/go';

/** The plant: every machine by area with its state now. */
export function PlantScreen() {
  const { data, error } = useMachines();
  const wide = useWide();
  const machines = useMemo(() => data ?? [], [data]);
  const areas = useMemo(() => [...new Set(machines.map((m) => m.area))], [machines]);
  const [help, setHelp] = useState(false);
  useHotkeys(keysOfPlant(() => setHelp((h) => !h)));
  if (!data) return <Waiting error={error?.message} onRetry={retryAll} />;
  return (
    <View flex={1} flexDirection="row" backgroundColor="$paper" justifyContent="center">
      {wide && <Areas machines={machines} areas={areas} />}
      <View
        flex={1}
        minWidth={0}
        maxWidth={wide ? undefined : 720}
        backgroundColor="$sheet"
        borderLeftWidth={wide ? 1 : 0}
        borderRightWidth={wide ? 1 : 0}
        borderColor="$rule2"
      >
        <View
          minHeight={measure.strip}
          flexDirection="row"
          alignItems="center"
          paddingHorizontal={14}
          gap={10}
          borderBottomWidth={2}
          borderColor="$ink"
          justifyContent="space-between"
        >
          <View flex={1} minWidth={0}>
            {!wide && <Second>{say.yarePilot}</Second>}
            <Strong numberOfLines={1} fontSize={18}>
              {wide ? say.machines : machines[0]?.site}
            </Strong>
          </View>
          <HowManyTurn machines={machines} />
        </View>
        <ScrollView {...{ dataSet: { sheet: true } }} style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
          {help && wide && <KeyList rows={plantKeyRows} />}
          <MachineRows machines={machines} areas={areas} />
        </ScrollView>
      </View>
      {wide && <LogPane />}
    </View>
  );
}

const keysOfPlant = (help: () => void) => [
  { hotkey: 'arrowdown', text: 'down', onPress: () => moveFocus(1) },
  { hotkey: 'arrowup', text: 'up', onPress: () => moveFocus(-1) },
  { hotkey: 'n', text: say.newText, onPress: () => go('/new') },
  { hotkey: '?', text: 'help', onPress: help },
];
const plantKeyRows = [
  ['↑ ↓', say.goToAMachine],
  [say.enter, say.openIt],
  ['N', say.addAMachine],
  ['?', say.thisList],
] as const;

/** The areas of the plant, beside the machines of a wide screen. */
function Areas({ machines, areas }: { machines: readonly MachineSummary[]; areas: readonly string[] }) {
  return (
    <View width={measure.index} paddingTop={16}>
      <View paddingHorizontal={16} paddingBottom={14} borderBottomWidth={1} borderColor="$rule2">
        <Second>{say.yarePilot}</Second>
        <Strong>{machines[0]?.site}</Strong>
      </View>
      {areas.map((a) => (
        <View key={a} flexDirection="row" justifyContent="space-between" paddingHorizontal={16} minHeight={44} alignItems="center">
          <Body>{a}</Body>
          <Mono color="$soft">{machines.filter((m) => m.area === a).length}</Mono>
        </View>
      ))}
      <View flex={1} />
      <DeviceRows />
    </View>
  );
}

/** Every machine under its area, and what can be done with the plant. */
function MachineRows({ machines, areas }: { machines: readonly MachineSummary[]; areas: readonly string[] }) {
  const connected = useConnected();
  const wide = useWide();
  return (
    <>
      {!connected && <Finding severity="warning" sentence={say.noLiveValuesTheServer} />}
      {machines.length === 0 && <Note>{say.noMachineYet}</Note>}
      {areas.map((a) => (
        <Fragment key={a}>
          <SectionHead>{a}</SectionHead>
          {machines
            .filter((m) => m.area === a)
            .map((m) => (
              <MachineRow key={m.tag} machine={m} />
            ))}
        </Fragment>
      ))}
      <ActRow text={say.trips} second={say.allMachinesWhatIsOpen} onPress={() => go('/trips')} testID="plant-trips" />
      <ActRow text={say.addAMachine} second={say.nameplateDriveModbusAddress} onPress={() => go('/new')} testID="new-machine" />
      {!wide && <SectionHead>{say.thisDevice}</SectionHead>}
      {!wide && <DeviceRows />}
      <SheetFoot />
    </>
  );
}

function LogPane() {
  return (
    <View width={measure.evidence} backgroundColor="$sheet">
      <View minHeight={measure.strip} justifyContent="center" paddingHorizontal={16} borderBottomWidth={2} borderColor="$ink">
        <Strong>{say.log}</Strong>
      </View>
      <ScrollView>
        <Log />
      </ScrollView>
      <View borderTopWidth={1} borderColor="$rule" padding={12} paddingHorizontal={16}>
        <Second>{say.listsTheKeys}</Second>
      </View>
    </View>
  );
}

function HowManyTurn({ machines }: { machines: readonly MachineSummary[] }) {
  return <Second>{standingText(machines, useLive(machines.map((m) => m.tag)))}</Second>;
}

function standingText(machines: readonly MachineSummary[], live: (tag: string) => LiveSample | undefined): string {
  const of = (state: LiveSample['state']) => machines.filter((m) => live(m.tag)?.state === state).length;
  const parts = [
    [of('tripped'), 'tripped'],
    [of('running') + of('stopping'), 'turning'],
    [of('ready'), 'ready'],
  ]
    .filter(([n]) => n !== 0)
    .map(([n, w]) => `${n} ${w}`);
  return parts.join(', ');
}

const MachineRow = drawnWhenChanged(function MachineRow({ machine: m }: { machine: MachineSummary }) {
  const state = useLiveValue(m.tag, (s) => s?.state) ?? 'no link';
  const hertz = useLiveValue(m.tag, (s) => (s?.link === 'up' ? s.outputFrequency : null));
  const trip = useLiveValue(m.tag, (s) => s?.trip?.name);
  const differs = m.differences !== null && m.differences > 0;
  const second = [
    `${m.plate.power} ${m.plate.powerUnit}`,
    ...(m.openTrips > 0 ? [m.openTrips === 1 ? say.tripOpen : say.tripsOpen({ openTrips: m.openTrips })] : []),
    m.differences === null
      ? say.driveNotReadYet
      : differs
        ? say.toWriteTheIsNewer({ differences: m.differences, newer: m.newer })
        : say.draftIsInDrive,
  ].join(' · ');
  return (
    <Pressable
      onPress={() => go(state === 'tripped' ? `/m/${m.tag}/trip` : `/m/${m.tag}`)}
      role="link"
      testID={`machine-${m.tag}`}
      aria-label={`${m.tag} ${m.name}, ${stateWord[state]}`}
    >
      <View flexDirection="row" minHeight={64} borderBottomWidth={1} borderColor="$rule" backgroundColor="$sheet">
        <View width={measure.margin} alignItems="center" justifyContent="center" borderRightWidth={1} borderColor="$plum">
          <StateShape state={state} size={22} />
        </View>
        <View flex={1} minWidth={0} justifyContent="center" paddingLeft={10} paddingVertical={8}>
          <Body numberOfLines={2}>
            <Mono color="$plum" fontFamily="$monoBold" fontSize={16}>
              {m.tag}
            </Mono>{' '}
            {m.name}
          </Body>
          <Second color={differs ? '$plum' : '$soft'}>{second}</Second>
          {m.left && <Second color="$yellow">{say.leftUnprovedBy({ author: m.left.author, leftOpen: leftOpen(m.left) })}</Second>}
        </View>
        <View justifyContent="center" alignItems="flex-end" paddingRight={16} paddingLeft={8}>
          <View flexDirection="row" alignItems="baseline" gap={5}>
            <Figure>{formatFigure(hertz, 1)}</Figure>
            <Second>{say.hz}</Second>
          </View>
          <Second>{trip ?? stateWord[state]}</Second>
        </View>
      </View>
    </Pressable>
  );
});

/** Who is at this device and how it looks. */
function DeviceRows() {
  const { author, setAuthor, theme, setTheme } = useDevice();
  const palette = usePalette();
  return (
    <View paddingHorizontal={16} paddingVertical={10} gap={4}>
      <View flexDirection="row" alignItems="center" justifyContent="space-between" minHeight={48}>
        <View flex={1}>
          <Second>{say.atThisDevice}</Second>
          <Body numberOfLines={1}>{author}</Body>
        </View>
        <Pressable
          role="button"
          onPress={() => setAuthor('')}
          style={{ minHeight: 48, minWidth: 64, justifyContent: 'center', alignItems: 'flex-end' }}
        >
          <Strong color="$plum">{say.change}</Strong>
        </Pressable>
      </View>
      <Pressable role="link" testID="devices" onPress={() => go('/devices')} style={{ minHeight: 48, justifyContent: 'center' }}>
        <Strong color="$plum">{say.pairedDevices}</Strong>
      </Pressable>
      <View flexDirection="row" role="radiogroup" aria-label={say.theme}>
        {(['device', 'day', 'night'] as const).map((t) => (
          <Pressable
            key={t}
            role="radio"
            aria-checked={theme === t}
            testID={`theme-${t}`}
            onPress={() => setTheme(t)}
            style={{
              flex: 1,
              height: 48,
              alignItems: 'center',
              justifyContent: 'center',
              borderWidth: 1,
              borderColor: palette.rule2,
              marginLeft: t === 'device' ? 0 : -1,
              backgroundColor: theme === t ? palette.hand : 'transparent',
            }}
          >
            <Strong color={theme === t ? '$plum' : '$soft'}>{t === 'device' ? say.device : t === 'day' ? say.day : say.night}</Strong>
          </Pressable>
        ))}
      </View>
    </View>
  );
}

/** Who did what, newest first. */
function Log() {
  const { data } = useAudit();
  if (!data)
    return (
      <View padding={16}>
        <Second>{say.readingTheLog}</Second>
      </View>
    );
  return (
    <>
      {data.events.filter(isTold).map((e) => (
        <View key={e.id} paddingHorizontal={16} paddingVertical={8} borderBottomWidth={1} borderColor="$rule">
          <View flexDirection="row" justifyContent="space-between" gap={8}>
            <Second>{e.author}</Second>
            <Mono color="$soft">{when(e.at)}</Mono>
          </View>
          <Body>{sentenceOf(e)}</Body>
          {e.device && <Second>{say.from({ device: e.device, address: e.address })}</Second>}
        </View>
      ))}
    </>
  );
}
