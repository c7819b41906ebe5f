export const say = {
  whoIsAtThisDevice: 'Who is at this device?',
  yourNameGoesWithEvery:
    'Your name goes with every edit, every write to a drive and every run, so that the next person can ask you. It stays on this device.',
  yourName: 'Your name',
  nameAsColleaguesKnowIt: 'Name, as colleagues know it',
  useThisName: 'Use this name',
};
