import type { MachineModel } from '@yare/commissioning';
import { reallyRuns } from '@yare/commissioning/seen/observer';
import type { LiveSample, Wiring } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/presets';
import { useBenchPart } from '../../data/bench';
import { editWiring } from '../../data/edits';
import { useLiveValue } from '../../data/live';
import { EntryRow } from '../../ui/EntryRow';
import type { Entry } from '../../ui/entryStore';
import { ActRow, SheetRow } from '../../ui/sheet';
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
    label: say.speedAtHz({ frequency }),
    value,
    unit: name,
    decimals: 1,
    min: 0.01,
    max: 1e6,
    optional: true,
    onSet: (typed) => editWiring(tag, { unit: typed === null ? null : { name, value: typed, frequency } }, { unit: wiring.unit }),
  };
}

/** Hz of output under which a belt is too slow to be measured. */
const measuredFrom = 5;
const secondsPerMinute = 60;
/** Hz from its reference at which a speed stands. */
const within = 0.2;
const steady = (s: LiveSample): boolean => reallyRuns(s) && Math.abs(Math.abs(s.reference) - Math.abs(s.outputFrequency)) < within;

/** What the belt truly does, by a wheel held against it on the bench: the unit is taken from there and not worked out. */
function AtTheBelt({ model: { machine }, wiring }: { model: MachineModel; wiring: Wiring }) {
  const speed = useBenchPart(machine.tag, (v) =>
    v.kind === 'conveyor' ? Math.round(10 * secondsPerMinute * Math.abs(v.seen.beltSpeed)) / 10 : null,
  );
  // a ramp is no speed to measure at
  const frequency = useLiveValue(machine.tag, (s) => (s && steady(s) ? Math.round(10 * Math.abs(s.outputFrequency)) / 10 : null));
  if (speed === undefined || speed === null) return null;
  if (frequency === null || frequency < measuredFrom)
    return <SheetRow label={say.atTheBelt} second={say.runItAtASteady} figure={formatFigure(speed, 1)} unit="m/min" />;
  return (
    <ActRow
      text={say.takeWhatTheBeltDoes({ speed, frequency })}
      second={say.measuredOnTheBenchBy}
      onPress={() => editWiring(machine.tag, { unit: { name: say.mMin, value: speed, frequency } }, { unit: wiring.unit })}
      testID="take-belt"
    />
  );
}

/** The unit people speak of this machine's speed in: strokes, air changes, metres. */
export function OwnUnit({ model, wiring }: { model: MachineModel; wiring: Wiring }) {
  const { unit } = wiring;
  return (
    <>
      <EntryRow
        entry={ownUnitEntry(model, wiring)}
        second={unit ? say.goesUpAndDownWith : say.notGivenHzRpmAnd}
        mark={unit ? 'C' : ''}
        testID="own-unit"
      />
      <AtTheBelt model={model} wiring={wiring} />
      {unit && (
        <KeptTextLine
          label={say.nameOfTheMachinesOwn}
          caption={say.itsName}
          value={unit.name}
          placeholder={unnamed}
          onKeep={(name) => name !== '' && editWiring(model.machine.tag, { unit: { ...unit, name: name.slice(0, 16) } }, { unit })}
          testID="own-unit-name"
        />
      )}
    </>
  );
}
