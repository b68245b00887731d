import { sql } from 'kysely';
import { arrayLiteral, copyIn } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { csvRows } from './csvRows.ts';
import { type Written } from './stage.ts';

/**
 * Gives rows that were refused only beside other rows or the shop the cells that they have in the file, which is read
 * once more for them: keeping the cells of every row for a few would cost more.
 */
export async function keepCells(tx: Tx, file: Written, importId: string): Promise<void> {
  const { rows: bare } = await sql<{ row_no: number }>`
    select row_no from import_row where import_id = ${importId} and outcome = 'refused' and cells = '{}'
  `.execute(tx.q);
  if (bare.length === 0) return;
  const wanted = new Set(bare.map(({ row_no }) => row_no));
  await sql`create temp table kept (row_no int, cells text[]) on commit drop`.execute(tx.q);
  const found = async function* () {
    for await (const rows of csvRows(file.open(), file.encoding, file.delimiter)) {
      yield rows.filter(({ row }) => wanted.has(row)).map(({ row, cells }) => [row, arrayLiteral(cells)]);
    }
  };
  await copyIn(tx.client, 'kept', found());
  await sql`
    update import_row r set cells = k.cells from kept k where r.import_id = ${importId} and r.row_no = k.row_no
  `.execute(tx.q);
}
