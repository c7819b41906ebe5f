import { permissivesOf, holdText, type MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/frame';
import type { CommandNow } from '../data/commandNow';
import { ProofShape } from '../ui/shapes';
import { Note, SheetRow } from '../ui/sheet';

/** Everything that must be so before a start turns the shaft, in a row; the first that holds it back in words. */
export function Permissives({ model, now }: { model: MachineModel; now: CommandNow | null }) {
  const { held } = model;
  if (!held || !now) return <Note>{say.theDriveDoesNotAnswer}</Note>;
  const first = now.told.held[0];
  return permissivesOf(held).map(({ hold, name }) => {
    const holds = now.told.held.includes(hold);
    return (
      <SheetRow
        key={hold}
        label={name}
        {...(holds && { second: holdText(held, hold, now.command) })}
        text={holds ? (hold === first ? say.holdsItBack : say.also) : 'free'}
        mark={<ProofShape proof={holds ? (hold === first ? 'act' : 'stale') : 'proved'} />}
        testID={`permissive-${hold.replace(/ /g, '-')}`}
      />
    );
  });
}
