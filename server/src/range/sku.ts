import { type AnswerOf, type calls } from '@ivory/contract';
import {
  availability,
  type Candidate,
  keyWithScope,
  money,
  priceAt,
  type SalePrice,
  showValue,
  type Stage,
  type WhenOut,
  type Moment,
  momentOf,
} from '@ivory/core';
import { sql } from 'kysely';
import { amountOf } from '../db/amount.ts';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { readShop, type Shop } from './names.ts';
import { pendingOnSkus, rowsOf } from './rows.ts';

type Sku = AnswerOf<typeof calls.getSku>;
const HISTORY = 30;
const iso = (moment: Moment | null): string | null => (moment === null ? null : new Date(moment).toISOString());

/** One SKU in detail: its row, what it costs the shopper now and why, what outlets said of it, and its history. */
export async function getSku(db: Db, person: string, id: string, moment: Moment, storefront: string): Promise<Sku> {
  const shop = await readShop(db);
  const { columns, rows } = await rowsOf(db, [id], shop);
  const row = rows[0]!;
  if (row.length === 1) throw new Refusal('not found', 'This SKU is not in the shop any more.');
  const [more, sales, replies, history, pending] = await Promise.all([
    sql<{
      description: string | null;
      slug: string;
      stage: Stage;
      when_out: WhenOut;
      stock: number;
      price: string | null;
      variants: number;
    }>`
      select p.description, p.slug, p.stage, p.when_out, s.stock, s.price,
        (select count(*)::int from sku k where k.product_id = p.id) as variants
      from shelf s join product p on p.id = s.product_id where s.sku_id = ${id}
    `.execute(db.q),
    salesOf(db, [id]),
    repliesOf(db, id),
    historyOf(db, shop, id, row[1]!),
    pendingOnSkus(db, person, [id]),
  ]);
  const { description, slug, stage, when_out, stock, price, variants } = more.rows[0]!;
  const answer = priceAt(amountOf(price), sales.get(id) ?? [], moment);
  const can = availability({ stage, stock, whenOut: when_out, hasPrice: price !== null });
  return {
    columns,
    row,
    description: description ?? '',
    variants,
    pending,
    availability: { state: can.state, why: 'why' in can ? can.why : null },
    candidates: answer.candidates.map((candidate) => shown(candidate, answer.winner)),
    replies,
    history,
    shopAddress: `${storefront}/products/${slug}`,
  };
}

const shown = (candidate: Candidate, winner: Candidate | undefined): Sku['candidates'][number] => ({
  price: candidate.price.toString(),
  source: candidate.source,
  name: candidate.name ?? null,
  start: iso(candidate.start),
  end: iso(candidate.end),
  why: candidate.why,
  wins: candidate === winner,
});

/** Sale prices of some SKUs, with their windows in milliseconds. */
export async function salesOf(db: Db, skus: readonly string[]): Promise<Map<string, SalePrice[]>> {
  const { rows } = await sql<{ sku_id: string; sale: string; price: string; start: Date | null; end: Date | null }>`
    select sku_id, sale, price, lower(span) as start, upper(span) as end from sale_price
    where sku_id = any(${skus}::bigint[]) order by sku_id, lower(span)
  `.execute(db.q);
  const sales = new Map<string, SalePrice[]>();
  for (const row of rows) {
    const sale = {
      name: row.sale,
      price: money(BigInt(row.price)),
      start: row.start ? momentOf(row.start.getTime()) : null,
      end: row.end ? momentOf(row.end.getTime()) : null,
    };
    sales.set(row.sku_id, [...(sales.get(row.sku_id) ?? []), sale]);
  }
  return sales;
}

async function repliesOf(db: Db, id: string): Promise<Sku['replies']> {
  const { rows } = await sql<{ outlet: string; delivery: string; at: Date; state: 'accepted'; messages: string[] }>`
    select o.name as outlet, r.delivery_id as delivery, d.at, r.state, r.messages
    from reply r join outlet o on o.id = r.outlet_id join delivery d on d.id = r.delivery_id where r.sku_id = ${id}
  `.execute(db.q);
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }));
}

async function historyOf(db: Db, { register, names }: Shop, sku: string, product: string): Promise<Sku['history']> {
  const { rows } = await sql<{
    landing: string;
    at: Date;
    title: string;
    kind: string;
    field: string;
    scope: string;
    before: string | null;
    after: string | null;
  }>`
    select l.id as landing, l.at, l.title, c.kind, c.field, c.scope, c.before[i.i] as before, c.after[i.i] as after
    from (
      select *, array_position(ids, id) as i from (
        select c.*, w.id from journal_chunk c, (values ('sku', ${sku}::bigint), ('product', ${product}::bigint)) as w (kind, id)
        where c.kind = w.kind and w.id between c.first_id and c.last_id) near
    ) c
    cross join lateral (select c.i as i) i
    join landing l on l.id = c.landing_id
    where c.i is not null and c.field <> 'exists' order by l.id desc, c.field limit ${HISTORY}
  `.execute(db.q);
  return rows.map(({ at, kind, field: key, scope, before, after, ...row }) => {
    const field = register.at(kind, key, scope);
    const show = (value: string | null) => (value !== null && field ? showValue(field, value, names) : value);
    const called = field?.name ?? 'a field that is not there';
    return {
      ...row,
      at: at.toISOString(),
      field: keyWithScope(key, scope),
      called,
      before: show(before),
      after: show(after),
    };
  });
}
