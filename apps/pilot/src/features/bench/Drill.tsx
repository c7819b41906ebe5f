import type { BenchAct } from '@yare/contract';
import { say } from '@yare/words/pages/bench';
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
      <SectionHead right={drill?.on ? 'goes on' : undefined}>{say.drill}</SectionHead>
      {drill?.on ? (
        <>
          <Finding severity="act" sentence={say.somethingGoesWrongWithThis} act={say.goToTrips} onAct={() => go(`/m/${tag}/trip`)} />
          <ActRow text={say.endTheDrill} second={say.putsItRightAndTells} onPress={() => onAct({ drill: 'end' })} testID="drill-end" />
        </>
      ) : (
        <>
          {was && (
            <Finding
              severity="act"
              sentence={say.itWasTheCaseSays({ name: was.name, what: was.what })}
              act={say.seeTheCase}
              onAct={() => go(`/m/${tag}/trip`)}
            />
          )}
          <ActRow
            text={was ? say.hideAnotherFault : say.hideAFault}
            second={say.strikesOnceTheMachineIs}
            onPress={() => onAct({ drill: 'begin' })}
            testID="drill-begin"
          />
          {!was && <Note>{say.practiceForTheNightThe}</Note>}
        </>
      )}
    </>
  );
}
