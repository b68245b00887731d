import { type Tx } from '@ivory/server';
import { sql } from 'kysely';

/** A sale of the demo: what it takes off, in canonical text, its days, whom it is for, and which products are in it. */
interface DemoSale {
  readonly name: string;
  readonly from: string | null;
  readonly until: string | null;
  readonly reduction: string | null;
  readonly group?: string;
  readonly above?: true;
  readonly note?: string;
  /** A condition on the product `p`. */
  readonly goods: string;
  /** Prices of its own, of the regular price `r.regular`; the others follow from what the sale takes off. */
  readonly price?: string;
}

const TO_99 = '99 100 0';
const SALES: readonly DemoSale[] = [
  {
    name: 'Back to school',
    from: '2026-08-24',
    until: '2026-09-12',
    reduction: `100000 0 ${TO_99}`,
    goods: 'p.id % 6 = 1',
  },
  {
    name: 'Autumn letters',
    from: '2026-10-12',
    until: '2026-11-01',
    reduction: `200000 0 ${TO_99}`,
    note: 'Over less than thirty days before Advent: what was in both may not be called reduced from the regular price.',
    goods: 'p.id % 100 = 50',
  },
  {
    name: 'Advent sale',
    from: '2026-11-20',
    until: '2026-12-23',
    reduction: null,
    goods: 'p.id % 25 = 0',
    price: 'round(r.regular * 0.85 / 50) * 50',
  },
  {
    name: 'Letters by candlelight',
    from: '2026-12-01',
    until: '2026-12-14',
    reduction: `150000 0 ${TO_99}`,
    note: 'For the evenings in which letters are written.',
    goods: 'p.id % 10 = 5',
  },
  {
    name: 'Inventory days',
    from: '2027-01-02',
    until: '2027-01-17',
    reduction: '300000 0 0 0 0',
    above: true,
    goods: 'p.id % 12 = 7',
  },
  {
    name: 'Spring sale',
    from: '2027-03-01',
    until: '2027-03-31',
    reduction: `200000 0 ${TO_99}`,
    goods: 'p.id % 25 = 1',
  },
  {
    name: 'Trade terms',
    from: '2026-09-01',
    until: null,
    reduction: '120000 0 0 0 0',
    group: 'Trade',
    goods: 'p.id % 3 = 0',
  },
];

/** Writes the sales of the demo, with the goods that are in them. */
export async function writeSales(tx: Tx): Promise<void> {
  for (const { name, from, until, reduction, group = null, above = false, note = null, goods, price } of SALES) {
    const { rows } = await sql<{ id: string }>`
      insert into sale (name, from_day, until_day, reduction, group_id, above, note)
      values (${name}, ${from}::date - date '1970-01-01', ${until}::date - date '1970-01-01', ${reduction},
        (select id from customer_group where name = ${group}), ${above}, ${note}) returning id`.execute(tx.q);
    await sql`
      insert into sale_line (sale_id, sku_id, price)
      select ${rows[0]!.id}, k.id, ${price === undefined ? sql`'rule'` : sql`(${sql.raw(price)})::bigint::text`}
      from product p join sku k on k.product_id = p.id join price r on r.sku_id = k.id where ${sql.raw(goods)}`.execute(
      tx.q,
    );
  }
  await writeRecord(tx);
}

/** The shop has been open for a while: prices and sales are on record since then, and some prices were raised in autumn. */
async function writeRecord(tx: Tx): Promise<void> {
  for (const statement of [
    `update price set since = '2026-02-02'`,
    `update sale set since = '2026-02-02'`,
    `delete from sale_line_past`,
    `insert into price_past (sku_id, since, until, regular, cost)
     select r.sku_id, r.since, '2026-11-09 09:20', greatest(1, r.regular - 50), r.cost
     from price r join sku k on k.id = r.sku_id where k.product_id % 25 = 3 and r.regular > 100`,
    `update price r set since = p.until from price_past p where p.sku_id = r.sku_id`,
  ])
    await sql.raw(statement).execute(tx.q);
}
