import type { Setting } from '@yare/books';
import type { MachineModel, MotionFinding } from '@yare/commissioning';
import { completePlate, formatFigure, longestStopSearched, shutOffSpeed, toSi, type SettingRole } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import type { LookAheadState } from '../../data/lookAhead';
import { SettingRow } from '../../machine/SettingRow';
import { StageFindings } from '../../machine/StageFindings';
import { Finding } from '../../ui/sheet';
import { safeStopOffer } from './safeStopOffer';
import { searchedStop } from './searchedStop';

/** A setting of Motion with what the look-ahead says about it. */
export function MotionRow({
  model,
  role,
  setting,
  ahead,
  findings,
}: {
  model: MachineModel;
  role: SettingRole;
  setting: Setting;
  ahead: LookAheadState;
  findings: readonly MotionFinding[];
}) {
  const offered = role === 'decelerationTime' ? safeStopOffer(model, setting, ahead) : null;
  return (
    <SettingRow model={model} setting={setting} stage="motion" second={secondLine(role, model, ahead)}>
      {findings
        .filter((f) => f.row === role)
        .map((f) => (
          <Finding
            key={f.sentence}
            severity={ahead.busy ? 'past' : f.severity}
            sentence={f.sentence}
            {...(f.offer && !ahead.busy && offered && { act: `${f.offer}: ${formatFigure(offered.value, setting.decimals)} s`, onAct: offered.take })}
          />
        ))}
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'motion' && f.code === setting.code)} />
    </SettingRow>
  );
}

/** The shortest stop by ramp that is neither held nor trips; none counts from where the search ends. */
function shortestText({ without, withResistor }: { without: number; withResistor: number }): string {
  const none = (time: number) => time >= longestStopSearched;
  if (none(without) && none(withResistor)) return say.noRampUpToS({ longestStopSearched });
  return say.shortestWithoutRampHoldWith({ searchedStop: searchedStop(without), searchedStop2: searchedStop(withResistor) });
}

/** The quiet line under a row: what it counts between, what is worked out about it. */
function secondLine(role: SettingRole, model: MachineModel, ahead: LookAheadState): string | undefined {
  const base = say.hz2({ frequency: model.plate.frequency });
  switch (role) {
    case 'accelerationTime':
      return say.to({ base });
    case 'decelerationTime':
      if (!model.draftSpec.ok) return say.to2({ base });
      return ahead.stopping === null || ahead.busy
        ? say.toShortestComputing({ base })
        : say.toShortest({ base, shortest: shortestText(ahead.stopping) });
    case 'maximumFrequency':
      return say.plate({ base });
    case 'minimumFrequency':
      return waterLine(model) ?? undefined;
    default:
      return undefined;
  }
}

/** Below which frequency a pump with a set pressure moves no water; null for other machines. */
function waterLine(model: MachineModel): string | null {
  const { driven } = model.machine;
  if (driven.kind !== 'pump' || driven.setPressure === null || !model.draftSpec.ok) return null;
  const { load, circuit } = model.draftSpec.spec;
  if (load.kind !== 'pump') return null;
  const plate = completePlate(model.plate);
  const hertz = (shutOffSpeed(load, toSi(driven.setPressure, 'bar')) * circuit.poles) / (4 * Math.PI) / (1 - plate.slip);
  return say.belowAboutHzItMoves({ hertz, setPressure: driven.setPressure });
}
