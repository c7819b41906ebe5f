import { View } from '@tamagui/core';
import { useRef, useState, type PointerEvent } from 'react';
import Svg, { Line, Rect } from 'react-native-svg';
import { usePalette } from '../../ui/theme';
import { Second } from '../../ui/text';
import { say } from '@yare/words/pages/sleep';

const height = 120;
/** Steps a finger draws in, over the whole height. */
const steps = 20;

/** A day's demand drawn by finger: a bar for every even time, pulled up and down. */
export function ProfileDrawing({ demand, most, onDraw }: { demand: readonly number[]; most: number; onDraw: (demand: number[]) => void }) {
  const palette = usePalette();
  const box = useRef<HTMLDivElement | null>(null);
  const [drawn, setDrawn] = useState<number[] | null>(null);
  const shown = drawn ?? demand;
  const at = (e: PointerEvent<HTMLDivElement>): number[] => {
    const r = box.current?.getBoundingClientRect();
    if (!r) return [...shown];
    const i = Math.min(shown.length - 1, Math.max(0, Math.floor(((e.clientX - r.left) / r.width) * shown.length)));
    const share = Math.min(1, Math.max(0, 1 - (e.clientY - r.top) / r.height));
    return shown.map((x, n) => (n === i ? (Math.round(share * steps) / steps) * most : x));
  };
  return (
    <View backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" paddingHorizontal={14} paddingVertical={8}>
      <Second>{say.upToMHDraw({ most })}</Second>
      <div
        ref={box}
        data-testid="profile-drawing"
        style={{ height, touchAction: 'none', cursor: 'crosshair' }}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrawn(at(e));
        }}
        onPointerMove={(e) => {
          if (drawn) setDrawn(at(e));
        }}
        onPointerUp={() => {
          if (drawn) onDraw(drawn);
          setDrawn(null);
        }}
        onPointerCancel={() => setDrawn(null)}
      >
        <Svg width="100%" height={height} viewBox={`0 0 ${shown.length} ${height}`} preserveAspectRatio="none">
          {shown.map((x, i) => {
            const h = Math.min(1, x / most) * height;
            return <Rect key={`bar ${i}`} x={i + 0.08} width={0.84} y={height - h} height={h} fill={palette.plum} />;
          })}
          <Line x1={0} x2={shown.length} y1={height - 0.5} y2={height - 0.5} stroke={palette.ink} strokeWidth={1} />
        </Svg>
      </div>
      <View flexDirection="row" justifyContent="space-between">
        {[0, 6, 12, 18, 24].map((h) => (
          <Second key={h}>{`${h} h`}</Second>
        ))}
      </View>
    </View>
  );
}
