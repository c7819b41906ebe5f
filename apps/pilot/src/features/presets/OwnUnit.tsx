import type { MachineModel } from '@yare/commissioning';
import type { Wiring } from '@yare/contract';
import { editWiring } from '../../data/edits';
import { EntryRow } from '../../ui/EntryRow';
import type { Entry } from '../../ui/entryStore';
import { KeptTextLine } from '../../ui/TextLine';

/** What a unit begins as, before anybody has given its name. */
const unnamed = 'strokes/min';

const unitOf = ({ plate }: Pick<MachineModel, 'plate'>, { unit }: Pick<Wiring, 'unit'>) =>
  unit ?? { name: unnamed, value: null, frequency: plate.frequency };

/** So much of the machine's own unit at the frequency on the nameplate. */
export function ownUnitEntry(model: MachineModel, wiring: Wiring): Entry {
  const { name, value, frequency } = unitOf(model, wiring);
  const { tag } = model.machine;
  return {
    id: `${tag} presets own unit`,
    label: `Speed at ${frequency} Hz`,
    value,
    unit: name,
    decimals: 1,
    min: 0.01,
    max: 1e6,
    optional: true,
    onSet: (typed) => editWiring(tag, { unit: typed === null ? null : { name, value: typed, frequency } }, { unit: wiring.unit }),
  };
}

/** The unit people speak of this machine's speed in: strokes, air changes, metres. */
export function OwnUnit({ model, wiring }: { model: MachineModel; wiring: Wiring }) {
  const { unit } = wiring;
  return (
    <>
      <EntryRow
        entry={ownUnitEntry(model, wiring)}
        second={unit ? 'goes up and down with it' : 'not given: Hz, rpm and % only, or what the record tells'}
        mark={unit ? 'C' : ''}
        testID="own-unit"
      />
      {unit && (
        <KeptTextLine
          label="Name of the machine’s own unit"
          caption="Its name"
          value={unit.name}
          placeholder={unnamed}
          onKeep={(name) => name !== '' && editWiring(model.machine.tag, { unit: { ...unit, name: name.slice(0, 16) } }, { unit })}
          testID="own-unit-name"
        />
      )}
    </>
  );
}
