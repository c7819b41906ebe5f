import { View } from '@tamagui/core';
import type { ReactNode } from 'react';
import { formatFigure, valueAt } from '@yare/core';
import { Mono, Second } from '../text';
import { layout, type Pane } from './pane';

const valueOf = ({ series: [first] }: Pane, time: number): number | null => (first ? valueAt(first.time, first.values, time) : null);

const Figure = ({ name, value, unit, bold = false }: { name?: string; value: string; unit: string; bold?: boolean }) => (
  <View flexDirection="row" alignItems="baseline" gap={5}>
    {name !== undefined && <Second>{name}</Second>}
    <Mono fontSize={16} {...(bold && { fontFamily: '$monoBold' })}>
      {value}
    </Mono>
    <Second>{unit}</Second>
  </View>
);

const Row = ({ children, testID, padding }: { children: ReactNode; testID?: string; padding: number }) => (
  <View
    flexDirection="row"
    flexWrap="wrap"
    alignItems="baseline"
    paddingLeft={layout.left}
    paddingRight={layout.rightPad}
    paddingVertical={padding}
    columnGap={16}
    rowGap={2}
    justifyContent="space-between"
    borderBottomWidth={1}
    borderColor="$rule"
    aria-live="off"
    testID={testID}
  >
    {children}
  </View>
);

export interface ReadOutProps {
  panes: readonly Pane[];
  /** where it is read, and the pinned cursor it is compared with; null where there is none */
  seen: number | null;
  pinned: number | null;
  x: { name: string; unit: string; decimals: number };
  testID?: string;
}

/** What the lines say where the cursor stands, and how far that is from the pinned one. */
export function ReadOut({ panes, seen, pinned, x, testID }: ReadOutProps) {
  if (seen === null)
    return (
      <Row padding={8} testID={testID}>
        <Second>Touch the chart to read it</Second>
      </Row>
    );
  return (
    <>
      <Row padding={8} testID={testID}>
        <Figure name={x.name} value={formatFigure(seen, x.decimals)} unit={x.unit} bold />
        {panes.map((p) => (
          <Figure key={p.key} value={formatFigure(valueOf(p, seen), p.decimals)} unit={p.unit} bold />
        ))}
      </Row>
      {pinned !== null && (
        <Row padding={6}>
          <Figure name="Δ" value={formatFigure(seen - pinned, x.decimals)} unit={x.unit} />
          {panes.map((p) => {
            const [v, other] = [valueOf(p, seen), valueOf(p, pinned)];
            return <Figure key={p.key} value={v === null || other === null ? '–' : formatFigure(v - other, p.decimals)} unit={p.unit} />;
          })}
        </Row>
      )}
    </>
  );
}
