import { View } from '@tamagui/core';
import { formatFigure } from '@yare/core/units';
import { say } from '@yare/words/pages/ui';
import { Mono, Second } from '../text';
import { layout } from './pane';

export interface ReadOutProps {
  /** where it is read, and the pinned cursor it is compared with; null where there is none */
  seen: number | null;
  pinned: number | null;
  x: { name: string; unit: string; decimals: number };
  testID?: string;
}

/** Where the cursor stands, above the finger, and how far that is from the pinned one; what it reads stands at the heads of the panes. */
export function ReadOut({ seen, pinned, x, testID }: ReadOutProps) {
  const figure = (value: number) => formatFigure(value, x.decimals);
  return (
    <View
      flexDirection="row"
      alignItems="baseline"
      gap={5}
      height={layout.readOut}
      paddingTop={10}
      paddingLeft={layout.left}
      paddingRight={layout.rightPad}
      aria-live="off"
      testID={testID}
    >
      <Second>{seen === null ? say.touchTheChartToRead : x.name}</Second>
      {seen !== null && (
        <Mono fontSize={16} fontFamily="$monoBold">
          {figure(seen)}
        </Mono>
      )}
      {seen !== null && <Second>{x.unit}</Second>}
      {seen !== null && pinned !== null && <Mono fontSize={16}>{`   Δ ${figure(seen - pinned)}`}</Mono>}
    </View>
  );
}
