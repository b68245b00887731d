import { type FieldKey, type Names, readRow } from '@ivory/core';
import { sql } from 'kysely';
import { type Readable } from 'node:stream';
import { arrayLiteral, copyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { csvRows } from './csvRows.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

export interface Written {
  readonly source: Readable;
  readonly encoding: Encoding;
  readonly delimiter: Delimiter;
}

/**
 * Reads every row of a file into the temporary table `staged`. In `vals`, one place a taken column: null leaves the
 * value alone, an empty text empties it. Rows with problems keep their cells, for the person who mends them.
 * Returns how many rows there are.
 */
export async function stageRows(
  tx: Tx,
  file: Written,
  columns: readonly (FieldKey | null)[],
  names: Names,
  report: (rows: number) => Promise<void>,
): Promise<number> {
  await sql`
    create temp table staged (row_no int, key text, code text, vals text[], problems jsonb, cells text[]) on commit drop
  `.execute(tx.q);
  const taken = columns.flatMap((column, i) => (column === null ? [] : [i]));
  const codeAt = columns.indexOf('code');
  const staged = async function* () {
    let rows = -1;
    for await (const { row, cells } of csvRows(file.source, file.encoding, file.delimiter)) {
      if (++rows === 0) continue;
      const { key, values, problems } = readRow(cells, columns, names);
      const wrong = problems.length > 0;
      yield [
        [
          row,
          key,
          (cells[codeAt] ?? '').trim(),
          arrayLiteral(taken.map((i) => (values[i] === undefined ? null : (values[i] ?? '')))),
          wrong ? JSON.stringify(problems) : null,
          arrayLiteral(wrong ? cells : []),
        ],
      ];
      await report(rows);
    }
  };
  const rows = await copyIn(tx.client, 'staged', staged());
  await sql`analyze staged`.execute(tx.q);
  await refuseRepeated(tx);
  return rows;
}

/** The same code twice: the first row counts, the others are refused and say where the first is. */
async function refuseRepeated(tx: Tx): Promise<void> {
  await sql`
    update staged g set problems = jsonb_build_array(jsonb_build_object(
      'code', 'duplicate-in-file', 'field', 'code', 'value', g.code, 'expected', r.first::text))
    from (select row_no, min(row_no) over (partition by key) as first from staged where key <> '') r
    where r.row_no = g.row_no and r.first < g.row_no and g.problems is null
  `.execute(tx.q);
}
