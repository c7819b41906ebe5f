import { readingOf, sensorPercent, straightIn, type MachineModel } from '@yare/commissioning';
import { holdsFor } from '@yare/commissioning/seen/holdsSeen';
import { formatFigure, type DrivenKind, type ProcessSensor } from '@yare/core';
import { factsText } from '@yare/words';
import { useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import type { Act } from '../../ui/bar';

/** How the demand is changed at each kind of machine, so that holding means something. */
const disturb: Partial<Record<DrivenKind, string>> = { pump: 'open and shut a tap or valve', fan: 'turn a damper' };

/** The server watches the running loop: once it was disturbed, came back and stayed, that can be counted as its proof. */
export function useHolds(
  model: MachineModel,
  sensor: ProcessSensor | null,
  signal: number,
): { act: Act | null; sentence: string | null; error: Error | null } {
  const { held: inDrive } = model;
  const prove = useProve(model);
  const { found, stage, watched } = useSeen(model.machine.tag, 'holds');
  const setpoint = inDrive?.find('setpoint') ? sensorPercent(straightIn(inDrive), 100 * inDrive.roleValue('setpoint')) : null;
  if (!sensor || setpoint === null) return { act: null, sentence: null, error: null };
  const said = (share: number) => {
    const r = readingOf(sensor, signal, share);
    return `${formatFigure(r.figure, r.decimals > 0 ? r.decimals + 1 : 0)} ${r.unit}`;
  };
  if (!found.holds) {
    const how = sensor.measures === 'level' ? 'let more or less flow in' : (disturb[model.machine.driven.kind] ?? 'change the demand');
    return {
      act: null,
      error: prove.error,
      sentence:
        stage === 'stands'
          ? `It stands at ${said(setpoint)}. Now ${how}.`
          : stage === 'disturbed'
            ? `It was disturbed. It has to come back to ${said(setpoint)}.`
            : stage === 'back'
              ? `It is back at ${said(setpoint)}. It counts once it has stayed there for ${holdsFor.after} s.`
              : `Prove it: let it run in auto until it stands at ${said(setpoint)}, then ${how}; it counts once it has come back and stayed for ${holdsFor.after} s. ${watched}`,
    };
  }
  return {
    error: prove.error,
    sentence: `It holds: ${factsText(found.holds)}.`,
    act: {
      text: 'Count it: it holds',
      main: true,
      hotkey: 'k',
      testID: 'keep-holds',
      onPress: () => prove.mutate({ stage: 'process', item: 'holds', outcome: 'passed', facts: null }),
    },
  };
}
