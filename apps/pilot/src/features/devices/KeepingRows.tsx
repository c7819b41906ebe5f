import { useState } from 'react';
import type { Keeping } from '@yare/contract';
import { useKeeping, useSetKeeping } from '../../data/recordings';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { Segments, type Segment } from '../../ui/Segments';

/** Days, and what a person calls them; −1 stands for always. */
const always = -1;
const whole: ReadonlyArray<Segment<number>> = [
  { value: 30, text: '30 days' },
  { value: 90, text: '90 days' },
  { value: 365, text: 'a year' },
  { value: always, text: 'always' },
];
const thinned: ReadonlyArray<Segment<number>> = [
  { value: 0, text: 'not at all' },
  { value: 365, text: 'a year' },
  { value: 1825, text: '5 years' },
  { value: always, text: 'always' },
];
const asDays = (value: number): number | null => (value === always ? null : value);
const asChoice = (days: number | null): number => days ?? always;
const called = (days: number): string => [...whole, ...thinned].find((o) => o.value === days)?.text ?? `${days} days`;

/** What a rule does to recordings, in words. */
function consequence({ wholeDays, thinnedDays }: Keeping): string {
  if (wholeDays === null) return 'Recordings are never thinned or removed by themselves.';
  const then =
    thinnedDays === null ? ' and stay so' : thinnedDays === 0 ? ' and are then removed' : `, kept so for ${called(thinnedDays)}, and then removed`;
  return `Recordings older than ${called(wholeDays)} are thinned to one sample a second${then}. What is thinned or removed does not come back. Those a trip or a fitted model rests on stay whole.`;
}

/** How long recordings are kept, for the whole plant. */
export function KeepingRows() {
  const { data } = useKeeping();
  const set = useSetKeeping();
  const [draft, setDraft] = useState<Keeping | null>(null);
  if (!data) return null;
  const now = draft ?? data;
  const changed = now.wholeDays !== data.wholeDays || now.thinnedDays !== data.thinnedDays;
  return (
    <>
      <SectionHead>How long recordings are kept</SectionHead>
      <Refusal of={set.error} />
      <Note>Every sample, for</Note>
      <Segments
        label="Every sample, for"
        options={whole}
        value={asChoice(now.wholeDays)}
        onChoose={(v) => setDraft({ ...now, wholeDays: asDays(v) })}
      />
      {now.wholeDays !== null && (
        <>
          <Note>After that one sample a second, for</Note>
          <Segments
            label="After that one sample a second, for"
            options={thinned}
            value={asChoice(now.thinnedDays)}
            onChoose={(v) => setDraft({ ...now, thinnedDays: asDays(v) })}
          />
        </>
      )}
      {changed ? (
        <>
          <Finding
            severity="warning"
            sentence={consequence(now)}
            act="Keep recordings like this"
            onAct={() => set.mutate(now, { onSuccess: () => setDraft(null) })}
          />
          <ActRow text="Leave it as it was" onPress={() => setDraft(null)} testID="keeping-back" />
        </>
      ) : (
        <Note>{consequence(data)}</Note>
      )}
    </>
  );
}
