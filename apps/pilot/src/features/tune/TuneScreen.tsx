import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/tune';
import { live } from '../../data/live';
import { HoldButton } from '../../machine/HoldButton';
import { MachineFrame } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { ResultRow, TuneOutcome, TuneProof } from './TuneOutcome';
import { TuneQuestions } from './TuneQuestions';
import { tuneAct, useTuning } from './tuning';

/** A family that cannot measure: the estimate stays, and a recorded run teaches what can be learned. */
function NoTune({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  return (
    <MachineFrame
      model={model}
      stage="tune"
      title={say.tune}
      acts={[{ text: say.goToTestRun, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/turn`) }]}
    >
      <Finding
        severity="warning"
        sentence={say.cannotMeasureItsMotorThe({ family: model.drafted.book.family })}
        act={say.fitTheModelToA}
        onAct={() => go(`/m/${tag}/recordings`)}
      />
      <Note>{say.holdToRunAtFull}</Note>
    </MachineFrame>
  );
}

function TuneSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const t = useTuning(model);
  const start = () => void live.hold(tag, 0, t.answers.kind);
  const holds = t.rotating && !t.open;
  return (
    <MachineFrame
      model={model}
      stage="tune"
      title={say.tune}
      acts={[tuneAct(t, start)]}
      foot={holds ? <HoldButton tag={tag} frequency={0} tune="rotating" blocked={t.why} turning={t.turning} /> : undefined}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <TuneOutcome t={t} />
      <TuneProof model={model} t={t} />
      <TuneQuestions model={model} t={t} />
      <SectionHead right={say.estimateAgainstMeasured}>{say.theMotor}</SectionHead>
      {t.rows.map((r) => (
        <ResultRow key={r.code} row={r} inDraft={model.draftOf(r.code).value === r.measured} />
      ))}
      {!wide && (
        <>
          <SectionHead right={say.lastS({ shownSeconds })}>{say.live}</SectionHead>
          <TrendChart tag={tag} model={model} />
        </>
      )}
    </MachineFrame>
  );
}

/** The drive measures its motor: coupled or free asked first, progress, results against the estimate, kept and copied back. */
export const TuneScreen = machineScreen(function MayTune({ model }: { model: MachineModel }) {
  return model.drafted.book.words.tune ? <TuneSheet model={model} /> : <NoTune model={model} />;
});
