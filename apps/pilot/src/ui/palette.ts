import { say } from '@yare/words/pages/ui';
/** Colours of the two themes. Status colours follow IEC 60073; plum is for what can be touched and is no status. */
export const day = {
  paper: '#f4f1ea',
  sheet: '#fbf9f4',
  ink: '#1c2024',
  soft: '#5d5f5c',
  rule: '#d8d2c4',
  rule2: '#a9a393',
  plum: '#6b2d5c',
  plumFill: '#6b2d5c',
  onPlum: '#ffffff',
  hand: '#eee6e6',
  green: '#1d6b34',
  greenGround: '#dcecdc',
  yellow: '#7a5a00',
  yellowGround: '#fbecb4',
  red: '#a61b14',
  redGround: '#f9dcd8',
  blue: '#1b4f8f',
  blueGround: '#dbe7f6',
};
export type Palette = typeof day;

export const night: Palette = {
  paper: '#15171a',
  sheet: '#1b1e22',
  ink: '#ece8df',
  soft: '#a9a69d',
  rule: '#34383e',
  rule2: '#4b5058',
  plum: '#d9a3cf',
  plumFill: '#8a4a7e',
  onPlum: '#ffffff',
  hand: '#2d2a31',
  green: '#79c98b',
  greenGround: '#1d3324',
  yellow: '#f0c84a',
  yellowGround: '#3a3112',
  red: '#ff8f85',
  redGround: '#4a1d1a',
  blue: '#8fbdf5',
  blueGround: '#1a2d47',
};

export const fontFamily = {
  text: say.atkinsonhyperlegiblenextRegular,
  bold: 'AtkinsonHyperlegibleNext_700Bold',
  mono: 'AtkinsonHyperlegibleMono_400Regular',
  monoBold: 'AtkinsonHyperlegibleMono_700Bold',
};

/** Sizes in px: the ledger's measures. */
export const measure = { margin: 42, row: 56, strip: 56, bar: 68, wide: 1000, index: 252, evidence: 432 };
