import { ReversePermit, type Limited, type SettingRole } from '@yare/core';
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
  'reverse forbidden': 'reverse is forbidden: chosen, it stands still',
  minimum: 'it is below the minimum',
  maximum: 'it is above the maximum',
  'skip band': 'it lies in a speed to avoid',
} as const;

const sameAs = (preset: number): string => (preset === 0 ? 'the drive does with every switch open' : `preset ${preset} does`);

/** What to do about a preset that is held back. One that would then be another's is left to whoever knows what it is for. */
function waysFor(
  c: Checked,
  role: SettingRole,
  { asked, given, limited, alike }: { asked: number; given: number; limited: Limited; alike: number | null },
): Pick<Finding, 'remedy' | 'more'> {
  const set = (label: string, x: number): Remedy => ({ label: `${label} ${hz(x)}`, changes: c.settings.change(role, x, 'chosen') });
  if (limited !== 'reverse forbidden') return alike === null ? { remedy: set('Set it to', given) } : {};
  const forward = set('Turn it forward at', Math.min(-asked, c.settings.parameters().maximumFrequency));
  const permit = { label: 'Permit reverse', changes: c.settings.change('reversePermit', ReversePermit.permitted, 'chosen') };
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
        sentence: `Preset ${number} asks for ${hz(asked)} and gives ${hz(given)}${alike === null ? '' : `, as ${sameAs(alike)}`}: ${limitText[limited]}.`,
        ...waysFor(c, setting.role, { asked, given, limited, alike }),
      });
    else if (alike !== null)
      out.push({
        id: `preset ${number} alike`,
        code: setting.code,
        severity: 'warning',
        sentence: `Preset ${number} gives ${hz(given)}, as ${sameAs(alike)}: one of the switch positions changes nothing.`,
      });
  }
  if (contacts.length > 0 && unreached.length > 0 && contacts.some((x, i) => x.bit !== i))
    out.push({
      id: 'gap in the contacts',
      code: contacts[0]?.setting.code,
      severity: 'warning',
      sentence: `The speed contacts are not the first ones in a row, so presets ${unreached.join(', ')} are never chosen.`,
      remedy: { label: 'Go to Terminals', go: 'terminals' },
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
      title: 'Ramps between presets',
      roles: ['accelerationTime', 'decelerationTime', 'secondAccelerationTime', 'secondDecelerationTime'],
    },
  ],
  proofs: Array.from({ length: most }, (_, i) => presetProof(i + 1)),
  check,
  standing: (m, { proofOf }) => {
    const { rows } = presetTable(m.drafted);
    const chosen = rows.filter((r) => r.number > 0);
    if (chosen.length === 0) return notNeeded('no switch chooses a preset');
    const items = chosen.map((r) => proofOf('presets', `preset ${r.number}`));
    return against(m, 'presets') ?? ofItems(m, items, { passed: `${chosen.length} measured`, open: `${chosen.length} to be measured` });
  },
});
