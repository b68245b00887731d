/** What a spreadsheet would run: a text that begins like a formula. A negative number is none. */
const RUNS = /^'*[=+\-@\t\r]/;
const NUMBER = /^-?[\d.,]+$/;

/** The cell written so that no spreadsheet runs it: an apostrophe before it. `readCellText` gives the same text back. */
export const harmlessCell = (text: string): string => (RUNS.test(text) && !NUMBER.test(text) ? `'${text}` : text);

/** A formula that is nothing but a text: how digits are kept from being taken for a number, `="00123"`. */
const TEXT_FORMULA = /^="((?:[^"]|"")*)"$/;

/** The text of a cell as it was before `harmlessCell`, or before it was made a formula to keep its noughts. */
export function readCellText(cell: string): string {
  if (cell.startsWith("'") && RUNS.test(cell)) return cell.slice(1);
  const text = cell.startsWith('=') ? TEXT_FORMULA.exec(cell)?.[1] : undefined;
  return text === undefined ? cell : text.replaceAll('""', '"');
}

/**
 * Digits as a formula that is nothing but a text, so that a spreadsheet keeps their leading zeros and all of their figures. `readCellText`
 * gives them back. Undefined for a text that is not all digits.
 */
export const digitsAsText = (text: string): string | undefined => (/^\d+$/.test(text) ? `="${text}"` : undefined);
