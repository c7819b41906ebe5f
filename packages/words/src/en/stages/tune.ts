export const say = {
  cannotMeasureFitTheModel: ({ family }: { family: string }) => `${family} cannot measure: fit the model to a run`,
  measuredKeptCopiedBack: 'measured, kept, copied back',
  theMotorIsAnEstimate: 'the motor is an estimate so far',
};
