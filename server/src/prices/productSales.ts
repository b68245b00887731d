import { type AnswerOf, type calls } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { type Shop } from '../asked/names.ts';
import { reducedPrice } from '../frames/priceInSale.ts';

type ProductSale = AnswerOf<typeof calls.getProduct>['sales'][number];

/** The sales that are not over and that SKUs of a product are in, also by what a person's proof in hand makes of them. */
export async function productSales(db: Db, person: string, product: string, shop: Shop): Promise<ProductSale[]> {
  const { rows } = await sql<ProductSale>`
    with hand as materialized (
      select l.* from live_line l join proof p on p.id = l.proof_id
      where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing')
    ),
    k as (select id, code from sku where product_id = ${product}),
    made as (
      select e.id, n.after as name, f.after::int as pieces from hand e left join hand n on n.kind = 'sale' and n.id = e.id and n.field = 'name'
      left join hand f on f.kind = 'sale' and f.id = e.id and f.field = 'fromPieces'
      where e.kind = 'sale' and e.field = 'exists' and e.after is not null
    ),
    sales as (
      select s.id, s.name, s.from_day, s.from_minute, s.until_day, s.until_minute, g.name as group_name, s.least_pieces, s.off_percent, s.off_amount,
        s.digits, s.every, s.way, s.starts from sale_span s left join customer_group g on g.id = s.group_id
      where s.until_day is null or s.until_day >= ${shop.today}
      union all select id, name, null, null, null, null, null, pieces, null, null, null, null, null, null from made
    ),
    priced as (
      select s.id as sale, k.id as sku, k.code, l.price, h.after as proposed, h.id is not null as is_proposed,
        ${reducedPrice(sql`p.regular`)} as comes_to
      from k cross join sales s join price p on p.sku_id = k.id
      left join sale_line l on l.sale_id = s.id and l.sku_id = k.id
      left join hand h on h.kind = 'sku' and h.field = 'salePrice' and h.scope = s.id and h.id = k.id
      where l.sku_id is not null or h.id is not null
    )
    select s.id::text as id, s.name, s.from_day as "from", s.from_minute as "fromTime", s.until_day as until, s.until_minute as "untilTime",
      s.group_name as "group", s.least_pieces as "fromPieces", (
        select json_agg(json_strip_nulls(json_build_object('proposed', case when x.is_proposed then coalesce(x.proposed, '') end))::jsonb ||
          jsonb_build_object('sku', k.id::text, 'code', k.code, 'price', x.price, 'comesTo', x.comes_to::text) order by k.id)
        from k left join priced x on x.sale = s.id and x.sku = k.id) as prices
    from sales s where exists (select from priced x where x.sale = s.id) order by s.least_pieces nulls first, s.starts nulls first, s.id`.execute(
    db.q,
  );
  return rows.map((sale) => ({
    ...sale,
    // A line that takes an SKU out of a sale proposes nothing.
    prices: sale.prices.map((one) => (one.proposed === '' ? { ...one, proposed: null } : one)),
  }));
}
