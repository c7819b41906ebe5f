import { analogueIds, type MachineModel } from '@yare/commissioning';
import { analogueSpeed, AnalogueSignal, formatFigure, lostBelow, signalAt, signalEnds, SpeedSource } from '@yare/core';
import { useCommandNow } from '../../data/commandNow';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { SignalDrawing } from './SignalDrawing';

/** The first signal as a line from mA or V to Hz, with where it stands now and, of a live zero, from where it counts as lost. */
export function SignalLine({ model }: { model: MachineModel }) {
  const now = useCommandNow(model);
  const { command } = model.drafted.controls();
  const { analogue: scale, remote, local } = command;
  const [name] = analogueIds(model.drafted);
  if (name === undefined) return null;
  const { unit, low, high } = signalEnds[scale.signal];
  const bothWays = scale.signal === AnalogueSignal.bothWays;
  const speeds = [scale.low, scale.high, ...(bothWays ? [-scale.high] : [])];
  const shares = bothWays ? [-1, -scale.deadBand, -scale.deadBand, scale.deadBand, scale.deadBand, 1] : [0, 1];
  const line = shares.map((s, i) => {
    // a dead band is a step: just inside it the speed is zero
    const inside = scale.deadBand > 0 && (i === 2 || i === 3);
    return [signalAt(scale.signal, s), inside ? 0 : analogueSpeed({ ...scale, deadBand: 0 }, s)] as const;
  });
  const share = now ? now.inputs.analogue : null;
  const used = [remote.speed, local.speed].includes(SpeedSource.analogue);
  return (
    <>
      <SectionHead
        right={used ? 'gives the speed' : remote.speed === SpeedSource.process ? 'is the feedback' : 'not in use'}
      >{`Signal at ${name}`}</SectionHead>
      <SignalDrawing
        label={`${name}: ${low} to ${high} ${unit} is ${scale.low} to ${scale.high} Hz`}
        across={[bothWays ? -high : 0, high]}
        up={[Math.min(0, ...speeds), Math.max(1, ...speeds)]}
        line={line}
        dot={share === null ? null : [signalAt(scale.signal, share), analogueSpeed(scale, share)]}
        {...(scale.signal === AnalogueSignal.liveZero && { lostBelow })}
        marks={{
          across: [
            [low, `${low} ${unit}`],
            [high, `${high} ${unit}`],
          ],
          up: [
            [scale.high, `${formatFigure(scale.high, 0)} Hz`],
            [scale.low, `${formatFigure(scale.low, 0)} Hz`],
          ],
        }}
      />
      {share !== null && (
        <SheetRow
          label="Now"
          second={`${formatFigure(signalAt(scale.signal, share), 1)} ${unit}, ${formatFigure(100 * share, 0)} % of the range`}
          figure={formatFigure(analogueSpeed(scale, share), 1)}
          unit="Hz"
        />
      )}
    </>
  );
}
