import { type AnswerOf, type calls } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { memberSql } from '../db/sql/questionSql.ts';
import { shelfAt, shelfColumn } from '../db/sql/shelfSql.ts';
import { type Shop } from '../asked/names.ts';

type Assortments = AnswerOf<typeof calls.getSku>['assortments'];

/** The assortments that an SKU is in, or is kept out of, and by what; where a landing did that by hand, when. */
export async function assortmentsOf(db: Db, shop: Shop, sku: string): Promise<Assortments> {
  const named = [...(shop.names.lists.get('assortment')?.byId ?? [])];
  if (named.length === 0) return [];
  const { register } = shop;
  const byHand = (key: 'putIn' | 'keptOut') => sql`coalesce(${shelfColumn(register.get(key))}::text[], '{}')`;
  const { rows } = await sql<{ product: string; put_in: string[]; kept_out: string[]; members: boolean[] }>`
    select s.product_id as product, ${byHand('putIn')} as put_in, ${byHand('keptOut')} as kept_out,
      array[${sql.join(named.map(([id]) => memberSql(id, shop)))}] as members
    from ${shelfAt(shop)} where s.sku_id = ${sku}`.execute(db.q);
  const [found] = rows;
  if (!found) return [];
  const at = await landedByHand(db, found.product);
  return named.flatMap(([id, name], i): Assortments => {
    if (found.kept_out.includes(id)) return [{ id, name, why: 'kept out', at: at.get(`keptOut ${id}`) ?? null }];
    if (!found.members[i]) return [];
    const isByHand = found.put_in.includes(id);
    return [{ id, name, why: isByHand ? 'by hand' : 'by rule', at: (isByHand && at.get(`putIn ${id}`)) || null }];
  });
}

/** When a product was last put into each assortment, or kept out of it, by field and assortment. */
async function landedByHand(db: Db, product: string): Promise<ReadonlyMap<string, string>> {
  const { rows } = await sql<{ field: string; id: string; at: Date }>`
    select c.field, x.id, max(l.at) as at
    from (
      select *, array_position(ids, ${product}::bigint) as i from journal_chunk
      where kind = 'product' and field in ('putIn', 'keptOut') and ${product}::bigint between first_id and last_id
    ) c
    join landing l on l.id = c.landing_id, unnest(string_to_array(c.after[c.i], '|')) as x (id)
    where c.i is not null and x.id <> all (string_to_array(coalesce(c.before[c.i], ''), '|'))
    group by c.field, x.id
  `.execute(db.q);
  return new Map(rows.map(({ field, id, at }) => [`${field} ${id}`, at.toISOString()]));
}
