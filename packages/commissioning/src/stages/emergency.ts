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
  [EmergencyOverride.none]: 'It runs at its emergency speed, and every trip stops it as ever. Nothing is put at risk, and a small fault ends it.',
  [EmergencyOverride.process]:
    'It runs on through trips of process and wiring, and clears the others itself, again and again. What they save, the product or a belt, may be lost. The drive logs each trip it ran on through.',
  [EmergencyOverride.all]:
    'It runs until it breaks: overload and heat no longer stop it. Motor and drive may be damaged or catch fire, and makers refuse the warranty once a trip was run through. The drive logs each of them for good.',
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
            sentence: `Input ${contact.name.toLowerCase()} waits for smoke, and no emergency speed is set: the contact does nothing.`,
            remedy: {
              label: `Run at ${hertz(settings.parameters().maximumFrequency)}`,
              changes: settings.change('emergencyFrequency', settings.parameters().maximumFrequency, 'chosen'),
            },
          },
        ]
      : [];
  const out: Finding[] = [];
  if (!contact)
    out.push({
      ...{ id: 'no contact', code: at.code, severity: 'error' },
      sentence: 'No input asks for emergency ventilation: it never runs. Give an input that job under Terminals.',
      remedy: { label: 'Go to Terminals', go: 'terminals' },
    });
  const way = settings.find('emergencyDirection');
  if (way && !emergencyTurns(emergency, command.limits.reversePermit))
    out.push({
      ...{ id: 'backwards forbidden', code: way.code, severity: 'error' },
      sentence: 'It is to turn backwards in an emergency, and reverse is forbidden: the fan would stand.',
      remedy: { label: 'Permit reverse', changes: settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
      more: [{ label: 'Turn forward', changes: settings.change('emergencyDirection', 0, 'chosen') }],
    });
  const { minimumFrequency, maximumFrequency } = settings.parameters();
  if (emergency.frequency > maximumFrequency || emergency.frequency < minimumFrequency)
    out.push({
      ...{ id: 'speed beyond its limits', code: at.code, severity: 'error' },
      sentence: `${hertz(emergency.frequency)} lies outside the speeds it may run at: it would run at ${hertz(emergency.frequency > maximumFrequency ? maximumFrequency : minimumFrequency)}.`,
    });
  const sense = settings.find('emergencySense');
  if (sense && settings.role('emergencySense') === EmergencySense.closed)
    out.push({
      ...{ id: 'a broken wire is silent', code: sense.code, severity: 'warning' },
      sentence: 'The contact closes to ask: when its wire burns through, nobody asks. One that opens also asks then.',
      remedy: { label: 'Ask by opening', changes: settings.change('emergencySense', EmergencySense.open, 'chosen') },
    });
  const through = settings.find('emergencyOverrides');
  if (through && emergency.overrides === EmergencyOverride.none)
    out.push({
      ...{ id: 'stops at any trip', code: through.code, severity: 'warning' },
      sentence:
        'Any trip ends it: smoke then goes where it likes. It may run on through trips of process and wiring; those watch the motor too, and without them it is the motor that is risked first.',
      remedy: { label: 'Run on through process and wiring', changes: settings.change('emergencyOverrides', EmergencyOverride.process, 'chosen') },
    });
  return out;
}

/** How it ends, in words. */
export const emergencyEndText = ({ settings }: Pick<Checked, 'settings'>): string =>
  settings.controls().emergency.ends === EmergencyEnds.powerCycle
    ? 'It runs until power is switched off and on again, whatever the contact does. Then what is given at hand or auto counts.'
    : 'It ends when the contact goes back. Then what is given at hand or auto counts: in auto it goes on by itself.';

/** A fan that has to go on while something burns. */
export const emergencyStage = defineStage({
  path: 'emergency',
  key: 'q',
  sections: [
    { id: 'run', title: 'How it runs', roles: ['emergencyFrequency', 'emergencyDirection', 'emergencySense', 'emergencyEnds'] },
    { id: 'trips', title: 'Which trips it runs through', roles: ['emergencyOverrides'] },
    { id: 'log', title: 'What the drive has logged', roles: ['emergencyCount', 'emergencyMinutes', 'emergencyIgnored'] },
  ],
  proofs: [emergencyProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.drafted.find('emergencyFrequency')) return notNeeded('this drive knows of none');
    const found = against(m, 'emergency');
    if (!emergencyInUse({ settings: m.drafted })) return found ?? notNeeded('no input asks for it');
    return found ?? ofItems(m, [proofOf('emergency', emergencyProof.id)], { passed: 'seen to run', open: 'not tested yet' });
  },
});
