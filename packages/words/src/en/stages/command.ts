export const say = {
  aBrokenWireAtIs: ({ analogueIds }: { analogueIds: string }) =>
    `A broken wire at ${analogueIds} is ignored: the speed then goes to the low end of the signal, and nobody is told.`,
  stopWhenItIsLost: 'Stop when it is lost',
  tripWhenItIsLost: 'Trip when it is lost',
  inLocal: ({ sentence }: { sentence: string }) => `In local, ${sentence}`,
  startComesFromTheTerminals: 'start comes from the terminals, and no input may start it: nothing ever does.',
  goToTerminals: 'Go to Terminals',
  startFromTheKeypad: 'Start from the keypad',
  speedComesFromThePresets: 'speed comes from the presets, and no input chooses one: it always runs at the keypad speed.',
  takeTheSpeedFromThe: 'Take the speed from the signal',
  speedComesFromTheFaster: ({ includes }: { includes: boolean }) =>
    `speed comes from the faster and slower contacts, and ${includes ? 'no input makes it slower' : 'no input makes it faster'}.`,
  itStartsByItselfWhen:
    'It starts by itself when power comes back while its start is still given. Whoever works at the machine then is not asked. Only where nobody can be hurt, and with a warning at the machine.',
  wantANewStart: 'Want a new start',
  whereItComesFrom: 'Where it comes from',
  whileLocalIsClosed: 'While local is closed',
  signals: 'Signals',
  howAStartCounts: 'How a start counts',
  notSeenToBeGiven: 'not seen to be given back',
};
