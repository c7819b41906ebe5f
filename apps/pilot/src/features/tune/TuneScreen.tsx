import type { MachineModel } from '@yare/commissioning';
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
      title="Tune"
      acts={[{ text: 'Go to Test run', main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/turn`) }]}
    >
      <Finding
        severity="warning"
        sentence={`${model.drafted.book.family} cannot measure its motor. The figures stay an estimate from the plate.`}
        act="Fit the model to a recorded run instead"
        onAct={() => go(`/m/${tag}/recordings`)}
      />
      <Note>Hold to run at full speed and let go; the recording of it teaches inertia, friction and the motor’s own constants.</Note>
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
      title="Tune"
      acts={[tuneAct(t, start)]}
      foot={holds ? <HoldButton tag={tag} frequency={0} tune="rotating" blocked={t.why} turning={t.turning} /> : undefined}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <TuneOutcome t={t} />
      <TuneProof model={model} t={t} />
      <TuneQuestions model={model} t={t} />
      <SectionHead right="estimate against measured">The motor</SectionHead>
      {t.rows.map((r) => (
        <ResultRow key={r.code} row={r} inDraft={model.draftOf(r.code).value === r.measured} />
      ))}
      {!wide && (
        <>
          <SectionHead right={`last ${shownSeconds} s`}>Live</SectionHead>
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
