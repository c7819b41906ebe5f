import { Fragment, useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { mayBeRaised, otherConnection, type PlateFinding, type StampedPlate } from '@yare/core';
import { say } from '@yare/words/pages/plate';
import { figureRows, plateEntry } from '../../machine/plateFigures';
import { StageFindings } from '../../machine/StageFindings';
import { Choices } from '../../ui/entry';
import { EntryRow } from '../../ui/EntryRow';
import { ActRow, Finding, SectionHead, SheetRow } from '../../ui/sheet';
import { changePlate, type PlateState } from './plateEdit';
import { TerminalBox } from './TerminalBox';

interface StampedProps {
  model: MachineModel;
  state: PlateState;
}

/** What does not fit at a field of the plate. */
function UnderField({ model, state, field }: StampedProps & { field: PlateFinding['field'] }) {
  const own = state.findings.filter((f) => f.field === field);
  const against = state.sound ? model.findings.filter((f) => f.stage === 'plate' && f.field === field) : [];
  return (
    <>
      {own.map(({ severity, sentence, remedy }) => (
        <Finding
          key={sentence}
          severity={severity}
          sentence={sentence}
          act={remedy?.label}
          onAct={remedy && (() => changePlate(model, remedy.change))}
        />
      ))}
      <StageFindings model={model} findings={against} />
    </>
  );
}

interface Choice<F extends keyof StampedPlate> {
  field: F;
  label: string;
  second: string;
  options: ReadonlyArray<{ value: NonNullable<StampedPlate[F]> | ''; label: string }>;
  /** what else changes with a choice */
  more?: (value: StampedPlate[F] | null) => Partial<StampedPlate>;
}

/** A field of the plate that is one of a few; nothing chosen is null. */
function ChoiceRow<F extends 'standard' | 'connection' | 'design' | 'leads' | 'joined' | 'base'>({
  model,
  state,
  field,
  label,
  second,
  options,
  more = () => ({}),
}: StampedProps & Choice<F>) {
  const [open, setOpen] = useState(false);
  const value = model.plate[field] ?? '';
  return (
    <>
      <SheetRow
        label={label}
        second={second}
        text={options.find((o) => o.value === value)?.label}
        mark="P"
        onPress={() => setOpen(!open)}
        inHand={open}
        testID={`plate-${field}`}
      />
      {open && (
        <Choices
          options={options}
          value={value}
          onChoose={(v) => {
            const chosen = options.find((o) => o.value === v)?.value;
            const next = chosen === undefined || chosen === '' ? null : chosen;
            changePlate(model, { [field]: next, ...more(next) });
            setOpen(false);
          }}
        />
      )}
      <UnderField model={model} state={state} field={field} />
    </>
  );
}

/** How the windings are joined, drawn as their links lie in the box. */
function ConnectionRows({ model, state }: StampedProps) {
  const { plate } = model;
  const other = otherConnection(plate);
  return (
    <>
      <ChoiceRow
        {...{ model, state, field: 'connection', label: say.connection, second: say.ofTheWindings }}
        options={[
          { value: 'star', label: say.starY },
          { value: 'delta', label: say.delta },
        ]}
      />
      <ChoiceRow
        {...{ model, state, field: 'leads', label: say.leadsInTheBox, second: plate.leads ? say.thatCanBeLinked : say.notEnteredYet }}
        options={[
          { value: 3, label: '3' },
          { value: 6, label: say.starOrDelta },
          { value: 9, label: say.dualVoltage },
        ]}
        more={(leads) => (leads === 9 ? { joined: plate.joined ?? 'series' } : {})}
      />
      {plate.leads === 9 && (
        <ChoiceRow
          {...{ model, state, field: 'joined', label: say.halvesJoined, second: say.ofEachPhase }}
          options={[
            { value: 'series', label: say.seriesHighVolts },
            { value: 'parallel', label: say.parallelLowVolts },
          ]}
        />
      )}
      {plate.leads !== undefined && <TerminalBox plate={plate} />}
      {(mayBeRaised(plate, model.machine.supply.voltage) || plate.base === 'raised') && (
        <ChoiceRow
          {...{
            model,
            state,
            field: 'base',
            label: say.fullTorqueUpTo,
            second: plate.base === 'raised' ? say.inDelta : say.hzAsStamped({ frequency: plate.frequency }),
          }}
          options={[
            { value: 'rated', label: say.hzAsStamped({ frequency: plate.frequency }) },
            {
              value: 'raised',
              label: say.hzAtV({ frequency: plate.frequency * Math.sqrt(3), voltage: plate.voltage * Math.sqrt(3) }),
            },
          ]}
        />
      )}
      {other && (
        <ActRow
          text={say.useItsOtherConnectionV({ voltage: other.voltage, current: other.current })}
          second={other.connection ? say.linkedIn({ connection: other.connection }) : say.halvesIn({ joined: other.joined })}
          onPress={() => changePlate(model, other)}
          testID="other-connection"
        />
      )}
    </>
  );
}

/** Figures of the plate that are typed, in its order. */
export const plateEntries = (model: MachineModel) =>
  figureRows
    .filter((r) => !r.only || r.only === model.plate.standard)
    .map((row) => ({ row, entry: plateEntry(model.machine.tag, row, model.plate, (change) => changePlate(model, change)) }));

/** The plate as it is stamped. */
export function StampedRows({ model, state }: StampedProps) {
  const { plate, machine } = model;
  return (
    <>
      <SectionHead right={say.revision({ author: machine.plate.author, revision: machine.plate.revision })}>{say.asStamped}</SectionHead>
      <ChoiceRow
        {...{ model, state, field: 'standard', label: say.standard, second: say.whatKindOfPlateIt }}
        options={[
          { value: 'IEC', label: say.iec },
          { value: 'NEMA', label: say.nema },
        ]}
      />
      {plateEntries(model).map(({ row: { field, second }, entry }) => {
        const { value } = entry;
        return (
          <Fragment key={field}>
            <EntryRow
              least={0}
              entry={entry}
              second={[value === null ? say.notStamped : second, state.rounding(field)].filter(Boolean).join(' · ')}
              mark={value === null ? '' : 'P'}
              testID={`plate-${field}`}
            />
            <UnderField model={model} state={state} field={field} />
            {field === 'power' && <UnderField model={model} state={state} field="powerUnit" />}
            {field === 'voltage' && <ConnectionRows model={model} state={state} />}
          </Fragment>
        );
      })}
      {plate.standard === 'NEMA' && (
        <ChoiceRow
          {...{ model, state, field: 'design', label: say.designLetter, second: say.shapeOfTheTorqueCurve }}
          options={[{ value: '', label: say.notStamped2 }, ...(['A', 'B', 'C', 'D'] as const).map((d) => ({ value: d, label: d }))]}
        />
      )}
    </>
  );
}
