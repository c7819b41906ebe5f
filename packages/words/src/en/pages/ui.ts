import { formatFigure } from '@yare/core/units';

export const say = {
  take: 'Take',
  leaveIt: 'Leave it',
  less: ({ label, by }: { label: string; by: number }) => `${label} ${by < 0 ? 'less' : 'more'}`,
  workPlanOf: ({ tag, name }: { tag: string; name: string }) => `Work plan of ${tag} ${name}`,
  tryAgain: 'Try again',
  readingTheSheet: 'Reading the sheet…',
  keepHolding: 'Keep holding…',
  space: 'Space',
  deleteText: 'Delete',
  to: ({ end, end2, unit }: { end: string; end2: string; unit: string }) => `${end} to ${end2} ${unit}`,
  leaveEsc: 'Leave (Esc)',
  leave: 'Leave',
  minus: 'Minus',
  notGiven: 'Not given',
  setNext: 'Set, next',
  setEnter: 'Set (Enter)',
  set: 'Set',
  yareEntry: 'yare.entry',
  needsANumber: ({ label }: { label: string }) => `${label} needs a number.`,
  isNotANumberUse: ({ text }: { text: string }) => `“${text}” is not a number. Use digits and one decimal point.`,
  takesAWholeNumberIs: ({ label, text }: { label: string; text: string }) => `${label} takes a whole number; ${text} is not one.`,
  takesToIsOutside: ({
    label,
    text,
    text2,
    unit,
    value,
    decimals,
  }: {
    label: string;
    text: string;
    text2: string;
    unit: string;
    value: number;
    decimals: number;
  }) => `${label} takes ${text} to ${text2} ${unit}; ${formatFigure(value, decimals)} is outside.`,
  openingThePage: 'Opening the page',
  atkinsonhyperlegiblenextRegular: 'AtkinsonHyperlegibleNext_400Regular',
  ready: 'Ready',
  running: 'Running',
  stopping: 'Stopping',
  asleep: 'Asleep',
  held: 'Held',
  tripped: 'Tripped',
  noLink: 'No link',
  workingItOutAnewBefore: ({ sentence }: { sentence: string }) => `Working it out anew. Before: ${sentence}`,
  chartOf: ({ panes }: { panes: string }) => `Chart of ${panes}`,
  touchTheChartToRead: 'Touch the chart to read it',
  earlier: 'Earlier',
  zoomOut: 'Zoom out',
  fit: 'Fit',
  fitAll: 'Fit all',
  zoomIn: 'Zoom in',
  later: 'Later',
  secondCursor: 'Second cursor',
  unpin: 'Unpin',
  pin: 'Pin',
};
