import { View } from '@tamagui/core';
import { useEffect, useRef, useState } from 'react';
import { Pressable } from 'react-native';
import { formatFigure } from '@yare/core/units';
import { say } from '@yare/words/pages/ui';
import { measure } from './palette';
import { Range } from './Range';
import { Body, Figure, Second, Strong } from './text';

export interface SliderRowProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  decimals: number;
  unit: string;
  onChange: (value: number) => void;
  testID?: string;
}

/** Values go out at most this often while a slider moves, ms. */
const sendEvery = 120;

/** A figure one turns rather than types: a step either way under the thumb, the whole range between. */
export function SliderRow(p: SliderRowProps) {
  const [moving, setMoving] = useState<number | null>(null);
  const last = useRef(0);
  const shown = moving ?? p.value;
  useEffect(() => {
    // once the machine says so too, its own figure is shown again
    if (moving !== null && Math.abs(moving - p.value) < p.step / 2) setMoving(null);
  }, [moving, p.value, p.step]);
  const send = (value: number, now: boolean) => {
    const held = Math.min(p.max, Math.max(p.min, Number(value.toFixed(6))));
    setMoving(held);
    if (!now && performance.now() - last.current < sendEvery) return;
    last.current = performance.now();
    p.onChange(held);
  };
  const stepper = (by: number, sign: string) => (
    <Pressable
      role="button"
      aria-label={say.less({ label: p.label, by })}
      onPress={() => send(shown + by, true)}
      style={{ width: 56, height: 56, alignItems: 'center', justifyContent: 'center' }}
    >
      <Strong fontSize={24} lineHeight={28} color="$plum">
        {sign}
      </Strong>
    </Pressable>
  );
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" testID={p.testID}>
      <View width={measure.margin} borderRightWidth={1} borderColor="$plum" flexShrink={0} />
      <View flex={1} paddingTop={8}>
        <View flexDirection="row" paddingLeft={10} alignItems="baseline">
          <Body flex={1}>{p.label}</Body>
          <Figure>{formatFigure(shown, p.decimals)}</Figure>
          <View width={56} paddingLeft={6}>
            <Second>{p.unit}</Second>
          </View>
        </View>
        <View flexDirection="row" alignItems="center">
          {stepper(-p.step, '−')}
          <Range label={p.label} value={shown} min={p.min} max={p.max} step={p.step} onMove={send} />
          {stepper(p.step, '+')}
        </View>
      </View>
    </View>
  );
}
