import { type AnswerOf, type calls, type Import, problemWords, type QueryOf } from '@ivory/contract';
import { type FieldKey, harmlessCell, type Problem } from '@ivory/core';
import { stringify } from 'csv-stringify/sync';
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

interface StoredRow {
  row_no: number;
  outcome: Outcome;
  code: string;
  cells: string[];
  problems: Problem[] | null;
}

const reasonsOf = (problems: Problem[] | null): string[] => (problems ?? []).map(problemWords);

/** Rows of an import from any place, those with one outcome or all. */
export async function importRows(
  db: Db,
  id: string,
  { from, count, outcome }: QueryOf<typeof calls.getImportRows>,
): Promise<Rows> {
  const which = sql`import_id = ${id} ${outcome === undefined ? sql`` : sql`and outcome = ${outcome}`}`;
  const [{ rows: totals }, { rows }] = await Promise.all([
    sql<{ total: number }>`select count(*)::int as total from import_row where ${which}`.execute(db.q),
    sql<StoredRow>`
      select row_no, outcome, code, cells, problems from import_row where ${which} order by row_no limit ${count} offset ${from}
    `.execute(db.q),
  ]);
  return {
    total: totals[0]!.total,
    rows: rows.map(({ row_no, outcome, code, cells, problems }) => ({
      row: row_no,
      outcome,
      code,
      reasons: reasonsOf(problems),
      cells,
    })),
  };
}

const BATCH = 2_000;

/**
 * The results file: one line a row of the import, with what became of it and why. Refused rows stand there whole, so
 * that they can be mended in it and imported again; of the others the code, by which they are found to be the same.
 */
export async function* resultsFile(db: Db, id: string): AsyncGenerator<string> {
  const { columns, taken } = await columnsOf(db, id);
  const line = (cells: readonly string[]) => stringify([cells.map(harmlessCell)], { record_delimiter: 'windows' });
  yield line(['Row', 'Outcome', 'Reason', ...columns.map(({ heading }) => heading)]);
  for (let behind = 0; ;) {
    const { rows } = await sql<StoredRow>`
      select row_no, outcome, code, cells, problems from import_row
      where import_id = ${id} and row_no > ${behind} order by row_no limit ${BATCH}
    `.execute(db.q);
    if (rows.length === 0) return;
    behind = rows.at(-1)!.row_no;
    yield rows
      .map(({ row_no, outcome, code, cells, problems }) => {
        const shown = cells.length > 0 ? cells : columns.map((_, i) => (taken[i] === 'code' ? code : ''));
        return line([String(row_no), outcome, reasonsOf(problems).join(' '), ...shown]);
      })
      .join('');
  }
}

async function columnsOf(db: Db, id: string): Promise<{ columns: Import['columns']; taken: (FieldKey | null)[] }> {
  const { columns } = await getImport(db, id);
  const file = await db.q.selectFrom('import_file').select('settings').where('id', '=', id).executeTakeFirst();
  const settings = file?.settings as { columns: (FieldKey | null)[] } | null;
  return { columns, taken: settings?.columns ?? [] };
}
