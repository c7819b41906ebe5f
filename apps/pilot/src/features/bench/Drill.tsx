import type { BenchAct } from '@yare/contract';
import { useBenchPart } from '../../data/bench';
import { go } from '../../ui/go';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';

/** A fault that nobody is told of, to be found with what the link tells. */
export function Drill({ tag, onAct }: { tag: string; onAct: (act: Omit<BenchAct, 'author'>) => void }) {
  const drill = useBenchPart(tag, (v) => v.drill);
  const faults = useBenchPart(tag, (v) => v.faults);
  if (drill === undefined) return null;
  const was = faults?.find((f) => f.id === drill?.was);
  return (
    <>
      <SectionHead right={drill?.on ? 'goes on' : undefined}>Drill</SectionHead>
      {drill?.on ? (
        <>
          <Finding
            severity="act"
            sentence="Something goes wrong with this machine once it is up to speed. Run it until it trips; then name the cause in its case, against the clock."
            act="Go to Trips"
            onAct={() => go(`/m/${tag}/trip`)}
          />
          <ActRow text="End the drill" second="puts it right and tells what it was" onPress={() => onAct({ drill: 'end' })} testID="drill-end" />
        </>
      ) : (
        <>
          {was && (
            <Finding
              severity="act"
              sentence={`It was: ${was.name}. ${was.what} The case says which figures decided it, and what to measure next.`}
              act="See the case"
              onAct={() => go(`/m/${tag}/trip`)}
            />
          )}
          <ActRow
            text={was ? 'Hide another fault' : 'Hide a fault'}
            second="strikes once the machine is at speed; nobody is told which"
            onPress={() => onAct({ drill: 'begin' })}
            testID="drill-begin"
          />
          {!was && <Note>Practice for the night: the page of faults does not show it.</Note>}
        </>
      )}
    </>
  );
}
