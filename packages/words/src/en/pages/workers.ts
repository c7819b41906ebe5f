export const say = {
  noFileWasChosen: 'No file was chosen.',
  theFileIsNoLonger: 'The file is no longer at hand. Choose it again.',
};
