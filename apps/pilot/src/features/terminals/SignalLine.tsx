import { analogueIds, sensorDecimals, sensorOf, type MachineModel } from '@yare/commissioning';
import { analogueSpeed, AnalogueSignal, formatFigure, lostBelow, signalAt, signalEnds, SpeedSource, type ProcessSensor } from '@yare/core';
import { say } from '@yare/words/pages/terminals';
import { useCommandNow } from '../../data/commandNow';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { SignalDrawing } from './SignalDrawing';

/** What a share of the signal is worth: a speed, or what the sensor on it measures. */
interface Worth {
  unit: string;
  decimals: number;
  ends: readonly [low: number, high: number];
  of: (share: number) => number;
}

/** The sensor's own unit where the signal is a feedback and a sensor is on record; % of its range without one. */
function feedbackWorth(sensor: ProcessSensor | null): Worth {
  const [low, high] = sensor ? [sensor.low, sensor.high] : [0, 100];
  return {
    ...{ unit: sensor?.unit ?? '%', decimals: sensor ? sensorDecimals(sensor) : 0, ends: [low, high] },
    of: (share) => low + share * (high - low),
  };
}

/** The first signal as a line from mA or V to what it is worth, with where it stands now and, of a live zero, from where it counts as lost. */
export function SignalLine({ model }: { model: MachineModel }) {
  const now = useCommandNow(model);
  const { command } = model.drafted.controls();
  const { analogue: scale, remote, local } = command;
  const [name] = analogueIds(model.drafted);
  if (name === undefined) return null;
  const { unit, low, high } = signalEnds[scale.signal];
  const bothWays = scale.signal === AnalogueSignal.bothWays;
  const givesSpeed = [remote.speed, local.speed].includes(SpeedSource.analogue);
  const isFeedback = !givesSpeed && [remote.speed, local.speed].includes(SpeedSource.process);
  const worth: Worth = isFeedback
    ? feedbackWorth(sensorOf(model.machine.driven))
    : { unit: say.hz, decimals: 0, ends: [scale.low, scale.high], of: (share) => analogueSpeed({ ...scale, deadBand: 0 }, share) };
  const [least, most] = worth.ends;
  const ends = [least, most, ...(bothWays && !isFeedback ? [-most] : [])];
  const shares = bothWays && !isFeedback ? [-1, -scale.deadBand, -scale.deadBand, scale.deadBand, scale.deadBand, 1] : [0, 1];
  const line = shares.map((s, i) => {
    // a dead band is a step: just inside it the speed is zero
    const inside = !isFeedback && scale.deadBand > 0 && (i === 2 || i === 3);
    return [signalAt(scale.signal, s), inside ? 0 : worth.of(s)] as const;
  });
  const share = now ? now.inputs.analogue : null;
  const here = share === null ? 0 : isFeedback ? worth.of(share) : analogueSpeed(scale, share);
  const said = (x: number) => `${formatFigure(x, worth.decimals)} ${worth.unit}`;
  return (
    <>
      <SectionHead right={givesSpeed ? say.givesTheSpeed : isFeedback ? say.isTheFeedback : say.notInUse}>{say.signalAt({ name })}</SectionHead>
      <SignalDrawing
        label={say.toIsTo({ name, low, high, unit, said: said(least), said2: said(most) })}
        across={[bothWays ? -high : 0, high]}
        up={[Math.min(isFeedback ? least : 0, ...ends), Math.max(isFeedback ? most : 1, ...ends)]}
        line={line}
        dot={share === null ? null : [signalAt(scale.signal, share), here]}
        {...(scale.signal === AnalogueSignal.liveZero && { lostBelow })}
        marks={{
          across: [
            [low, `${low} ${unit}`],
            [high, `${high} ${unit}`],
          ],
          up: [
            [most, said(most)],
            [least, said(least)],
          ],
        }}
      />
      {share !== null && (
        <SheetRow
          label={say.now}
          second={say.ofTheRange({ signalAt: signalAt(scale.signal, share), unit, share: 100 * share })}
          figure={formatFigure(here, isFeedback ? worth.decimals : 1)}
          unit={worth.unit}
        />
      )}
    </>
  );
}
