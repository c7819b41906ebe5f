import { useState } from 'react';
import { causeWords, factText, sureText, weightText } from '@yare/commissioning/trips';
import { formatFigure } from '@yare/core';
import type { Diagnosis, RankedCause } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** Causes below this are shown only when asked for. */
const shownFrom = 0.03;
/** Facts shown for a cause and against it. */
const most = { for: 4, against: 3 };

/** What speaks for a cause and what against it, with the figures. */
function EvidenceRows({ ranked }: { ranked: RankedCause }) {
  const speaks = ranked.evidence.filter((e) => e.bits > 0).slice(0, most.for);
  const against = ranked.evidence.filter((e) => e.bits < 0).slice(0, most.against);
  return (
    <>
      {speaks.map((e) => (
        <SheetRow key={e.id} mark="+" label={factText(e.id, e.seen)} second={weightText(e)} />
      ))}
      {against.map((e) => (
        <SheetRow key={e.id} mark="–" label={factText(e.id, e.seen)} second={weightText(e)} />
      ))}
      {speaks.length + against.length === 0 && <Note>{say.nothingThatIsKnownTells}</Note>}
    </>
  );
}

/** Never certain: the library does not know everything. */
const percent = (p: number): string => formatFigure(Math.min(99, 100 * p), 0);

/** The likeliest cause with its evidence, then the others, each opened by a tap. */
export function CauseRows({ diagnosis, chosen, onChoose }: { diagnosis: Diagnosis; chosen: string | null; onChoose: (id: string) => void }) {
  const [all, setAll] = useState(false);
  const [first] = diagnosis.ranked;
  if (!first) return <Note>{say.theLibraryKnowsNoCause}</Note>;
  const open = diagnosis.ranked.find((r) => r.id === chosen) ?? first;
  const rest = diagnosis.ranked.filter((r) => r !== open && (all || r.probability >= shownFrom));
  const hidden = diagnosis.ranked.length - 1 - rest.length;
  const words = causeWords[open.id];
  return (
    <>
      <SectionHead right={open === first ? say.likeliest : say.lookedAt}>{say.cause}</SectionHead>
      <SheetRow label={words?.name ?? open.id} figure={percent(open.probability)} unit="%" testID="cause-first" />
      <Note>{open === first ? `${words?.means ?? ''} ${sureText(diagnosis.ranked)}` : words?.means}</Note>
      <EvidenceRows ranked={open} />
      <SectionHead right={say.more({ ranked: diagnosis.ranked.length - 1 })}>{say.whatElseItCouldBe}</SectionHead>
      {rest.map((r) => (
        <SheetRow
          key={r.id}
          label={causeWords[r.id]?.name ?? r.id}
          second={r.evidence[0] ? factText(r.evidence[0].id, r.evidence[0].seen) : say.nothingTellsItApart}
          figure={percent(r.probability)}
          unit="%"
          onPress={() => onChoose(r.id)}
          testID={`cause-${r.id.replace(/ /g, '-')}`}
        />
      ))}
      {hidden > 0 && <ActRow text={say.showLessLikelyOnes({ hidden })} onPress={() => setAll(true)} testID="cause-all" />}
    </>
  );
}
