import { truthTable, type MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/command';
import { Note, SheetRow } from '../../ui/sheet';
import { Switches } from '../../machine/Switches';

/** Every combination of the contacts that start, stop and choose, with what comes of it. */
export function TruthRows({ model }: { model: MachineModel }) {
  const { terminals, rows } = truthTable(model.drafted);
  if (terminals.length === 0) return <Note>{say.noInputStartsStopsOr}</Note>;
  return (
    <>
      <Note>{say.fromLeftToRightClosed({ terminals: terminals.join(', ') })}</Note>
      {rows.map((r) => (
        <SheetRow key={r.closed.join()} label={r.outcome} testID={`truth-${r.closed.map(Number).join('')}`}>
          <Switches closed={r.closed} />
        </SheetRow>
      ))}
    </>
  );
}
