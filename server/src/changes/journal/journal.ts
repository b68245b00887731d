import { type AnswerOf, type BodyOf, type calls, type Landing, type QueryOf, refusalWords } from '@ivory/contract';
import { codeKey, fold, keyWithScope, type KindKey, scopeOf, withoutScope } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from '../../db/connect.ts';
import { LANDING_TEXTS } from '../../db/sql/changedSql.ts';
import { startOfDay } from '../../db/sql/startOfDay.ts';
import { csvLines } from '../../csvLines.ts';
import { readShop } from '../../asked/names.ts';
import { withProductsOfLines } from '../../asked/productCodes.ts';
import { Refusal } from '../../refusal.ts';
import { nameOfThing, showLine } from '../lookedThrough/lines.ts';

interface LandingRow {
  id: string;
  at: Date;
  person: string;
  title: string;
  note: string;
  kind: string;
  lines: number;
  skus: number;
  takes_back: string | null;
  taken_back_by: string | null;
  left: number;
}

const LANDINGS = sql`
  select l.id, l.at, p.name as person, coalesce(l.name, l.title) as title, coalesce(l.note, '') as note, l.kind, l.lines, l.skus, l.takes_back,
    (select max(b.id) from landing b where b.takes_back = l.id) as taken_back_by,
    greatest(0, l.lines - (select coalesce(sum(b.lines), 0) from landing b where b.takes_back = l.id
      and not exists (select from landing again where again.takes_back = b.id)))::int as left
  from landing l join person p on p.id = l.person_id`;

const shown = ({ at, takes_back, taken_back_by, left, ...row }: LandingRow): Landing => ({
  ...row,
  at: at.toISOString(),
  takesBack: takes_back,
  takenBackBy: taken_back_by,
  leftToTakeBack: left,
});

/** What landed, newest first; of what a filter names. */
export async function listLandings(
  db: Db,
  { from, count, ...filter }: QueryOf<typeof calls.listLandings>,
): Promise<{ total: number; landings: Landing[] }> {
  const condition = named(filter);
  const [{ rows }, { rows: totals }] = await Promise.all([
    sql<LandingRow>`${LANDINGS} where ${condition} order by l.id desc limit ${count} offset ${from}`.execute(db.q),
    sql<{ total: number }>`select count(*)::int as total from landing l where ${condition}`.execute(db.q),
  ]);
  return { total: totals[0]!.total, landings: rows.map(shown) };
}

/** How many of the latest landings are offered as suggestions. */
const OFFERED_LANDINGS = 500;

/** Texts of the latest landings, each once, the latest first. */
export async function landingTexts(db: Db, field: keyof typeof LANDING_TEXTS): Promise<string[]> {
  const { rows } = await sql<{ text: string }>`
    select x.text from (select * from landing order by id desc limit ${OFFERED_LANDINGS}) l
    cross join lateral unnest(array[${sql.join(field === 'changedBy' ? LANDING_TEXTS[field].slice(0, 1) : LANDING_TEXTS[field])}]) as x (text)
    where x.text is not null group by x.text order by max(l.id) desc`.execute(db.q);
  return rows.map(({ text }) => text);
}

type LandingFilter = Omit<QueryOf<typeof calls.listLandings>, 'from' | 'count'>;

/** The landings that a filter names. Days are those of the shop. */
function named({ words, source, by, kind, field, code, since, until }: LandingFilter): RawBuilder<boolean> {
  const ofField =
    kind === undefined || field === undefined
      ? sql``
      : sql`and exists (select from journal_chunk c where c.landing_id = l.id and c.kind = ${kind}
          and c.field = ${withoutScope(field)} and c.scope = ${scopeOf(field)}::bigint)`;
  return sql<boolean>`true
    ${words === undefined || words === '' ? sql`` : sql`and strpos(fold(concat_ws(' ', l.name, l.title, l.note)), ${fold(words)}) > 0`}
    ${source === undefined ? sql`` : sql`and l.kind = ${source}`} ${ofField}
    ${by === undefined || by === '' ? sql`` : sql`and exists (select from person p where p.id = l.person_id and strpos(fold(p.name), ${fold(by)}) > 0)`}
    ${code === undefined || code === '' ? sql`` : sql`and ${touches(code)}`}
    ${since === undefined ? sql`` : sql`and l.at >= ${startOfDay(since)}`}
    ${until === undefined ? sql`` : sql`and l.at < ${startOfDay(until + 1)}`}`;
}

/** That a landing changed the SKU with a code, or its product. */
const touches = (code: string) => sql`l.id in (
  select c.landing_id from sku k join journal_chunk c
    on (c.kind = 'sku' and k.id between c.first_id and c.last_id and k.id = any(c.ids))
    or (c.kind = 'product' and k.product_id between c.first_id and c.last_id and k.product_id = any(c.ids))
  where k.code_key = ${codeKey(code)})`;

/** Gives a landing a name and a note; blank text takes them away. */
export async function noteLanding(db: Db, id: string, { name, note }: BodyOf<typeof calls.noteLanding>): Promise<void> {
  const { rows } = await sql`
    update landing set name = ${name === '' ? null : name}, note = ${note === '' ? null : note} where id = ${id} returning id
  `.execute(db.q);
  if (rows.length === 0) throw new Refusal('not found', refusalWords.changes.noSuchLanding);
}

export async function getLanding(db: Db, id: string): Promise<Landing> {
  const { rows } = await sql<LandingRow>`${LANDINGS} where l.id = ${id}`.execute(db.q);
  if (!rows[0]) throw new Refusal('not found', refusalWords.changes.noSuchLanding);
  return shown(rows[0]);
}

/** The journal's lines of one landing, one a row, from its chunks. */
export const journalLines = (landing: string | RawBuilder<unknown>) => sql`
  select c.kind, c.field, c.scope, x.id, x.before, x.after
  from journal_chunk c, unnest(c.ids, c.before, c.after) as x (id, before, after) where c.landing_id = ${landing}`;

type LineQuery = QueryOf<typeof calls.getLandingLines>;

/** Which lines of a landing are meant: those of a field, those of goods in whose name or code words stand. */
const filteredLines = (id: string, { kind, field, words }: Omit<LineQuery, 'from' | 'count'>) => sql`
  select j.* from (${journalLines(id)}) j where true
    ${kind === undefined || field === undefined ? sql`` : sql`and j.kind = ${kind} and j.field = ${withoutScope(field)} and j.scope = ${scopeOf(field)}::bigint`}
    ${
      words === undefined || words === ''
        ? sql``
        : sql`and ((j.kind = 'sku' and j.id in (select s.sku_id from shelf_words s where strpos(s.words, ${fold(words)}) > 0))
            or (j.kind = 'product' and j.id in (select p.id from product p where strpos(fold(p.name), ${fold(words)}) > 0)))`
    }`;

interface JournalLine {
  kind: KindKey;
  field: string;
  scope: string;
  id: string;
  before: string | null;
  after: string | null;
  code: string | null;
  name: string | null;
}

const namedLines = (lines: RawBuilder<unknown>) => sql<JournalLine>`
  select l.*, s.code, coalesce(s.name, p.name, ${nameOfThing}) as name
  from (${lines}) l
  left join shelf s on l.kind = 'sku' and s.sku_id = l.id
  left join product p on l.kind = 'product' and p.id = l.id
  order by l.kind, l.id, l.field, l.scope`;

/** Lines of a landing from any place, as text for reading, with how many the filter names, and the fields of the whole landing. */
export async function landingLines(
  db: Db,
  id: string,
  { from, count, ...filter }: LineQuery,
): Promise<Omit<AnswerOf<typeof calls.getLandingLines>, 'landing'>> {
  const shop = await readShop(db);
  const [{ rows }, { rows: totals }, { rows: fields }] = await Promise.all([
    namedLines(
      sql`select * from (${filteredLines(id, filter)}) lines order by kind, id, field, scope limit ${count} offset ${from}`,
    ).execute(db.q),
    sql<{ total: number }>`select count(*)::int as total from (${filteredLines(id, filter)}) lines`.execute(db.q),
    sql<{ kind: KindKey; field: string; scope: string; lines: number }>`
      select kind, field, scope, sum(cardinality(ids))::int as lines from journal_chunk where landing_id = ${id}
      group by kind, field, scope order by kind, field, scope`.execute(db.q),
  ]);
  const asking = await withProductsOfLines(db, shop, rows);
  return {
    total: totals[0]!.total,
    lines: rows.map((row) => showLine(row, asking)),
    fields: fields.map(({ kind, field, scope, lines }) => ({
      kind,
      field: keyWithScope(field, scope),
      called: shop.register.at(kind, field, scope)?.name ?? field,
      lines,
    })),
  };
}

const BATCH = 2_000;
const HEADINGS = ['Kind', 'Code', 'Name', 'What', 'Before', 'After'];

/** The lines of a landing that a filter names as CSV. */
export async function* landingFile(
  db: Db,
  id: string,
  filter: Omit<LineQuery, 'from' | 'count'>,
): AsyncGenerator<string> {
  yield csvLines([HEADINGS]);
  const shop = await readShop(db);
  for (let behind = { kind: '', id: '0', field: '', scope: '0' }; ;) {
    const { rows } = await namedLines(sql`
      select * from (${filteredLines(id, filter)}) lines
      where (kind, id, field, scope) > (${behind.kind}, ${behind.id}::bigint, ${behind.field}, ${behind.scope}::bigint)
      order by kind, id, field, scope limit ${BATCH}`).execute(db.q);
    if (rows.length === 0) return;
    behind = rows.at(-1)!;
    const asking = await withProductsOfLines(db, shop, rows);
    yield csvLines(
      rows.map((row) => {
        const { kind, code, name, called, before, after } = showLine(row, asking);
        return [kind, code ?? '', name, called, before ?? '', after ?? ''];
      }),
    );
  }
}
