import { View } from '@tamagui/core';
import { memo, useEffect, useRef } from 'react';
import { Pressable } from 'react-native';
import type { BenchAct, BenchView } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/bench';
import { Range } from '../../ui/Range';
import { Segments } from '../../ui/Segments';
import { Second, Strong } from '../../ui/text';
import { usePalette } from '../../ui/theme';

type Device = BenchView['panel'][number];
type OnAct = (act: Omit<BenchAct, 'author'>) => void;

/** A button held is told again this often, ms; the bench lets it spring back when nobody does. */
const pressEvery = 200;

function Selector({ device, onAct }: { device: Device; onAct: OnAct }) {
  return (
    <View flex={3} minWidth={150}>
      <Segments
        label={device.label}
        options={device.positions.map((text, i) => ({ value: i, text, testID: `panel-${device.id}-${i}` }))}
        value={device.value}
        onChoose={(i) => onAct({ panel: { [device.id]: i } })}
      />
    </View>
  );
}

function Push({ device, onAct }: { device: Device; onAct: OnAct }) {
  const palette = usePalette();
  const timer = useRef<ReturnType<typeof setInterval> | null>(null);
  const release = () => {
    if (timer.current === null) return;
    clearInterval(timer.current);
    timer.current = null;
    onAct({ panel: { [device.id]: 0 } });
  };
  useEffect(
    () => () => {
      if (timer.current !== null) clearInterval(timer.current);
    },
    [],
  );
  const press = () => {
    if (timer.current !== null) return;
    onAct({ panel: { [device.id]: 1 } });
    timer.current = setInterval(() => onAct({ panel: { [device.id]: 1 } }), pressEvery);
  };
  const down = device.value === 1;
  return (
    <Pressable
      role="button"
      testID={`panel-${device.id}`}
      onPressIn={press}
      onPressOut={release}
      style={{
        flex: 1,
        minWidth: 72,
        height: 56,
        alignItems: 'center',
        justifyContent: 'center',
        borderWidth: 2,
        borderColor: palette.ink,
        backgroundColor: down ? palette.hand : palette.sheet,
      }}
    >
      <Strong color="$plum" fontSize={15}>
        {device.label}
      </Strong>
    </Pressable>
  );
}

function Toggle({ device, onAct }: { device: Device; onAct: OnAct }) {
  const palette = usePalette();
  const on = device.value === 1;
  return (
    <Pressable
      role="switch"
      aria-checked={on}
      testID={`panel-${device.id}`}
      onPress={() => onAct({ panel: { [device.id]: on ? 0 : 1 } })}
      style={{
        flex: 1,
        minWidth: 88,
        height: 56,
        alignItems: 'center',
        justifyContent: 'center',
        borderWidth: 2,
        borderColor: palette.ink,
        backgroundColor: on ? palette.plumFill : palette.sheet,
      }}
    >
      <Strong color={on ? '$onPlum' : '$plum'} fontSize={15}>
        {device.label}
      </Strong>
      <Second color={on ? '$onPlum' : '$soft'}>{on ? 'closed' : 'open'}</Second>
    </Pressable>
  );
}

function EmergencyStop({ device, onAct }: { device: Device; onAct: OnAct }) {
  const palette = usePalette();
  const pressed = device.value === 1;
  return (
    <Pressable
      role="switch"
      aria-checked={pressed}
      aria-label={device.label}
      testID="panel-stop"
      onPress={() => onAct({ panel: { [device.id]: pressed ? 0 : 1 } })}
      style={{
        width: 96,
        height: 56,
        alignItems: 'center',
        justifyContent: 'center',
        borderWidth: 3,
        borderColor: palette.red,
        backgroundColor: pressed ? palette.red : palette.redGround,
      }}
    >
      <Strong color={pressed ? '$sheet' : '$red'} fontSize={15} lineHeight={17} textAlign="center">
        {pressed ? say.pressedPullOut : say.emergencyStop}
      </Strong>
    </Pressable>
  );
}

/** The panel under the thumb: what a person beside the machine can work. */
export const Panel = memo(function Panel({ panel, onAct }: { panel: BenchView['panel']; onAct: OnAct }) {
  const knob = panel.find((d) => d.kind === 'knob');
  return (
    <View
      borderTopWidth={2}
      borderColor="$ink"
      backgroundColor="$paper"
      flexShrink={0}
      paddingHorizontal={10}
      paddingVertical={8}
      gap={6}
      testID="bench-panel"
    >
      {knob && (
        <View flexDirection="row" alignItems="center" gap={10}>
          <Second width={78}>{knob.label}</Second>
          <Range label={knob.label} value={knob.value} min={0} max={1} step={0.05} onMove={(value) => onAct({ panel: { [knob.id]: value } })} />
          <Strong width={52} textAlign="right" fontFamily="$monoBold">
            {formatFigure(knob.value * 100, 0)} %
          </Strong>
        </View>
      )}
      <View flexDirection="row" gap={8} flexWrap="wrap">
        {panel.map((d) =>
          d.kind === 'selector' ? (
            <Selector key={d.id} device={d} onAct={onAct} />
          ) : d.kind === 'push' ? (
            <Push key={d.id} device={d} onAct={onAct} />
          ) : d.kind === 'switch' ? (
            <Toggle key={d.id} device={d} onAct={onAct} />
          ) : d.kind === 'emergency stop' ? (
            <EmergencyStop key={d.id} device={d} onAct={onAct} />
          ) : null,
        )}
      </View>
    </View>
  );
});
