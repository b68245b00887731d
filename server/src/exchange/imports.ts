import { type AnswerOf, type calls, type Import, problemWords, type QueryOf, refusalWords } from '@ivory/contract';
import { type FieldKey, type Problem } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { readShop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { csvLines } from '../csvLines.ts';

type Rows = AnswerOf<typeof calls.getImportRows>;
type Outcome = Rows['rows'][number]['outcome'];

/** The file of an import as it is kept. */
export async function fileOf(db: Db, id: string) {
  const file = await db.q.selectFrom('import_file').selectAll().where('id', '=', id).executeTakeFirst();
  if (!file) throw new Refusal('not found', refusalWords.exchange.noSuchImport);
  return file;
}

/** How an import stands: its columns as matched, and what became of its rows. */
export async function getImport(db: Db, id: string): Promise<Import> {
  const file = await fileOf(db, id);
  const { rows } = await sql<{ outcome: Outcome; rows: number }>`
    select outcome, count(*)::int as rows from import_row where import_id = ${id} group by outcome
    union all select 'same', coalesce(sum(cardinality(rows)), 0)::int from import_same where import_id = ${id}
  `.execute(db.q);
  const count = (outcome: Outcome) => rows.find((row) => row.outcome === outcome)?.rows ?? 0;
  const counts = { new: count('new'), changed: count('changed'), same: count('same'), refused: count('refused') };
  return {
    id,
    fileName: file.file_name,
    encoding: file.encoding,
    delimiter: file.delimiter,
    headingRow: file.heading_row,
    decimalSign: file.decimal_sign as Import['decimalSign'],
    columns: file.columns as Import['columns'],
    state: file.state as Import['state'],
    proof: file.proof_id,
    settings: file.settings as Import['settings'],
    counts: file.state === 'read' ? counts : null,
    joined: file.state === 'read' ? { rows: file.joined_rows, products: file.joined_products } : null,
    zeros: file.state === 'read' ? (file.zeros as Import['zeros']) : null,
  };
}

/** Notes that a file is being read, anew if it was before; gives its name. Refuses one that is being read already. */
export async function beginReading(tx: Tx, id: string): Promise<string> {
  const file = await tx.q
    .selectFrom('import_file')
    .select(['file_name', 'state'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirst();
  if (!file) throw new Refusal('not found', refusalWords.exchange.noSuchImport);
  if (file.state === 'reading') throw new Refusal('clash', refusalWords.exchange.isBeingRead);
  await tx.q.updateTable('import_file').set({ state: 'reading' }).where('id', '=', id).execute();
  return file.file_name;
}

interface StoredRow {
  row_no: number;
  outcome: Outcome;
  code: string;
  cells: string[];
  problems: Problem[] | null;
}

/** What became of the rows of an import whose numbers lie in a range. */
const outcomesOf = (id: string, above: number, upTo: number) => sql`
  select row_no, outcome, code, cells, problems from import_row
  where import_id = ${id} and row_no > ${above} and row_no <= ${upTo}
  union all
  select x.row_no, 'same', x.code, '{}', null from import_same c, unnest(c.rows, c.codes) as x (row_no, code)
  where c.import_id = ${id} and c.last_row > ${above} and c.first_row <= ${upTo} and x.row_no > ${above} and x.row_no <= ${upTo}`;
/** No file that may be read has more rows. */
const LAST = 2 ** 31 - 1;

const reasonsOf = (problems: Problem[] | null): string[] => (problems ?? []).map(problemWords);

/** Rows of an import from any place, those with one outcome or all. */
export async function importRows(
  db: Db,
  id: string,
  { from, count, outcome }: QueryOf<typeof calls.getImportRows>,
): Promise<Rows> {
  const which = sql`(${outcomesOf(id, 0, LAST)}) o ${outcome === undefined ? sql`` : sql`where outcome = ${outcome}`}`;
  const [{ rows: totals }, { rows }] = await Promise.all([
    sql<{ total: number }>`select count(*)::int as total from ${which}`.execute(db.q),
    sql<StoredRow>`
      select * from ${which} order by row_no limit ${count} offset ${from}
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
  const { register } = await readShop(db);
  const nameOf = (key: FieldKey | null | undefined) => (key ? register.find(key)?.name : undefined) ?? '';
  const headings = columns.map(({ heading }, i) => heading || nameOf(taken[i]));
  yield csvLines([['Row', 'Outcome', 'Reason', ...headings]]);
  const { rows: ends } = await sql<{ last: number | null }>`
    select greatest((select max(row_no) from import_row where import_id = ${id}),
      (select max(last_row) from import_same where import_id = ${id})) as last
  `.execute(db.q);
  for (let above = 0; above < (ends[0]!.last ?? 0); above += BATCH) {
    const { rows } = await sql<StoredRow>`
      select * from (${outcomesOf(id, above, above + BATCH)}) o order by row_no
    `.execute(db.q);
    yield csvLines(
      rows.map(({ row_no, outcome, code, cells, problems }) => {
        const shown = cells.length > 0 ? cells : columns.map((_, i) => (taken[i] === 'code' ? code : ''));
        return [String(row_no), outcome, reasonsOf(problems).join(' '), ...shown];
      }),
    );
  }
}

async function columnsOf(db: Db, id: string): Promise<{ columns: Import['columns']; taken: (FieldKey | null)[] }> {
  const { columns, settings } = await getImport(db, id);
  return { columns, taken: settings?.columns ?? [] };
}
