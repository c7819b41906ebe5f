import { formatFigure } from '@yare/core/units';

export const say = {
  isMadeForToV: ({
    family,
    size,
    supplyMin,
    supplyMax,
    voltage,
  }: {
    family: string;
    size: string;
    supplyMin: number;
    supplyMax: number;
    voltage: number;
  }) => `${family} ${size} is made for ${supplyMin} to ${supplyMax} V; the supply has ${voltage} V. It must not be connected.`,
  carriesATimesTheMotors: ({
    family,
    size,
    current,
    times,
    current2,
  }: {
    family: string;
    size: string;
    current: number;
    times: number;
    current2: number;
  }) =>
    `${family} ${size} carries ${formatFigure(current, 1)} A, ${formatFigure(times, 1)} times the motor’s ${formatFigure(current2, 2)} A: it measures such a small current poorly, and the overload setting may not go low enough. Check the size on its label.`,
  aHzPlateOnA: ({ frequency, region, manyText, presets }: { frequency: number; region: number; manyText: number; presets: number }) =>
    `A ${frequency} Hz plate on a ${region} Hz factory start: ${manyText} factory values differ between the two${presets > 0 ? `, ${presets} preset speeds among them` : ''}.`,
  goToTheFactoryStart: 'Go to the factory start',
  isTooSmallHere: ({ family, size }: { family: string; size: string }) => `${family} ${size} is too small here`,
  notReadYet: 'not read yet',
  bigEnoughByTheNameplate: 'big enough by the nameplate; the place is not recorded',
  bigEnoughReadAsFound: 'big enough, read as found',
};
