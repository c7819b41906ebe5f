import { readingOf, sensorPercent, straightIn, type MachineModel } from '@yare/commissioning';
import { holdsFor } from '@yare/commissioning/seen/holdsSeen';
import { formatFigure, type DrivenKind, type ProcessSensor } from '@yare/core';
import { factsText } from '@yare/words';
import { say } from '@yare/words/pages/process';
import { useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import type { Act } from '../../ui/bar';

/** How the demand is changed at each kind of machine, so that holding means something. */
const disturb: Partial<Record<DrivenKind, string>> = { pump: say.openAndShutATap, fan: say.turnADamper };

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
    const how = sensor.measures === 'level' ? say.letMoreOrLessFlow : (disturb[model.machine.driven.kind] ?? say.changeTheDemand);
    return {
      act: null,
      error: prove.error,
      sentence:
        stage === 'stands'
          ? say.itStandsAtNow({ said: said(setpoint), how })
          : stage === 'disturbed'
            ? say.itWasDisturbedItHas({ said: said(setpoint) })
            : stage === 'back'
              ? say.itIsBackAtIt({ said: said(setpoint), after: holdsFor.after })
              : say.proveItLetItRun({ said: said(setpoint), how, after: holdsFor.after, watched }),
    };
  }
  return {
    error: prove.error,
    sentence: say.itHolds2({ factsText: factsText(found.holds) }),
    act: {
      text: say.countItItHolds,
      main: true,
      hotkey: 'k',
      testID: 'keep-holds',
      onPress: () => prove.mutate({ stage: 'process', item: 'holds', outcome: 'passed', facts: null }),
    },
  };
}
