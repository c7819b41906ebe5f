import { View } from '@tamagui/core';
import type { LiveSample } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/frame';
import { useConnected, useLive } from '../data/live';
import { useEdits } from '../data/edits';
import { measure } from '../ui/palette';
import { StateShape, stateWord } from '../ui/shapes';
import { clock } from '../ui/when';
import { drawnWhenChanged } from '../ui/drawnWhenChanged';
import { Mono, Second, Strong } from '../ui/text';

function Reading({ value, decimals, unit, width }: { value: number | undefined; decimals: number; unit: string; width: number }) {
  return (
    <View flexDirection="row" alignItems="baseline" justifyContent="flex-end" minWidth={width}>
      <Mono fontFamily="$monoBold" fontSize={18} lineHeight={24}>
        {formatFigure(value, decimals)}
      </Mono>
      <Second paddingLeft={2}>{unit}</Second>
    </View>
  );
}

/** What it does by itself, before anything else: it may start or go on without anybody. */
const doingText: Record<LiveSample['doing'], string> = {
  nothing: '',
  emergency: say.emergencyNoStopCounts,
  cleaning: say.cleansItself,
  filling: say.fillsThePipe,
  boosting: say.fillsUpToSleep,
  resting: say.guardStartsAgainByItself,
  frost: say.turnsAgainstFrost,
  'running on': say.runsOnAWhile,
  standby: say.othersRunItMayStart,
};

/** The same strip on every machine screen: shape, word, who has command, and the three figures. */
export const StateStrip = drawnWhenChanged(function StateStrip({ tag }: { tag: string }) {
  const sample = useLive([tag])(tag);
  const connected = useConnected();
  const offline = useEdits((s) => s.offline);
  const state = sample?.state ?? 'no link';
  const up = sample !== undefined && sample.link === 'up';
  const second = !connected
    ? offline
      ? say.noServerKeptOnThis
      : say.noServer
    : up
      ? sample.trip
        ? sample.trip.name
        : sample.doing !== 'nothing'
          ? doingText[sample.doing]
          : sample.waits && state === 'held'
            ? sample.waits.sentence
            : sample.holder === 'terminals'
              ? say.commandTerminals
              : sample.stillUntil !== null
                ? say.panelStartsNothingUntil({ clock: clock(sample.stillUntil) })
                : sample.command
      : (sample?.command ?? say.driveDoesNotAnswer);
  return (
    <View
      flexDirection="row"
      minHeight={measure.strip}
      alignItems="center"
      paddingHorizontal={14}
      paddingVertical={1}
      gap={9}
      borderBottomWidth={2}
      borderColor="$ink"
      backgroundColor="$sheet"
      role="status"
      aria-label={`${tag} ${stateWord[state]}`}
      testID="state-strip"
      flexShrink={0}
    >
      <StateShape state={state} />
      <View flex={1} minWidth={0}>
        <Strong testID="state-word" lineHeight={21}>
          {stateWord[state]}
        </Strong>
        <Second numberOfLines={2} lineHeight={16}>
          {second}
        </Second>
      </View>
      <Reading value={up ? sample.outputFrequency : undefined} decimals={1} unit={say.hz} width={62} />
      <Reading value={up ? sample.motorCurrent : undefined} decimals={1} unit="A" width={54} />
      <Reading value={up ? sample.busVoltage : undefined} decimals={0} unit="V" width={50} />
    </View>
  );
});
