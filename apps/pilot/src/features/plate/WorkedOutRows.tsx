import { View } from '@tamagui/core';
import { Fragment } from 'react';
import { say } from '@yare/words/pages/plate';
import { SheetRow } from '../../ui/sheet';
import { Mono, Second } from '../../ui/text';
import type { WorkedOut } from './workedOut';

export function FormulaBlock({ row }: { row: WorkedOut }) {
  return (
    <View padding={14} paddingLeft={16} backgroundColor="$hand" borderBottomWidth={1} borderColor="$rule2" gap={4} testID="formula">
      {row.formula.map((line) => (
        <Mono key={line} fontSize={15} lineHeight={22}>
          {line}
        </Mono>
      ))}
      <Second>{row.source}</Second>
    </View>
  );
}

export interface WorkedOutRowsProps {
  rows: readonly WorkedOut[];
  /** the row whose formula stands beside the sheet */
  shown: WorkedOut | undefined;
  /** the row whose formula stands under it, where there is nothing beside the sheet; null beside one */
  opened: string | null;
  beside: boolean;
  onTouch: (key: string) => void;
}

/** What follows from the plate, each with its formula. */
export function WorkedOutRows({ rows, shown, opened, beside, onTouch }: WorkedOutRowsProps) {
  return rows.map((r) => (
    <Fragment key={r.key}>
      <SheetRow
        label={r.label}
        second={r.estimate ? say.estimateTouchForTheFormula : say.touchForTheFormula}
        figure={r.figure}
        unit={r.unit}
        mark="W"
        estimate={r.estimate}
        inHand={beside ? shown?.key === r.key : opened === r.key}
        onPress={() => onTouch(r.key)}
        testID={`worked-${r.key}`}
      />
      {!beside && opened === r.key && <FormulaBlock row={r} />}
    </Fragment>
  ));
}
