import { type Landing, type ShownLine } from '@ivory/contract';
import { type KindKey } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../../db/connect.ts';
import { readShop } from '../../range/names.ts';
import { withProductsOfLines } from '../../range/productCodes.ts';
import { Refusal } from '../../refusal.ts';
import { nameOfThing, showLine } from '../proof/lines.ts';

interface LandingRow {
  id: string;
  at: Date;
  person: string;
  title: string;
  kind: string;
  lines: number;
  skus: number;
  takes_back: string | null;
  taken_back_by: string | null;
  left: number;
}

const LANDINGS = sql`
  select l.id, l.at, p.name as person, l.title, l.kind, l.lines, l.skus, l.takes_back,
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

/** What landed, newest first. */
export async function listLandings(
  db: Db,
  from: number,
  count: number,
): Promise<{ total: number; landings: Landing[] }> {
  const [{ rows }, { rows: totals }] = await Promise.all([
    sql<LandingRow>`${LANDINGS} order by l.id desc limit ${count} offset ${from}`.execute(db.q),
    sql<{ total: number }>`select count(*)::int as total from landing`.execute(db.q),
  ]);
  return { total: totals[0]!.total, landings: rows.map(shown) };
}

export async function getLanding(db: Db, id: string): Promise<Landing> {
  const { rows } = await sql<LandingRow>`${LANDINGS} where l.id = ${id}`.execute(db.q);
  if (!rows[0]) throw new Refusal('not found', 'There is no such landing in the journal.');
  return shown(rows[0]);
}

/** The journal's lines of one landing, one a row, from its chunks. */
export const journalLines = (landing: string) => sql`
  select c.kind, c.field, c.scope, x.id, x.before, x.after
  from journal_chunk c, unnest(c.ids, c.before, c.after) as x (id, before, after) where c.landing_id = ${landing}`;

/** Lines of a landing from any place, as text for reading. */
export async function landingLines(db: Db, id: string, from: number, count: number): Promise<ShownLine[]> {
  const { rows } = await sql<{
    kind: KindKey;
    field: string;
    scope: string;
    id: string;
    before: string | null;
    after: string | null;
    code: string | null;
    name: string | null;
  }>`
    select l.*, s.code, coalesce(s.name, p.name, ${nameOfThing}) as name
    from (select * from (${journalLines(id)}) lines order by kind, id, field, scope limit ${count} offset ${from}) l
    left join shelf s on l.kind = 'sku' and s.sku_id = l.id
    left join product p on l.kind = 'product' and p.id = l.id
    order by l.kind, l.id, l.field, l.scope
  `.execute(db.q);
  const asking = await withProductsOfLines(db, await readShop(db), rows);
  return rows.map((row) => showLine(row, asking));
}
