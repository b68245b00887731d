import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';

const BATCH = 10_000;
/** The tax rate of goods that are not made yet, in basis points: the column's default. */
const STANDARD_TAX = 2_000;

/** The money of an SKU before and after a change; `flags` as written down before, where its lines agree. */
export interface MoneyRow {
  id: string;
  /** Whether the SKU is there already. */
  stands: boolean;
  price: string | null;
  cost: string | null;
  price_after: string | null;
  cost_after: string | null;
  tax_bp: number;
  /** The rate that it would have. */
  tax_after: number;
  /** The flags that its lines had before; null where they differ, or were never examined. */
  flags: number | null;
}

/** The flags that the lines of an SKU have in common; lines that were never examined have none. */
export const commonFlags = (flags: RawBuilder<unknown>) =>
  sql`case when min(${flags}) = max(${flags}) then min(${flags}) end`;

/** The fields of products by which their tax rate changes. */
export const RATE_FIELDS: readonly string[] = ['taxRate', 'taxClass'];

/** The rate that a line `l` of one of those fields gives; null where it leaves the rate as it is. */
export const RATE_OF_LINE = sql`case l.field when 'taxRate' then l.after::int
  else (select rate_on(c.rates, shop_today()) from tax_class c where c.id = l.after::bigint) end`;

/** A query for the tax rates `(product_id, rate)` that some lines give to products; a class wins over a rate of their own. */
export const ratesOf = (lines: RawBuilder<unknown>) => sql`
  select distinct on (product_id) product_id, rate from (
    select l.id as product_id, ${RATE_OF_LINE} as rate, l.field from (${lines}) l
    where l.kind = 'product' and l.field = any(${RATE_FIELDS}::text[])
  ) given where rate is not null order by product_id, field`;

/**
 * The money of every SKU whose price or cost some lines change, before and after; not of those that go. `rates` are tax rates
 * that products would have, where any change.
 */
export const moneyRows = (
  lines: RawBuilder<unknown>,
  flags: RawBuilder<unknown> = sql`null::int`,
  rates?: RawBuilder<unknown>,
) => sql<MoneyRow>`
  select t.id, s.sku_id is not null as stands, s.price, s.cost, case when has_price then t.price else s.price::text end as price_after,
    case when has_cost then t.cost else s.cost::text end as cost_after, coalesce(s.tax_bp, ${STANDARD_TAX}) as tax_bp,
    coalesce(${rates ? sql`n.rate` : sql`null::int`}, s.tax_bp, ${STANDARD_TAX}) as tax_after, t.flags
  from (
    select id, max(after) filter (where field = 'price') as price, bool_or(field = 'price') as has_price,
      max(after) filter (where field = 'cost') as cost, bool_or(field = 'cost') as has_cost,
      ${flags} as flags, max(after) filter (where field = 'exists') as made_of
    from (${lines}) l where kind = 'sku' and field in ('price', 'cost', 'exists') group by id
    having bool_or(field <> 'exists') and not bool_or(field = 'exists' and after is null)
  ) t left join shelf_facts s on s.sku_id = t.id
  ${rates ? sql`left join (${rates}) n on n.product_id = coalesce(s.product_id, t.made_of::bigint)` : sql``}`;

export async function* atOnce(tx: Tx, query: RawBuilder<MoneyRow>): AsyncGenerator<MoneyRow[]> {
  yield (await query.execute(tx.q)).rows;
}

/** Rows in batches, so that memory does not grow with the proof, and the connection is free between them. */
export async function* batches(tx: Tx, query: RawBuilder<MoneyRow>): AsyncGenerator<MoneyRow[]> {
  await sql`declare money no scroll cursor for ${query} order by id`.execute(tx.q);
  for (;;) {
    const { rows } = await sql<MoneyRow>`fetch ${sql.lit(BATCH)} from money`.execute(tx.q);
    if (rows.length === 0) break;
    yield rows;
  }
  await sql`close money`.execute(tx.q);
}
