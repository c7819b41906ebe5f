import { useState } from 'react';
import type { Keeping } from '@yare/contract';
import { say } from '@yare/words/pages/devices';
import { useKeeping, useSetKeeping } from '../../data/recordings';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { Segments, type Segment } from '../../ui/Segments';

/** Days, and what a person calls them; −1 stands for always. */
const always = -1;
const whole: ReadonlyArray<Segment<number>> = [
  { value: 30, text: say.days },
  { value: 90, text: say.days2 },
  { value: 365, text: say.aYear },
  { value: always, text: say.always },
];
const thinned: ReadonlyArray<Segment<number>> = [
  { value: 0, text: say.notAtAll },
  { value: 365, text: say.aYear },
  { value: 1825, text: say.years },
  { value: always, text: say.always },
];
const asDays = (value: number): number | null => (value === always ? null : value);
const asChoice = (days: number | null): number => days ?? always;
const called = (days: number): string => [...whole, ...thinned].find((o) => o.value === days)?.text ?? say.days3({ days });

/** What a rule does to recordings, in words. */
function consequence({ wholeDays, thinnedDays }: Keeping): string {
  if (wholeDays === null) return say.recordingsAreNeverThinnedOr;
  const then =
    thinnedDays === null ? say.andStaySo : thinnedDays === 0 ? say.andAreThenRemoved : say.keptSoForAndThen({ called: called(thinnedDays) });
  return say.recordingsOlderThanAreThinned({ called: called(wholeDays), then });
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
      <SectionHead>{say.howLongRecordingsAreKept}</SectionHead>
      <Refusal of={set.error} />
      <Note>{say.everySampleFor}</Note>
      <Segments
        label={say.everySampleFor}
        options={whole}
        value={asChoice(now.wholeDays)}
        onChoose={(v) => setDraft({ ...now, wholeDays: asDays(v) })}
      />
      {now.wholeDays !== null && (
        <>
          <Note>{say.afterThatOneSampleA}</Note>
          <Segments
            label={say.afterThatOneSampleA}
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
            act={say.keepRecordingsLikeThis}
            onAct={() => set.mutate(now, { onSuccess: () => setDraft(null) })}
          />
          <ActRow text={say.leaveItAsItWas} onPress={() => setDraft(null)} testID="keeping-back" />
        </>
      ) : (
        <Note>{consequence(data)}</Note>
      )}
    </>
  );
}
