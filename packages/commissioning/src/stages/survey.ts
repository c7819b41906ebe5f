import type { MachineDetail, Survey } from '@yare/contract';
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
  `${s.voltage} V ${s.frequency} Hz ${s.phases} ph, ${s.ambient ?? '?'} °C, ${s.altitude ?? '?'} m, cable ${s.cableLength ?? '?'} m`;

/** What the survey still lacks, in words. */
export function surveyLacks(survey: Survey, { drivenEstimated }: Pick<MachineDetail, 'drivenEstimated'>): string[] {
  const lacks: Array<[unknown, string]> = [
    [drivenEstimated ? null : 'known', 'what it drives'],
    [survey.ambient, 'ambient'],
    [survey.altitude, 'altitude'],
    [survey.cableLength, 'cable length'],
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
    { what: 'Lock and tag, voltage tester', why: 'the isolator is locked off by whoever works' },
    { what: 'Insulation tester, 500 V', why: 'the motor is measured before it is connected' },
    { what: 'Multimeter', why: 'three line voltages' },
    { what: 'Torch and cloth', why: 'the plate is read, not guessed; a photo of it is kept' },
  ];
  if (driven === 'pump') list.push({ what: 'Water in the pump', why: 'a dry seal burns within the direction test' });
  if (driven === 'fan') list.push({ what: 'Somebody at the fan', why: 'the wheel is looked at while it turns slowly' });
  if (driven === 'conveyor') list.push({ what: 'An empty belt and somebody at its tail', why: 'the direction test moves it' });
  if (driven === 'hoist') list.push({ what: 'An empty hook, and nobody under it', why: 'the direction test lifts and lowers it' });
  if (hasBrake) list.push({ what: 'A way to hold the load', why: 'the holding brake is opened by the drive' });
  if ((survey.cableLength ?? 0) > longCable)
    list.push({
      what: 'Output choke or filter',
      why: `${survey.cableLength} m of motor cable: pulses reflect at the motor and stress its first turns above about ${longCable} m`,
    });
  if (survey.screened === false) list.push({ what: 'Screened motor cable', why: 'an open one disturbs what lies beside it' });
  if (survey.phases === 1) list.push({ what: 'A drive made for one phase, or twice the size', why: 'half of its current is left on one phase' });
  return list;
}

/** What is found at the machine before anything is connected. */
export const surveyStage = defineStage({
  path: 'survey',
  standing: (m, { survey, surveyed }) => {
    const lacks = surveyLacks(survey, m.machine);
    if (!surveyed) return { proof: 'not yet', text: 'supply, place and cable not recorded' };
    return lacks.length > 0 ? { proof: 'not yet', text: `lacks ${lacks.join(', ')}` } : { proof: 'proved', text: 'recorded' };
  },
});
