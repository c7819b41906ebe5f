import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/write';
import { useAnotherDrive, useLiveValue } from '../../data/live';
import { go } from '../../ui/go';
import { Finding } from '../../ui/sheet';
import { when } from '../../ui/when';
import { useDraftWarnings, type Writing } from './writing';

export const values = (n: number) => say.value({ n });

/** What came of the write, and what is in the way of the next one. */
export function WriteFindings({ model, writing }: { model: MachineModel; writing: Writing }) {
  const { report, broken } = writing;
  const { tag } = model.machine;
  const unkept = useLiveValue(tag, (s) => s?.link === 'up' && s.unkept);
  return (
    <>
      {writing.elsewhere && <Finding severity="warning" sentence={say.isWritingToAtThis({ author: writing.elsewhere.author, tag })} />}
      {report && <Finding severity={report.outcome === 'kept' ? 'good' : 'error'} sentence={report.sentence} />}
      {broken && (
        <Finding
          severity={report ? 'act' : 'error'}
          sentence={say.ofWereInTheDrive({
            report: !!report,
            sentence: broken.sentence,
            lines: broken.lines.filter((l) => l.result === 'verified').length,
            lines2: broken.lines.length,
            rest: !!writing.rest,
          })}
          {...(writing.rest && { act: say.beginAfreshInstead, onAct: writing.beginAfresh })}
        />
      )}
      {unkept && !writing.going && (
        <Finding
          severity="warning"
          sentence={say.theDriveHoldsValuesIn}
          act={writing.keep.isPending ? say.keeping : say.keepThem}
          onAct={() => writing.keep.mutate()}
        />
      )}
      <InTheWay model={model} />
    </>
  );
}

/** The link, a turning motor, what the look-ahead says, and what is wrong with the draft. */
function InTheWay({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const link = useLiveValue(tag, (s) => s?.link);
  const turning = useLiveValue(tag, (s) => s?.state === 'running' || s?.state === 'stopping');
  const another = useAnotherDrive(tag);
  const warnings = useDraftWarnings(model);
  const differs = model.differing.length > 0;
  const read = model.inDrive ? say.whatIsListedAsIn({ when: when(model.inDrive.at) }) : say.itWasNeverRead;
  return (
    <>
      {link === 'down' && (
        <Finding
          severity="warning"
          sentence={another ? say.anotherAnswers({ family: another.family, size: another.size, read }) : say.theDriveOfDoesNot({ tag, read })}
        />
      )}
      {turning && differs && <Finding severity="warning" sentence={say.isTurningSettingsLockedWhile({ tag })} />}
      {warnings.map((f) => (
        <Finding
          key={f.sentence}
          severity="error"
          sentence={say.lookedAheadWithThisDraft({ sentence: f.sentence })}
          act={say.goToMotion}
          onAct={() => go(`/m/${tag}/motion`)}
        />
      ))}
      {differs &&
        model.findings
          .filter((f) => f.severity === 'error')
          .map((f) => <Finding key={f.id} severity="error" sentence={f.sentence} act={say.goThere} onAct={() => go(`/m/${tag}/${f.stage}`)} />)}
    </>
  );
}
