import { formatFigure } from '@yare/core/units';

export const say = {
  letTheOutputGoDown: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) => `Let the output go down to ${hertz}, and sleep below ${hertz2}`,
  belowAboutItLiftsNothing: ({ least, hertz, hertz2, under }: { least: string; hertz: string; hertz2: string; under: string }) =>
    `Below about ${least} it lifts nothing (estimated), and it sleeps only below ${hertz}: in between it turns without flow. At ${hertz2} it would sleep while less than ${under} flows in.`,
  withNothingDrawnThePump: ({
    held,
    sensorDecimals,
    unit,
    least,
    hertz,
    hertz2,
    under,
  }: {
    held: number;
    sensorDecimals: number;
    unit: string;
    least: string;
    hertz: string;
    hertz2: string;
    under: string;
  }) =>
    `With nothing drawn the pump holds ${formatFigure(held, sensorDecimals)} ${unit} at about ${least} (estimated). It comes down to ${hertz} only where taps are shut so fast that the pressure is left standing above its set point; with the least leak it never falls asleep. At ${hertz2} it would sleep while less than ${under} is drawn.`,
  sleepBelow: ({ hertz }: { hertz: string }) => `Sleep below ${hertz}`,
  theOutputNeverGoesBelow: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `The output never goes below ${hertz}, so it never gets down to the sleep speed of ${hertz2}: it never falls asleep.`,
  liftsNothing: 'lifts nothing',
  atItStillPumpsMore: ({ hertz, tooEarly }: { hertz: string; tooEarly: number }) =>
    `At ${hertz} it still pumps more than ${formatFigure(tooEarly, 0)} m³/h (estimated): it falls asleep while it is needed, and hunts.`,
  theFeedbackWouldHaveTo: ({ fall, set }: { fall: number; set: number }) =>
    `The feedback would have to fall by ${formatFigure(fall, 1)} % of the range, and there are only ${formatFigure(set, 1)} %: it never wakes.`,
  wakeAtLess: 'Wake at 4 % less',
  aFallOfOfThe: ({ falls }: { falls: number }) =>
    `A fall of ${formatFigure(falls, 1)} % of the range is little more than the noise of a sensor: it wakes as soon as it sleeps.`,
  theBoostGoesToOf: ({ boosted, guard }: { boosted: number; guard: number }) =>
    `The boost goes to ${formatFigure(boosted, 1)} % of the range; the high-pressure guard acts at ${formatFigure(guard, 1)} %.`,
  noBoost: 'No boost',
  theBoostIsMoreThan: ({ hertz }: { hertz: string }) =>
    `The boost is more than the pump makes: it would take ${hertz} (estimated). It runs at full speed for the boost time, then sleeps all the same.`,
  fallsAsleep: 'Falls asleep',
  boostBeforeSleep: 'Boost before sleep',
  wakes: 'Wakes',
  itNeverSleeps: 'it never sleeps',
  seenToSleepAndTo: 'seen to sleep and to wake',
  notSeenToSleepYet: 'not seen to sleep yet',
};
