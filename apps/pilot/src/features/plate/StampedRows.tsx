import { Fragment, useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { formatFigure, mayBeRaised, otherConnection, type PlateFinding, type StampedPlate } from '@yare/core';
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
        {...{ model, state, field: 'connection', label: 'Connection', second: 'of the windings' }}
        options={[
          { value: 'star', label: 'Star Y' },
          { value: 'delta', label: 'Delta Δ' },
        ]}
      />
      <ChoiceRow
        {...{ model, state, field: 'leads', label: 'Leads in the box', second: plate.leads ? 'that can be linked' : 'not entered yet' }}
        options={[
          { value: 3, label: '3' },
          { value: 6, label: '6, star or delta' },
          { value: 9, label: '9, dual voltage' },
        ]}
        more={(leads) => (leads === 9 ? { joined: plate.joined ?? 'series' } : {})}
      />
      {plate.leads === 9 && (
        <ChoiceRow
          {...{ model, state, field: 'joined', label: 'Halves joined', second: 'of each phase' }}
          options={[
            { value: 'series', label: 'Series, high volts' },
            { value: 'parallel', label: 'Parallel, low volts' },
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
            label: 'Full torque up to',
            second: plate.base === 'raised' ? 'in delta' : `${formatFigure(plate.frequency, 0)} Hz, as stamped`,
          }}
          options={[
            { value: 'rated', label: `${formatFigure(plate.frequency, 0)} Hz, as stamped` },
            {
              value: 'raised',
              label: `${formatFigure(plate.frequency * Math.sqrt(3), 0)} Hz, at ${formatFigure(plate.voltage * Math.sqrt(3), 0)} V`,
            },
          ]}
        />
      )}
      {other && (
        <ActRow
          text={`Use its other connection: ${other.voltage} V, ${other.current} A`}
          second={other.connection ? `linked in ${other.connection}` : `halves in ${other.joined}`}
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
      <SectionHead right={`${machine.plate.author}, revision ${machine.plate.revision}`}>As stamped</SectionHead>
      <ChoiceRow
        {...{ model, state, field: 'standard', label: 'Standard', second: 'what kind of plate it is' }}
        options={[
          { value: 'IEC', label: 'IEC' },
          { value: 'NEMA', label: 'NEMA' },
        ]}
      />
      {plateEntries(model).map(({ row: { field, second }, entry }) => {
        const { value } = entry;
        return (
          <Fragment key={field}>
            <EntryRow
              least={0}
              entry={entry}
              second={[value === null ? 'not stamped' : second, state.rounding(field)].filter(Boolean).join(' · ')}
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
          {...{ model, state, field: 'design', label: 'Design letter', second: 'shape of the torque curve' }}
          options={[{ value: '', label: 'Not stamped' }, ...(['A', 'B', 'C', 'D'] as const).map((d) => ({ value: d, label: d }))]}
        />
      )}
    </>
  );
}
