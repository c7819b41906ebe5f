import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/tune';
import { MayTurn } from '../../machine/MayTurn';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import type { Tuning } from './tuning';

/** What has to be said before anything is measured: coupled or free, how, and that nobody can be hurt. */
export function TuneQuestions({ model, t }: { model: MachineModel; t: Tuning }) {
  const { tag, name } = model.machine;
  const { answers, answer, busy, rotating } = t;
  const { coupled } = answers;
  return (
    <>
      <SectionHead>{say.beforeYouTune}</SectionHead>
      <Segments
        label={say.isSomethingCoupledToThe}
        options={[
          { value: 'coupled', text: say.coupled, second: say.machineConnected, testID: 'coupled' },
          { value: 'free', text: say.free, second: say.couplingOrBeltIsOff, testID: 'free' },
        ]}
        value={coupled}
        disabled={busy}
        onChoose={(v) => answer({ coupled: v, ...(v === 'coupled' && { kind: 'standstill' }) })}
      />
      {coupled === null && <Note>{say.aMotorThatTurnsTo}</Note>}
      {coupled !== null && <HowToMeasure t={t} />}
      {coupled === 'coupled' && <Note>{say.coupledOnlyAtStandstillIt}</Note>}
      {rotating && <Finding severity="warning" sentence={say.theMotorTurnsByItself} />}
      <PlateFirst tag={tag} t={t} />
      {coupled !== null && (
        <MayTurn
          text={rotating ? say.theMotorIsFreeNobody : say.nobodyAtShaftOrTerminals}
          sentence={rotating ? say.theMotorOfWillTurn({ tag, name }) : say.currentFlowsThroughTheMotor({ tag, name })}
          clear={answers.clear}
          onClear={(clear) => answer({ clear })}
        />
      )}
    </>
  );
}

function HowToMeasure({ t: { answers, answer, busy } }: { t: Tuning }) {
  const free = answers.coupled === 'free';
  return (
    <Segments
      label={say.howToMeasure}
      options={[
        { value: 'standstill', text: say.atStandstill, second: say.someSeconds, testID: 'tune-standstill' },
        { value: 'rotating', text: say.turning, second: free ? say.longerWithRamps : say.onlyWhenFree, disabled: !free, testID: 'tune-rotating' },
      ]}
      value={answers.kind}
      disabled={busy}
      onChoose={(kind) => answer({ kind })}
    />
  );
}

/** A drive that does not know the plate measures against another motor. */
function PlateFirst({ tag, t: { plate } }: { tag: string; t: Tuning }) {
  if (plate.count === 0) return null;
  return (
    <Finding
      severity="warning"
      sentence={say.figureOfThePlateIs({ count: plate.count })}
      act={plate.inDraft ? say.goToWrite : say.goToPlateAndCopy}
      onAct={() => go(`/m/${tag}/${plate.inDraft ? 'write' : 'plate'}`)}
    />
  );
}
