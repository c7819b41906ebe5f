import type { MachineModel } from '@yare/commissioning';
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
      <SectionHead>Before you tune</SectionHead>
      <Segments
        label="Is something coupled to the motor?"
        options={[
          { value: 'coupled', text: 'Coupled', second: 'machine connected', testID: 'coupled' },
          { value: 'free', text: 'Free', second: 'coupling or belt is off', testID: 'free' },
        ]}
        value={coupled}
        disabled={busy}
        onChoose={(v) => answer({ coupled: v, ...(v === 'coupled' && { kind: 'standstill' }) })}
      />
      {coupled === null && (
        <Note>A motor that turns to be measured must be free, or the load is measured with it and may be thrown about. Answer this first.</Note>
      )}
      {coupled !== null && <HowToMeasure t={t} />}
      {coupled === 'coupled' && (
        <Note>Coupled: only at standstill. It measures resistances and leakage; the no-load current stays an estimate. The shaft may twitch.</Note>
      )}
      {rotating && (
        <Finding
          severity="warning"
          sentence={`The motor turns by itself up to 80 % of rated speed. Hold the button for the whole time: letting go stops it and changes nothing.`}
        />
      )}
      <PlateFirst tag={tag} t={t} />
      {coupled !== null && (
        <MayTurn
          text={rotating ? 'The motor is free, nobody at the shaft, it may turn' : 'Nobody at shaft or terminals, current may flow'}
          sentence={
            rotating
              ? `The motor of ${tag} ${name} will turn.`
              : `Current flows through the motor of ${tag} ${name}; the shaft stands still, or twitches.`
          }
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
      label="How to measure"
      options={[
        { value: 'standstill', text: 'At standstill', second: 'some seconds', testID: 'tune-standstill' },
        { value: 'rotating', text: 'Turning', second: free ? 'longer, with ramps' : 'only when free', disabled: !free, testID: 'tune-rotating' },
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
      sentence={`${plate.count} ${plate.count === 1 ? 'figure of the plate is' : 'figures of the plate are'} not in the drive: it would measure against another motor.`}
      act={plate.inDraft ? 'Go to Write' : 'Go to Plate and copy them'}
      onAct={() => go(`/m/${tag}/${plate.inDraft ? 'write' : 'plate'}`)}
    />
  );
}
