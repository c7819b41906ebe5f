import { shownSignals, type MachineModel, type ShownSignal } from '@yare/commissioning';
import { AnalogueOutJob, AnalogueSignal, formatFigure, outputSignal, signalEnds } from '@yare/core';
import { say } from '@yare/words/pages/terminals';
import { useLiveValue } from '../../data/live';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { SignalDrawing } from './SignalDrawing';

const names = {
  [AnalogueOutJob.outputFrequency]: say.theOutputFrequency,
  [AnalogueOutJob.motorCurrent]: say.theMotorCurrent,
  [AnalogueOutJob.nothing]: '',
};

/** One analogue output as a line from what it shows to its mA, with where it stands now as the drive's settings foresee it. */
function ShownLine({ tag, shown }: { tag: string; shown: ShownSignal }) {
  const { terminal, job, unit, full } = shown;
  const value = useLiveValue(tag, (s) => {
    if (!s || s.link === 'down') return null;
    // a tenth is enough for a dot and a figure
    return Math.round(Math.abs(job === AnalogueOutJob.outputFrequency ? s.outputFrequency : s.motorCurrent) * 10) / 10;
  });
  const { low, high } = signalEnds[AnalogueSignal.liveZero];
  const top = formatFigure(full, 1);
  return (
    <>
      <SectionHead right={say.shows({ names: names[job] })}>{say.signalFrom({ terminal })}</SectionHead>
      <SignalDrawing
        label={say.toIsToMa({ terminal, top, unit, low, high })}
        across={[0, full]}
        up={[0, high]}
        line={[
          [0, low],
          [full, high],
        ]}
        dot={value === null ? null : [Math.min(value, full), outputSignal(value, full)]}
        marks={{
          across: [
            [0, `0 ${unit}`],
            [full, `${top} ${unit}`],
          ],
          up: [
            [high, say.ma({ high })],
            [low, say.ma2({ low })],
          ],
        }}
      />
      {value !== null && (
        <SheetRow
          label={say.aMeterShouldShow}
          second={say.workedOutFromNowNot({ value, unit })}
          figure={formatFigure(outputSignal(value, full), 1)}
          unit="mA"
          mark="W"
          estimate
          testID={`shown-${terminal}`}
        />
      )}
    </>
  );
}

/** What the analogue outputs show a panel meter or a controller. */
export function ShownLines({ model }: { model: MachineModel }) {
  return shownSignals(model.drafted).map((s) => <ShownLine key={s.terminal} tag={model.machine.tag} shown={s} />);
}
