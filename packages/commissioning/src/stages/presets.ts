import { ReversePermit, type Limited, type SettingRole } from '@yare/core';
import { say } from '@yare/words/stages/presets';
import { hasOneWay, type Checked, type Finding, type Remedy } from '../checked';
import { presetTable } from '../command/presets';
import { hz } from '../command/words';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';

/** Most presets any family has. */
const most = 15;

/** A preset was chosen by its switch, and the speed was measured. */
export const presetProof = (n: number): ProofDefinition => ({
  id: `preset ${n}`,
  facts: 'preset',
  relies: {
    roles: [`preset${n}`, 'minimumFrequency', 'maximumFrequency', 'skipCentre', 'skipWidth', 'skipCentre2', 'skipWidth2', 'reversePermit'],
    presetInputs: true,
  },
});

const limitText = {
  'reverse forbidden': say.reverseIsForbiddenChosenIt,
  minimum: say.itIsBelowTheMinimum,
  maximum: say.itIsAboveTheMaximum,
  'skip band': say.itLiesInASpeed,
} as const;

const sameAs = (preset: number): string => (preset === 0 ? say.theDriveDoesWithEvery : say.presetDoes({ preset }));

/** What to do about a preset that is held back. One that would then be another's is left to whoever knows what it is for. */
function waysFor(
  c: Checked,
  role: SettingRole,
  { asked, given, limited, alike }: { asked: number; given: number; limited: Limited; alike: number | null },
): Pick<Finding, 'remedy' | 'more'> {
  const set = (label: string, x: number): Remedy => ({ label: `${label} ${hz(x)}`, changes: c.settings.change(role, x, 'chosen') });
  if (limited !== 'reverse forbidden') return alike === null ? { remedy: set('Set it to', given) } : {};
  const forward = set('Turn it forward at', Math.min(-asked, c.settings.parameters().maximumFrequency));
  const permit = { label: say.permitReverse, changes: c.settings.change('reversePermit', ReversePermit.permitted, 'chosen') };
  return hasOneWay(c.driven) || -asked > c.settings.parameters().maximumFrequency ? { remedy: forward } : { remedy: permit, more: [forward] };
}

/** Presets against each other, the limits and the contacts. */
function check(c: Checked): Finding[] {
  const { rows, unreached, contacts } = presetTable(c.settings);
  const out: Finding[] = [];
  for (const { number, setting, asked, given, limited, alike } of rows) {
    if (!setting?.role || asked === null || given === null) continue;
    if (limited)
      out.push({
        id: `preset ${number} limited`,
        code: setting.code,
        severity: 'warning',
        sentence: say.presetAsksForAndGives({
          number,
          asked: hz(asked),
          given: hz(given),
          alike: alike === null ? null : sameAs(alike),
          limit: limitText[limited],
        }),
        ...waysFor(c, setting.role, { asked, given, limited, alike }),
      });
    else if (alike !== null)
      out.push({
        id: `preset ${number} alike`,
        code: setting.code,
        severity: 'warning',
        sentence: say.presetGivesAsOneOf({ number, hz: hz(given), sameAs: sameAs(alike) }),
      });
  }
  if (contacts.length > 0 && unreached.length > 0 && contacts.some((x, i) => x.bit !== i))
    out.push({
      id: 'gap in the contacts',
      code: contacts[0]?.setting.code,
      severity: 'warning',
      sentence: say.theSpeedContactsAreNot({ unreached: unreached.join(', ') }),
      remedy: { label: say.goToTerminals, go: 'terminals' },
    });
  return out;
}

/** Speeds by switches. */
export const presetsStage = defineStage({
  path: 'presets',
  key: 'u',
  sections: [
    {
      id: 'ramp',
      title: say.rampsBetweenPresets,
      roles: ['accelerationTime', 'decelerationTime', 'secondAccelerationTime', 'secondDecelerationTime'],
    },
  ],
  proofs: Array.from({ length: most }, (_, i) => presetProof(i + 1)),
  check,
  standing: (m, { proofOf }) => {
    const { rows } = presetTable(m.drafted);
    const chosen = rows.filter((r) => r.number > 0);
    if (chosen.length === 0) return notNeeded(say.noSwitchChoosesAPreset);
    const items = chosen.map((r) => proofOf('presets', say.preset({ number: r.number })));
    return (
      against(m, 'presets') ??
      ofItems(m, items, { passed: say.measured({ chosen: chosen.length }), open: say.toBeMeasured({ chosen: chosen.length }) })
    );
  },
});
