import { View } from '@tamagui/core';
import { busAtRest, formatFigure, totalInertia, type LookAhead, type MachineSpec } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import { Mono, Second, Strong } from '../../ui/text';
import { searchedStop } from './searchedStop';

/** Where the energy of the stop goes, with the figures of this machine. */
export function StopArithmetic({
  spec,
  ahead,
  shortest,
  took,
  learned,
}: {
  spec: MachineSpec;
  ahead: LookAhead;
  shortest: number | null;
  took: number | null;
  learned: boolean;
}) {
  const omega = (2 * Math.PI * spec.drive.maximumFrequency * 2) / spec.circuit.poles;
  const inertia = totalInertia(spec);
  const energy = 0.5 * inertia * omega * omega;
  const rest = busAtRest(spec.supply);
  const room = 0.5 * spec.rating.busCapacitance * (spec.rating.overvoltageTrip ** 2 - rest ** 2);
  const kj = (x: number) => formatFigure(x / 1000, 2);
  return (
    <View padding={16} gap={4} borderTopWidth={1} borderColor="$rule2">
      <Strong>{say.shortestStopWithoutAResistor}</Strong>
      <Mono fontSize={15} lineHeight={22}>
        {say.jKj({ inertia, omega, kj: kj(energy) })}
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        {say.busTakesCKj({ overvoltageTrip: spec.rating.overvoltageTrip, rest, kj: kj(room) })}
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        {say.lossesAndLoadMustTake}
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        {say.byTheModelVBelow} <Strong>{shortest === null ? '…' : searchedStop(shortest)}</Strong>
      </Mono>
      <Second>{say.busPeakOfTheDraft({ peakBus: ahead.summary.peakBus, learned })}</Second>
      {took !== null && <Second>{say.runComputedInMs({ took: took * 1000 })}</Second>}
    </View>
  );
}
