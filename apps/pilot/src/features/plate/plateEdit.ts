import { useMemo } from 'react';
import { roundingOf, textOf } from '@yare/books';
import type { MachineModel } from '@yare/commissioning';
import { isStampedPlate } from '@yare/contract/validators';
import { checkPlate, circuitOf, completePlate, type PlateFinding, type StampedPlate } from '@yare/core';
import { say } from '@yare/words/pages/plate';
import { editPlate } from '../../data/edits';
import { takeChanges } from '../../machine/takeChanges';
import { workedOut } from './workedOut';

/** Changes figures of the plate, unless they are none a plate could have. */
export function changePlate(model: MachineModel, change: Partial<StampedPlate>): void {
  const { plate } = model;
  const before: Partial<StampedPlate> = Object.fromEntries(Object.entries(plate).filter(([field]) => field in change));
  const unset = Object.fromEntries(Object.keys(change).map((field) => [field, undefined]));
  if (isStampedPlate({ ...plate, ...change })) editPlate(model.machine.tag, change, { ...unset, ...before });
}

/** What this drive makes of a figure, where its steps are coarser than the stamp; null where it keeps it well enough. */
function storedAs({ drafted, plate }: MachineModel, field: string): string | null {
  const s = drafted.all.find((x) => x.plate === field);
  const line = s && drafted.plate(plate).find((x) => x.code === s.code);
  if (!s || !line) return null;
  const { stored, off, severity } = roundingOf(s, line.exact);
  if (severity === 'none') return null;
  return say.stores({ family: drafted.book.family, textOf: textOf(s, stored), unit: s.unit, off, abs: Math.abs(off) * 100 });
}

/** What a plate tells and what does not fit on it. */
export function usePlate(model: MachineModel) {
  const { plate } = model;
  return useMemo(() => {
    const findings: PlateFinding[] = checkPlate(plate);
    const sound = findings.length === 0;
    const complete = findings.some((f) => f.severity === 'error') ? null : completePlate(plate);
    const copies = model.drafted.plate(plate).filter((c) => model.draftOf(c.code).value !== c.exact);
    return {
      findings,
      sound,
      /** null while the plate contradicts itself */
      solved: complete && { rows: workedOut(plate, complete), estimate: circuitOf(complete) },
      rounding: (field: string) => (sound ? storedAs(model, field) : null),
      /** figures the draft has otherwise */
      copies,
      copyToDraft: () =>
        takeChanges(
          model,
          copies.map((c) => ({ code: c.code, value: c.exact, source: c.source })),
        ),
    };
  }, [model, plate]);
}
export type PlateState = ReturnType<typeof usePlate>;
