import { harmlessCell } from '@ivory/core';
import { stringify } from 'csv-stringify/sync';

/** Rows as CSV (RFC 4180), so that no spreadsheet runs what stands in a cell. */
export const csvLines = (rows: readonly (readonly string[])[], delimiter = ','): string =>
  stringify(
    rows.map((cells) => cells.map(harmlessCell)),
    { record_delimiter: 'windows', delimiter },
  );
