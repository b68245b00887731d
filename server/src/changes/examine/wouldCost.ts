import { BY_RULE } from '@ivory/core';
import { sql } from 'kysely';

/** The fields of a sale that decide what is announced: what it takes off, when, for whom and from how many pieces on. */
export const TERMS = ['reduction', 'from', 'fromTime', 'until', 'untilTime', 'group', 'fromPieces', 'above'];

/** What a sale would take off, in its parts: as the proof has it, or as it stands. */
const PARTS = ['off_percent', 'off_amount', 'digits', 'every', 'way'].map(
  (part, i) =>
    sql`case when r.id is null then ${sql.ref(`s.${part}`)} else split_part(r.after, ' ', ${sql.lit(i + 1)})::bigint end as ${sql.ref(part)}`,
);

/** The sales of the shop, and those that a proof makes, which have nothing but their lines. */
export const saleOfProof = (proof: string) => sql`(
  select id, name, from_day, from_minute, until_day, until_minute, above, group_id, least_pieces, off_percent, off_amount, digits, every, way from sale
  union all select e.id, coalesce(n.after, ''), null, null, null, null, false, g.after::bigint, p.after::int, null, null, null, null, null
  from live_line e left join live_line n on n.proof_id = e.proof_id and n.kind = 'sale' and n.id = e.id and n.field = 'name'
  left join live_line g on g.proof_id = e.proof_id and g.kind = 'sale' and g.id = e.id and g.field = 'group'
  left join live_line p on p.proof_id = e.proof_id and p.kind = 'sale' and p.id = e.id and p.field = 'fromPieces'
  where e.proof_id = ${proof} and e.kind = 'sale' and e.field = 'exists' and e.after is not null and e.id not in (select id from sale))`;

/**
 * What goods would cost in sales if the proof landed: `(sku_id, sale_id, is_line, is_live, regular, price)`, of all whose price in a sale is
 * proposed (`is_line`), be it left out (not `is_live`), and of all in a sale that itself would be another.
 */
export const wouldCost = (proof: string) => sql`
  select x.*, coalesce(nullif(x.said, ${BY_RULE})::bigint,
    reduced_price(x.regular, x.off_percent, x.off_amount, x.digits, x.every, x.way)) as price
  from (
    select t.sku_id, t.sale_id, t.is_line, t.is_live, t.said, coalesce(q.after::bigint, f.regular) as regular, ${sql.join(PARTS)}
    from (
      select l.id as sku_id, l.scope as sale_id, l.after as said, true as is_line, not l.left_out as is_live from proof_line l
        where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'salePrice' and l.before is distinct from l.after
      union all
      select l.sku_id, l.sale_id, l.price, false, true from sale_line l where l.sale_id in (${salesThemselves(proof)}) and not exists (
        select from live_line o where o.proof_id = ${proof} and o.kind = 'sku' and o.id = l.sku_id and o.field = 'salePrice' and o.scope = l.sale_id)
    ) t join ${saleOfProof(proof)} s on s.id = t.sale_id join price f on f.sku_id = t.sku_id
    left join live_line r on r.proof_id = ${proof} and r.kind = 'sale' and r.id = s.id and r.field = 'reduction'
    left join live_line q on q.proof_id = ${proof} and q.kind = 'sku' and q.id = t.sku_id and q.field = 'price'
    where t.said is not null offset 0) x
  -- The price is worked out once, and not again wherever it is compared.
  offset 0`;

/** Sales of which the proof changes what they take off or when they begin. */
export const salesThemselves = (proof: string) => sql`
  select id from live_line where proof_id = ${proof} and kind = 'sale' and field = any(${TERMS}::text[])
    and id in (select id from sale)`;
