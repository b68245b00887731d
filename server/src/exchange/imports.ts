import { type AnswerOf, type calls, type Import, problemWords, type QueryOf } from '@ivory/contract';
import { type Problem } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

type Rows = AnswerOf<typeof calls.getImportRows>;
type Outcome = Rows['rows'][number]['outcome'];

/** How an import stands: its columns as matched, and what became of its rows. */
export async function getImport(db: Db, id: string): Promise<Import> {
  const file = await db.q.selectFrom('import_file').selectAll().where('id', '=', id).executeTakeFirst();
  if (!file) throw new Refusal('not found', 'There is no such import.');
  const { rows } = await sql<{ outcome: Outcome; rows: number }>`
    select outcome, count(*)::int as rows from import_row where import_id = ${id} group by outcome
  `.execute(db.q);
  const count = (outcome: Outcome) => rows.find((row) => row.outcome === outcome)?.rows ?? 0;
  const counts = { new: count('new'), changed: count('changed'), same: count('same'), refused: count('refused') };
  return {
    id,
    fileName: file.file_name,
    encoding: file.encoding,
    delimiter: file.delimiter,
    columns: file.columns as Import['columns'],
    state: file.state as Import['state'],
    proof: file.proof_id,
    counts: file.state === 'read' ? counts : null,
  };
}

/** Rows of an import from any place, those with one outcome or all. */
export async function importRows(
  db: Db,
  id: string,
  { from, count, outcome }: QueryOf<typeof calls.getImportRows>,
): Promise<Rows> {
  const which = sql`import_id = ${id} ${outcome === undefined ? sql`` : sql`and outcome = ${outcome}`}`;
  const [{ rows: totals }, { rows }] = await Promise.all([
    sql<{ total: number }>`select count(*)::int as total from import_row where ${which}`.execute(db.q),
    sql<{ row_no: number; outcome: Outcome; key: string; cells: string[]; problems: Problem[] | null }>`
      select row_no, outcome, key, cells, problems from import_row where ${which} order by row_no limit ${count} offset ${from}
    `.execute(db.q),
  ]);
  return {
    total: totals[0]!.total,
    rows: rows.map(({ row_no, outcome, key, cells, problems }) => ({
      row: row_no,
      outcome,
      code: key,
      reasons: (problems ?? []).map(problemWords),
      cells,
    })),
  };
}

const quoted = (cell: string): string => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
/** A spreadsheet would run such a cell as a formula; the apostrophe keeps it text. */
const harmless = (cell: string): string => (/^[=+\-@\t]/.test(cell) && !/^-?[\d.,]+$/.test(cell) ? `'${cell}` : cell);
const BATCH = 500;

/** The results file: one line a row of the import, with what became of it and why. */
export async function* resultsFile(db: Db, id: string): AsyncGenerator<string> {
  const { columns } = await getImport(db, id);
  const line = (cells: readonly string[]) => cells.map(harmless).map(quoted).join(',') + '\r\n';
  yield line(['Row', 'Outcome', 'Reason', ...columns.map(({ heading }) => heading)]);
  for (let from = 0; ; from += BATCH) {
    const { rows } = await importRows(db, id, { from, count: BATCH });
    if (rows.length === 0) return;
    yield rows.map((row) => line([String(row.row), row.outcome, row.reasons.join(' '), ...row.cells])).join('');
  }
}
