import { typedFigure } from '@yare/core/units';
import { openEntry, useEntryStore, type Entry } from './entryStore';
import { SheetRow, type SheetRowProps } from './sheet';

/** A line of the sheet whose figure is typed, shown as it was typed: a touch takes it in hand. */
export function EntryRow({
  entry,
  label = entry.label,
  unit = entry.unit,
  least = entry.decimals,
  ...row
}: { entry: Entry; label?: string; /** decimals shown in any case */ least?: number } & Omit<
  SheetRowProps,
  'label' | 'figure' | 'onPress' | 'inHand'
>) {
  const inHand = useEntryStore((s) => s.id === entry.id);
  return (
    <SheetRow
      {...row}
      figure={typedFigure(entry.value, least)}
      label={label}
      unit={unit}
      inHand={inHand}
      entryId={entry.id}
      onPress={() => openEntry(entry)}
    />
  );
}
