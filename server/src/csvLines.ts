import { harmlessCell } from '@ivory/core';
import { stringify } from 'csv-stringify/sync';

/** A cell that is written as it is, such as a formula that is nothing but a text. */
export interface Formula {
  readonly formula: string;
}

/**
 * Rows as CSV (RFC 4180), so that no spreadsheet runs what stands in a cell. A cell with a line break of any kind is quoted: lines end with
 * CR LF, and csv-stringify by itself quotes for no other.
 */
export const csvLines = (rows: readonly (readonly (string | Formula)[])[], delimiter = ','): string =>
  stringify(
    rows.map((cells) => cells.map((cell) => (typeof cell === 'string' ? harmlessCell(cell) : cell.formula))),
    { record_delimiter: 'windows', delimiter, quoted_match: /[\r\n]/ },
  );
