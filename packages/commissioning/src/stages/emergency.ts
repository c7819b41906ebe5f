import {
  emergencyTurns,
  EmergencyEnds,
  EmergencyOverride,
  EmergencySense,
  InputJob,
  ReversePermit,
  runsThrough,
  tripCauses,
  type TripCause,
} from '@yare/core';
import { say } from '@yare/words/stages/emergency';
import { hertz, type Checked, type Finding } from '../checked';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';

/** Emergency ventilation was asked for by its contact, and ran on through a trip. */
export const emergencyProof: ProofDefinition = {
  id: 'emergency',
  facts: 'emergency',
  relies: {
    roles: ['emergencyFrequency', 'emergencyDirection', 'emergencySense', 'emergencyOverrides', 'emergencyEnds', 'reversePermit'],
    inputs: true,
  },
};

/** Months after which the test is due again (common practice: once a year, as for smoke and heat control). */
export const emergencyTestMonths = 12;

/** Whether this drive is set up for it. */
export const emergencyInUse = ({ settings }: Pick<Checked, 'settings'>): boolean => settings.roleValue('emergencyFrequency') > 0;

/** Trips it runs on through, and those that stop it even so, in the order of the books. */
export function emergencyTrips(c: Pick<Checked, 'settings'>): { through: TripCause[]; stops: TripCause[] } {
  const { overrides } = c.settings.controls().emergency;
  const known = tripCauses.filter((cause) => c.settings.book.trips.some((t) => t.cause === cause));
  return { through: known.filter((t) => runsThrough(overrides, t)), stops: known.filter((t) => !runsThrough(overrides, t)) };
}

/** What it costs, said before it is set: nobody should learn it from the maker afterwards. */
export const emergencyCosts: Readonly<Record<EmergencyOverride, string>> = {
  [EmergencyOverride.none]: say.itRunsAtItsEmergency,
  [EmergencyOverride.process]: say.itRunsOnThroughTrips,
  [EmergencyOverride.all]: say.itRunsUntilItBreaks,
};

function check(c: Checked): Finding[] {
  const { settings } = c;
  const at = settings.find('emergencyFrequency');
  if (!at) return [];
  const contact = settings.input(InputJob.emergency);
  const { emergency, command } = settings.controls();
  if (!emergencyInUse(c))
    return contact
      ? [
          {
            ...{ id: 'contact without a speed', code: at.code, severity: 'warning' },
            sentence: say.inputWaitsForSmokeAnd({ name: contact.name.toLowerCase() }),
            remedy: {
              label: say.runAt({ hertz: hertz(settings.parameters().maximumFrequency) }),
              changes: settings.change('emergencyFrequency', settings.parameters().maximumFrequency, 'chosen'),
            },
          },
        ]
      : [];
  const out: Finding[] = [];
  if (!contact)
    out.push({
      ...{ id: 'no contact', code: at.code, severity: 'error' },
      sentence: say.noInputAsksForEmergency,
      remedy: { label: say.goToTerminals, go: 'terminals' },
    });
  const way = settings.find('emergencyDirection');
  if (way && !emergencyTurns(emergency, command.limits.reversePermit))
    out.push({
      ...{ id: 'backwards forbidden', code: way.code, severity: 'error' },
      sentence: say.itIsToTurnBackwards,
      remedy: { label: say.permitReverse, changes: settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
      more: [{ label: say.turnForward, changes: settings.change('emergencyDirection', 0, 'chosen') }],
    });
  const { minimumFrequency, maximumFrequency } = settings.parameters();
  if (emergency.frequency > maximumFrequency || emergency.frequency < minimumFrequency)
    out.push({
      ...{ id: 'speed beyond its limits', code: at.code, severity: 'error' },
      sentence: say.liesOutsideTheSpeedsIt({
        hertz: hertz(emergency.frequency),
        hertz2: hertz(emergency.frequency > maximumFrequency ? maximumFrequency : minimumFrequency),
      }),
    });
  const sense = settings.find('emergencySense');
  if (sense && settings.role('emergencySense') === EmergencySense.closed)
    out.push({
      ...{ id: 'a broken wire is silent', code: sense.code, severity: 'warning' },
      sentence: say.theContactClosesToAsk,
      remedy: { label: say.askByOpening, changes: settings.change('emergencySense', EmergencySense.open, 'chosen') },
    });
  const through = settings.find('emergencyOverrides');
  if (through && emergency.overrides === EmergencyOverride.none)
    out.push({
      ...{ id: 'stops at any trip', code: through.code, severity: 'warning' },
      sentence: say.anyTripEndsItSmoke,
      remedy: { label: say.runOnThroughProcessAnd, changes: settings.change('emergencyOverrides', EmergencyOverride.process, 'chosen') },
    });
  return out;
}

/** How it ends, in words. */
export const emergencyEndText = ({ settings }: Pick<Checked, 'settings'>): string =>
  settings.controls().emergency.ends === EmergencyEnds.powerCycle ? say.itRunsUntilPowerIs : say.itEndsWhenTheContact;

/** A fan that has to go on while something burns. */
export const emergencyStage = defineStage({
  path: 'emergency',
  key: 'q',
  sections: [
    { id: 'run', title: say.howItRuns, roles: ['emergencyFrequency', 'emergencyDirection', 'emergencySense', 'emergencyEnds'] },
    { id: 'trips', title: say.whichTripsItRunsThrough, roles: ['emergencyOverrides'] },
    { id: 'log', title: say.whatTheDriveHasLogged, roles: ['emergencyCount', 'emergencyMinutes', 'emergencyIgnored'] },
  ],
  proofs: [emergencyProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.drafted.find('emergencyFrequency')) return notNeeded(say.thisDriveKnowsOfNone);
    const found = against(m, 'emergency');
    if (!emergencyInUse({ settings: m.drafted })) return found ?? notNeeded(say.noInputAsksForIt);
    return found ?? ofItems(m, [proofOf('emergency', emergencyProof.id)], { passed: say.seenToRun, open: say.notTestedYet });
  },
});
