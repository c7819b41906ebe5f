export const say = {
  saysTheSelectorAndThe: ({ name, code, text }: { name: string; code: string; text: string }) =>
    `${name} ${code} says ${text}: the selector and the buttons on the panel start nothing. Hold to run does not need it; command over the link goes back by itself when you let go.`,
  giveStartBackToThe: 'Give start back to the terminals',
  turnsTheRightWay: 'turns the right way',
  notLookedAtYet: 'not looked at yet',
};
