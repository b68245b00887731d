import { type AnswerOf, type calls } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';

type Cleared = AnswerOf<typeof calls.listCleared>;

/** Archived goods, the latest made first; `comesBack` says that the proof in hand brings one back. */
export async function clearedAway(db: Db, person: string, from: number, count: number): Promise<Cleared> {
  const { rows } = await sql<Cleared['products'][number] & { total: number }>`
    select p.id, p.name, (select k.code from sku k where k.product_id = p.id order by k.id limit 1) as code,
      (select count(*)::int from sku k where k.product_id = p.id) as skus, (count(*) over ())::int as total,
      exists (select from live_line l join proof f on f.id = l.proof_id
        where f.person_id = ${person} and f.kind = 'hand' and f.state in ('open', 'landing')
          and l.kind = 'product' and l.id = p.id and l.field = 'clearedAway') as "comesBack"
    from product p where p.cleared_away order by p.id desc limit ${count} offset ${from}`.execute(db.q);
  return { total: rows[0]?.total ?? 0, products: rows.map(({ total: _, ...product }) => product) };
}
