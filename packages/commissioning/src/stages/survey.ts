import type { MachineDetail, Survey } from '@yare/contract';
import { say } from '@yare/words/stages/survey';
import { defineStage } from '../stage';

export type Ground = Pick<Survey, 'voltage' | 'frequency' | 'phases' | 'ambient' | 'altitude' | 'cableLength'>;

/** The ground before anybody has made a survey: what feeds the machine as it was taken down. */
export const groundOf = (supply: Pick<Survey, 'voltage' | 'frequency'>): Ground => ({
  voltage: supply.voltage,
  frequency: supply.frequency,
  phases: 3,
  ambient: null,
  altitude: null,
  cableLength: null,
});

/** A survey nobody has made yet: what feeds the machine as it was taken down, and nothing else. */
export const emptySurvey = (machine: Pick<MachineDetail, 'supply'>): Survey => ({
  why: '',
  ...groundOf(machine.supply),
  screened: null,
  lineVoltages: null,
  insulation: null,
});

/** What of a survey a proof may stand on: supply and place. Readings taken afterwards change nothing of it. */
export const surveyGround = (s: Ground): string =>
  say.vHzPhCM({
    voltage: s.voltage,
    frequency: s.frequency,
    phases: s.phases,
    ambient: s.ambient ?? '?',
    altitude: s.altitude ?? '?',
    cableLength: s.cableLength ?? '?',
  });

/** What the survey still lacks, in words. */
export function surveyLacks(survey: Survey, { drivenEstimated }: Pick<MachineDetail, 'drivenEstimated'>): string[] {
  const lacks: Array<[unknown, string]> = [
    [drivenEstimated ? null : 'known', say.whatItDrives],
    [survey.ambient, 'ambient'],
    [survey.altitude, 'altitude'],
    [survey.cableLength, say.cableLength],
  ];
  return lacks.filter(([value]) => value === null).map(([, word]) => word);
}

/** Motor cable longer than this, m, lets pulses reflect at the motor and stress its first turns (common practice). */
export const longCable = 50;
/** A drive carries its full current up to this ambient, °C. */
export const warmAmbient = 40;

/** What has to lie at hand before the work begins, each with why. */
export function atHand(survey: Survey, driven: string, hasBrake: boolean): Array<{ what: string; why: string }> {
  const list = [
    { what: say.lockAndTagVoltageTester, why: say.theIsolatorIsLockedOff },
    { what: say.insulationTesterV, why: say.theMotorIsMeasuredBefore },
    { what: say.multimeter, why: say.threeLineVoltages },
    { what: say.torchAndCloth, why: say.thePlateIsReadNot },
  ];
  if (driven === 'pump') list.push({ what: say.waterInThePump, why: say.aDrySealBurnsWithin });
  if (driven === 'fan') list.push({ what: say.somebodyAtTheFan, why: say.theWheelIsLookedAt });
  if (driven === 'conveyor') list.push({ what: say.anEmptyBeltAndSomebody, why: say.theDirectionTestMovesIt });
  if (driven === 'hoist') list.push({ what: say.anEmptyHookAndNobody, why: say.theDirectionTestLiftsAnd });
  if (hasBrake) list.push({ what: say.aWayToHoldThe, why: say.theHoldingBrakeIsOpened });
  if ((survey.cableLength ?? 0) > longCable)
    list.push({
      what: say.outputChokeOrFilter,
      why: say.mOfMotorCablePulses({ cableLength: survey.cableLength, longCable }),
    });
  if (survey.screened === false) list.push({ what: say.screenedMotorCable, why: say.anOpenOneDisturbsWhat });
  if (survey.phases === 1) list.push({ what: say.aDriveMadeForOne, why: say.halfOfItsCurrentIs });
  return list;
}

/** What is found at the machine before anything is connected. */
export const surveyStage = defineStage({
  path: 'survey',
  standing: (m, { survey, surveyed }) => {
    const lacks = surveyLacks(survey, m.machine);
    if (!surveyed) return { proof: 'not yet', text: say.supplyPlaceAndCableNot };
    return lacks.length > 0 ? { proof: 'not yet', text: say.lacks({ lacks: lacks.join(', ') }) } : { proof: 'proved', text: say.recorded };
  },
});
