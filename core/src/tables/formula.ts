/** What a spreadsheet would run: a text that begins like a formula. A negative number is none. */
const RUNS = /^'*[=+\-@\t\r]/;
const NUMBER = /^-?[\d.,]+$/;

/** The cell written so that no spreadsheet runs it: an apostrophe before it. `readCellText` gives the same text back. */
export const harmlessCell = (text: string): string => (RUNS.test(text) && !NUMBER.test(text) ? `'${text}` : text);

/** The text of a cell as it was before `harmlessCell`. */
export const readCellText = (cell: string): string => (cell.startsWith("'") && RUNS.test(cell) ? cell.slice(1) : cell);
