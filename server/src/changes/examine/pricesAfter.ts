import { type RawBuilder, sql } from 'kysely';
import { PRICE_IN_SALE } from '../../frames/priceInSale.ts';
import { type Tx } from '../../db/connect.ts';

const lineOf = (proof: string, line: string, field: 'price' | 'cost') => sql`left join live_line ${sql.ref(line)}
  on ${sql.ref(`${line}.proof_id`)} = ${proof} and ${sql.ref(`${line}.kind`)} = 'sku' and ${sql.ref(`${line}.id`)} = i.id
    and ${sql.ref(`${line}.field`)} = ${sql.lit(field)}`;

/**
 * What SKUs would cost shoppers and the shop if a proof landed: `(id, tax_bp, regular, cost, current)` of the ids that a query selects, with
 * the sales that run now for anybody.
 */
export function pricesAfter(tx: Tx, proof: string, ids: RawBuilder<unknown>): RawBuilder<unknown> {
  const now = sql`to_timestamp(${tx.clock()}::double precision / 1000)`;
  return sql`
    select p.*, least(p.regular, (
      select min(${PRICE_IN_SALE}) from sale_line l join sale_span s on s.id = l.sale_id
      where l.sku_id = p.id and s.group_id is null and s.least_pieces is null
        and (s.starts is null or s.starts <= ${now}) and (s.ends is null or s.ends > ${now}))) as current
    from (
      select i.id, f.tax_bp, case when lp.id is null then f.price else lp.after::bigint end as regular,
        case when lc.id is null then f.cost else lc.after::bigint end as cost
      from (${ids}) i join shelf_facts f on f.sku_id = i.id ${lineOf(proof, 'lp', 'price')} ${lineOf(proof, 'lc', 'cost')} offset 0) p`;
}
