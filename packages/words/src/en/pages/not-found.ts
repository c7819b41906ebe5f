export const say = {
  thereIsNoSuchPage: 'There is no such page.',
  goToThePlant: 'Go to the plant',
};
