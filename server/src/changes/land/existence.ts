import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { Overtaken } from './overtaken.ts';

const value = (field: string) => sql`max(after) filter (where field = ${field})`;

/** Makes what a proof makes: names first, then products, then SKUs with price and stock. Ids were given when proposed. */
export async function insertNew(tx: Tx, proof: string, landing: string, person: string): Promise<void> {
  const fresh = (level: string) => sql`
    from live_line where proof_id = ${proof} and level = ${level} group by id
    having bool_or(field = 'exists' and after is not null)`;
  for (const level of ['brand', 'supplier']) {
    await sql`insert into ${sql.table(level)} (id, name) select id, ${value('name')} ${fresh(level)}`.execute(tx.q);
  }
  // Parents have lower ids than what hangs on them: ids are given from the root down.
  await sql`
    insert into category (id, parent_id, name, place)
    select id, nullif(${value('exists')}, '')::bigint, ${value('name')}, id ${fresh('category')} order by id
  `.execute(tx.q);
  await sql`
    insert into product (id, slug, name, description, brand_id, supplier_id, stage, tax_bp, when_out)
    select n.id, n.slug, n.name, n.description, n.brand::bigint, n.supplier::bigint,
      coalesce(n.stage, 'Preparing'), coalesce(n.tax::int, 2000),
      coalesce(n.when_out, 'show it as sold out')
    from (select id, ${value('exists')} as slug, ${value('name')} as name, ${value('description')} as description,
      ${value('brand')} as brand, ${value('supplier')} as supplier, ${value('stage')} as stage, ${value('taxRate')} as tax,
      ${value('whenOut')} as when_out
      ${fresh('product')}) n
  `.execute(tx.q);
  await placeProducts(
    tx,
    sql`select id, ${value('category')} as after ${fresh('product')} and bool_or(field = 'category')`,
  );
  await insertSkus(tx, fresh('sku'), landing, person);
}

/** New SKUs go into three tables: their lines, which may be very many, are gathered once. */
async function insertSkus(tx: Tx, fresh: RawBuilder<unknown>, landing: string, person: string): Promise<void> {
  await sql`
    create temp table new_sku on commit drop as
    select id, (${value('exists')})::bigint as product_id, ${value('code')} as code, ${value('colour')} as colour,
      ${value('size')} as size, ${value('gtin')} as gtin, (${value('weight')})::int as weight_g,
      (${value('price')})::bigint as price, (${value('cost')})::bigint as cost, (${value('stock')})::int as stock ${fresh}
  `.execute(tx.q);
  await sql`
    insert into sku (id, product_id, code, colour, size, gtin, weight_g)
    select id, product_id, code, colour, size, gtin, weight_g from new_sku
  `.execute(tx.q);
  await sql`insert into price (sku_id, regular, cost) select id, price, cost from new_sku`.execute(tx.q);
  await sql`
    insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
    select id, stock, 'count', ${person}, ${landing} from new_sku where stock <> 0
  `.execute(tx.q);
}

/**
 * New products whose address was taken since they were proposed get another, by their number; the proof's line says so before
 * the journal is written from it.
 */
export async function giveFreeSlugs(tx: Tx, proof: string): Promise<void> {
  for (let clashes = 1; clashes > 0;) {
    const result = await sql`
      update proof_line l set after = l.after || '-' || l.id
      where l.proof_id = ${proof} and l.level = 'product' and l.field = 'exists' and not l.left_out
        and exists (select from product p where p.slug = l.after)
    `.execute(tx.q);
    clashes = Number(result.numAffectedRows);
  }
}

/**
 * Removes what a proof takes away, SKUs first. Stock that lay there is moved out; movements stay. What is not there any more
 * throws Overtaken; what others hang on cannot go, and fails the landing whole.
 */
export async function removeGone(tx: Tx, proof: string, landing: string, person: string): Promise<void> {
  const gone = (level: string) => sql`
    l.proof_id = ${proof} and l.level = ${level} and l.field = 'exists' and l.after is null`;
  await sql`
    insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
    select l.id, -t.on_hand, 'correction', ${person}, ${landing}
    from live_line l join stock_total t on t.sku_id = l.id where ${gone('sku')} and t.on_hand <> 0
  `.execute(tx.q);
  for (const level of ['sku', 'product', 'category', 'brand', 'supplier']) {
    const { rows } = await sql<{ lines: number }>`
      select count(*)::int as lines from live_line l where ${gone(level)}`.execute(tx.q);
    const { lines } = rows[0]!;
    if (lines === 0) continue;
    const { numAffectedRows } = await sql`
      delete from ${sql.table(level)} t using live_line l where ${gone(level)} and t.id = l.id
    `.execute(tx.q);
    if (Number(numAffectedRows) !== lines) throw new Overtaken();
  }
}

/** Puts products where `id, after` pairs say. */
export async function placeProducts(tx: Tx, pairs: RawBuilder<unknown>): Promise<void> {
  await sql`
    insert into placement (product_id, category_id, place)
    select x.id, c.id::bigint, c.place - 1 from (${pairs}) x, unnest(string_to_array(x.after, '|')) with ordinality as c (id, place)
  `.execute(tx.q);
}
