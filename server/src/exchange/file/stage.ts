import { type Asking, type FieldKey, fold, gtinWithZeros as withZeros, readCellText, rowReader } from '@ivory/core';
import { sql } from 'kysely';
import { type Readable } from 'node:stream';
import { arrayLiteral, copyIn } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { csvRows } from './csvRows.ts';
import { type Delimiter, type Encoding } from './sniff.ts';

/** A file as it was written. */
export interface Written {
  readonly open: () => Readable;
  readonly encoding: Encoding;
  readonly delimiter: Delimiter;
  /** The row of its headings, as a spreadsheet shows it; what stands above them is not of the table. */
  readonly headingRow: number;
}

/** The columns of a file: which field each is taken for, its heading, and the one that says which product a row is of. */
export interface Columns {
  readonly taken: readonly (FieldKey | null)[];
  readonly headings: readonly string[];
  readonly product: number | null;
}

/**
 * Reads every row of a file into the temporary table `staged`, which has a column for each taken field: null leaves the
 * value alone, an empty text empties it. Rows with problems keep their cells, for the person who mends them.
 * A GTIN that is right once it has leading zeros again gets them. Returns how many rows there are, and which GTINs got zeros.
 */
export async function stageRows(
  tx: Tx,
  file: Written,
  { taken: columns, headings, product }: Columns,
  asking: Asking,
  report: (rows: number) => Promise<void>,
): Promise<{ rows: number; restored: { from: string; to: string }[] }> {
  const taken = columns.flatMap((column, i) => (column === null ? [] : [{ column, i }]));
  const values = sql.join(taken.map(({ column }) => sql`${sql.ref(column)} text`));
  await sql`
    create temp table staged (row_no int, key text, written text, product_said text, problems jsonb, cells text[], ${values}) on commit drop
  `.execute(tx.q);
  const codeAt = columns.indexOf('code');
  const read = rowReader(columns, asking, headings);
  let rows = 0;
  const restored: { from: string; to: string }[] = [];
  const staged = async function* () {
    for await (const batch of csvRows(file.open(), file.encoding, file.delimiter)) {
      const behind = batch[0]!.row > file.headingRow ? batch : batch.filter(({ row }) => row > file.headingRow);
      yield behind.map(({ row, cells }) => {
        const { key, values, problems: found } = read(cells);
        const [first] = found;
        const shortened = found.length === 1 && first?.code === 'gtin-length' ? first.value : undefined;
        const whole = shortened === undefined ? undefined : withZeros(shortened);
        const problems = whole === undefined ? found : [];
        if (whole !== undefined) restored.push({ from: shortened!, to: whole });
        const wrong = problems.length > 0;
        const own = taken.map(({ column, i }) =>
          whole !== undefined && column === 'gtin' ? whole : values[i] === undefined ? null : (values[i] ?? ''),
        );
        const written = (cells[codeAt] ?? '').trim();
        const said = product === null ? '' : fold(readCellText(cells[product] ?? ''));
        return [
          row,
          key,
          written,
          said,
          wrong ? JSON.stringify(problems) : null,
          wrong ? arrayLiteral(cells) : null,
          ...own,
        ];
      });
      rows += behind.length;
      await report(rows);
    }
  };
  await copyIn(tx.client, 'staged', staged());
  if (columns.includes('gtin')) await leaveWrongAlone(tx);
  return { rows, restored };
}

/** A GTIN that is wrong in the shop stays wrong in an exported file: where the file repeats the present value, it is no problem. */
async function leaveWrongAlone(tx: Tx): Promise<void> {
  await sql`
    update staged g set problems = null, cells = null from sku k
    where jsonb_array_length(g.problems) = 1 and g.problems->0->>'field' = 'gtin' and k.code_key = g.key
      and regexp_replace(g.problems->0->>'value', '[\\s-]', '', 'g') = k.gtin
  `.execute(tx.q);
}

/** The same code twice: the first row counts, the others are refused and say where the first is. */
export async function refuseRepeated(tx: Tx): Promise<void> {
  await sql`
    update staged g set problems = jsonb_build_array(jsonb_build_object(
      'code', 'duplicate-in-file', 'field', 'code', 'value', g.written, 'expected', r.first::text))
    from (select key, min(row_no) as first from staged where key <> '' group by key having count(*) > 1) r
    where r.key = g.key and r.first < g.row_no and g.problems is null
  `.execute(tx.q);
}
