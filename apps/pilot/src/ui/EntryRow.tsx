import { openEntry, useEntryStore, type Entry } from './entry';
import { SheetRow, type SheetRowProps } from './sheet';

/** A line of the sheet whose figure is typed: a touch takes it in hand. */
export function EntryRow({
  entry,
  label = entry.label,
  unit = entry.unit,
  ...row
}: { entry: Entry; label?: string } & Omit<SheetRowProps, 'label' | 'onPress' | 'inHand'>) {
  const inHand = useEntryStore((s) => s.id === entry.id);
  return <SheetRow {...row} label={label} unit={unit} inHand={inHand} onPress={() => openEntry(entry)} />;
}
