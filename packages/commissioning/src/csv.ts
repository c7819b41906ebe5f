/**
 * Words in a cell of a CSV file. A spreadsheet takes what begins with = + - @ or a control sign for a formula, some the full-width signs too, and works it out; an
 * apostrophe before it makes it words (common practice of spreadsheets). Figures stay figures.
 */
const formula = /^[=+\-@\t\r\n\uFF1D\uFF0B\uFF0D\uFF20]/;
const figure = /^[+-]?\d+(\.\d+)?(e[+-]?\d+)?$/i;

/** Words as they may stand in a cell. */
export const harmlessCell = (text: string): string => (formula.test(text.replace(/^'+/, '')) && !figure.test(text) ? `'${text}` : text);

/** The words a cell made by {@link harmlessCell} stands for. */
export const textOfCell = (cell: string): string => (/^'+/.test(cell) && formula.test(cell.replace(/^'+/, '')) ? cell.slice(1) : cell);
