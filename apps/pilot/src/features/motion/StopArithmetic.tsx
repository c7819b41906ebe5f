import { View } from '@tamagui/core';
import { busAtRest, formatFigure, totalInertia, type LookAhead, type MachineSpec } from '@yare/core';
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
      <Strong>Shortest stop without a resistor</Strong>
      <Mono fontSize={15} lineHeight={22}>
        ½ J ω² = ½ · {formatFigure(inertia, 3)} · {formatFigure(omega, 0)}² = {kj(energy)} kJ
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        bus takes ½ C ({spec.rating.overvoltageTrip}² − {formatFigure(rest, 0)}²) = {kj(room)} kJ
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        losses and load must take the rest
      </Mono>
      <Mono fontSize={15} lineHeight={22}>
        by the model, 15 V below the trip: <Strong>{shortest === null ? '…' : searchedStop(shortest)}</Strong>
      </Mono>
      <Second>
        Bus peak of the draft {formatFigure(ahead.summary.peakBus, 0)} V.{' '}
        {learned ? 'Inertia as learned from a recording.' : 'Inertia is an estimate: rotor by size, plus the load as known.'}
      </Second>
      {took !== null && <Second>Run computed in {formatFigure(took * 1000, 0)} ms.</Second>}
    </View>
  );
}
