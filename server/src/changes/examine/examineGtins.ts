import { warningBit } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';

const GTIN_TWICE = warningBit('GTIN twice');

/** Marks GTINs of a proof that another SKU has, in the shop or in the proof: a GTIN is of one trade item (GS1 General Specifications, 2.1). */
export async function examineGtins(tx: Tx, proof: string): Promise<void> {
  await sql`
    with given as (
      select l.id, lpad(l.after, 14, '0') as key, not l.left_out and l.before is distinct from l.after as lives
      from proof_line l where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'gtin'
    ),
    counted as (
      select g.*, count(*) filter (where g.lives) over (partition by g.key) > case when g.lives then 1 else 0 end as twice from given g
    ),
    found as (
      select c.id, c.key is not null and (c.twice or exists (
        select from sku k where lpad(k.gtin, 14, '0') = c.key and k.gtin is not null and k.id <> c.id
          and not exists (select from live_line o where o.proof_id = ${proof} and o.kind = 'sku' and o.field = 'gtin' and o.id = k.id)
      )) as twice from counted c
    )
    update proof_line l set flags = l.flags & ~${GTIN_TWICE}::int | case when f.twice then ${GTIN_TWICE}::int else 0 end
    from found f where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'gtin' and l.id = f.id
      and (l.flags & ${GTIN_TWICE}::int <> 0) <> f.twice`.execute(tx.q);
}
