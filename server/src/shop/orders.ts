import { type AnswerOf, type BodyOf, type calls, type WantedLine, refusalWords } from '@ivory/contract';
import { codeKey } from '@ivory/core';
import { sql } from 'kysely';
import { landIn } from '../changes/land/land.ts';
import { OvertakenError } from '../changes/stores/overtakenError.ts';
import { isDeadlock } from '../db/deadlock.ts';
import { beginEdit } from '../changes/proof/proof.ts';
import { type Db, inShortTransaction, type Tx } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { shippedBasket, shippedTo } from './shippedTo.ts';
import { productsWhere } from './storefrontApi.ts';

type Basket = AnswerOf<typeof calls.shopBasket>;
type BasketLine = Basket['lines'][number];
type Order = AnswerOf<typeof calls.placeOrder>;

/** What a basket comes to, and why lines of it cannot be had as they are wanted. */
export async function basketOf(db: Db, wanted: readonly WantedLine[], country: string | null): Promise<Basket> {
  const keys = wanted.map(({ code }) => codeKey(code));
  const products = await productsWhere(db, sql`select k.product_id from sku k where k.code_key = any(${keys}::text[])`);
  const left = await leftOf(db, keys);
  const found = new Map(
    products.flatMap((product) =>
      product.variants.map((variant) => [codeKey(variant.code), { product, variant }] as const),
    ),
  );
  const lines: BasketLine[] = [];
  const gone: string[] = [];
  const already = new Map<string, number>();
  const pieces = new Map<string, number>();
  for (const { code, quantity } of wanted) pieces.set(codeKey(code), (pieces.get(codeKey(code)) ?? 0) + quantity);
  for (const line of wanted) {
    const key = codeKey(line.code);
    const there = found.get(key);
    if (!there) {
      gone.push(line.code);
      continue;
    }
    const { product, variant } = there;
    const { personal } = product;
    const charge = line.text !== '' && personal ? BigInt(personal.charge) : 0n;
    // However many lines it stands in, all of it counts for the price of each piece.
    const each = variant.steps.findLast(({ from }) => from <= pieces.get(key)!)?.price ?? variant.price;
    const price = BigInt(each) + charge;
    // The same SKU may stand in several lines, with another text each.
    const together = (already.get(key) ?? 0) + line.quantity;
    already.set(key, together);
    lines.push({
      ...line,
      code: variant.code,
      slug: product.slug,
      name: product.name,
      options: variant.options,
      price: price.toString(),
      sum: (price * BigInt(line.quantity)).toString(),
      problem:
        whyNot(variant.state, together, left.get(key) ?? 0) ?? whyNotWritten(line.text, personal?.longest ?? null),
    });
  }
  const total = lines.reduce((sum, line) => sum + BigInt(line.sum), 0n);
  const basket = { lines, gone, total: total.toString() };
  return { ...basket, ...(await shippedBasket(db, basket, country)), countries: await shippedTo(db) };
}

/** Why so many cannot be had now; undefined where they can. */
function whyNot(state: string, quantity: number, left: number): string | undefined {
  if (state === 'back-order') return undefined;
  if (state !== 'in stock') return refusalWords.shop.notBought;
  return quantity > left ? refusalWords.shop.fewLeft(left) : undefined;
}

function whyNotWritten(text: string, longest: number | null): string | null {
  if (text === '') return null;
  if (longest === null) return refusalWords.shop.noTextOnIt;
  return [...text].length > longest ? refusalWords.shop.textTooLong(longest) : null;
}

/** How many there are of each SKU, by the key of its code; of what takes back-orders when it runs out there are always enough. */
async function leftOf({ q }: Pick<Db, 'q'>, keys: readonly string[]): Promise<ReadonlyMap<string, number>> {
  const { rows } = await sql<{ code_key: string; left: number }>`
    select s.code_key, case when p.when_out = 'take back-orders' then ${MANY} else s.stock end as left
    from shelf s join product p on p.id = s.product_id where s.code_key = any(${keys}::text[])`.execute(q);
  return new Map(rows.map(({ code_key, left }) => [code_key, left]));
}

/** More than any order has. */
const MANY = 1_000_000;
const MOST_TRIES = 5;

/**
 * Takes an order: its goods leave the stock by a landing of its own, in one transaction with the order. The same key is the same
 * order. Refuses an order of which a line cannot be had as it is wanted, with which and why; then nothing is taken.
 */
export async function placeOrder(db: Db, { key, lines, country }: BodyOf<typeof calls.placeOrder>): Promise<Order> {
  for (let tries = 1; ; tries++) {
    const before = await orderOf(db, key);
    if (before) return before;
    const basket = await basketOf(db, lines, country);
    refuseWhatIsNotThere(basket);
    try {
      return await inShortTransaction(db, (tx) => takeOrder(tx, key, basket, country));
    } catch (error) {
      // Somebody bought or changed the same meanwhile: what is left is looked at again.
      if (!(error instanceof OvertakenError || isDeadlock(error))) throw error;
      if (tries >= MOST_TRIES) throw new Refusal('busy', refusalWords.shop.manyBuyAtOnce);
    }
  }
}

async function orderOf({ q }: Pick<Db, 'q'>, key: string): Promise<Order | undefined> {
  const { rows } = await sql<Order>`
    select id as order, lines ->> 'total' as total from shop_order where key = ${key}`.execute(q);
  return rows[0];
}

function refuseWhatIsNotThere(basket: Basket): void {
  const { lines, gone } = basket;
  const why = [
    ...(basket.notShipped === null ? [] : [basket.notShipped]),
    ...gone.map((code) => `${code} is not in the shop any more.`),
    ...lines.flatMap(({ code, problem }) => (problem === null ? [] : [`${code}: ${problem}`])),
  ];
  if (why.length > 0) throw new Refusal('not valid', refusalWords.shop.orderNotTaken(why));
}

async function takeOrder(tx: Tx, key: string, basket: Basket, country: string | null): Promise<Order> {
  const { lines, shipping } = basket;
  const total = basket.withShipping ?? basket.total;
  const { rows: orders } = await sql<{ id: string }>`
    insert into shop_order (key, lines) values (${key}, ${JSON.stringify({ total, lines, shipping, country })}::jsonb)
    on conflict (key) do nothing returning id`.execute(tx.q);
  const [order] = orders;
  // The same order was sent twice at once: the other one takes it.
  if (!order) throw new OvertakenError();
  const title = `Order ${order.id} of the shop`;
  // Nobody of the shop's people did it.
  const { id: shop } = await tx.q
    .selectFrom('person')
    .select('id')
    .where('is_shop', '=', true)
    .executeTakeFirstOrThrow();
  const { id: proof } = await tx.q
    .insertInto('proof')
    .values({ person_id: shop, kind: 'order', title, takes_back: null, import_id: null })
    .returning('id')
    .executeTakeFirstOrThrow();
  const edit = await beginEdit(tx, proof, title);
  const taken = await takenBy(tx, lines);
  // What was there when the basket was looked at may be gone; and what is in a set is in no line of its own.
  const short = taken.find(({ left, quantity, may_run_out }) => !may_run_out && left < quantity);
  if (short) throw new Refusal('not valid', refusalWords.shop.orderTooLarge(short.code, short.left, short.quantity));
  await sql`
    insert into proof_line (proof_id, edit_no, kind, id, field, before, after)
    select ${proof}::bigint, ${edit}::int, 'sku', x.id, 'stock', x.left::text, (x.left - x.quantity)::text
    from unnest(${taken.map(({ id }) => id)}::bigint[], ${taken.map(({ left }) => left)}::int[],
      ${taken.map(({ quantity }) => quantity)}::int[]) as x (id, "left", quantity)`.execute(tx.q);
  const landing = await landIn(tx, proof, shop);
  await sql`update shop_order set landing_id = ${landing} where id = ${order.id}`.execute(tx.q);
  return { order: order.id, total };
}

interface Taken {
  readonly id: string;
  readonly code: string;
  readonly left: number;
  readonly quantity: number;
  /** It is ordered back when it runs out. */
  readonly may_run_out: boolean;
}

/** The SKUs that an order takes out of the stock, how many of each, and how many there are; of a set its parts. */
async function takenBy(tx: Tx, lines: readonly BasketLine[]): Promise<readonly Taken[]> {
  const counts = new Map<string, number>();
  for (const { code, quantity } of lines) counts.set(codeKey(code), (counts.get(codeKey(code)) ?? 0) + quantity);
  const { rows } = await sql<Taken>`
    select w.id, c.code, coalesce(t.on_hand, 0)::int as left, w.quantity, w.may_run_out
    from (
      select coalesce(x.part_id, k.id) as id, sum(o.quantity * coalesce(x.times, 1))::int as quantity,
        bool_and(p.when_out = 'take back-orders') as may_run_out
      from unnest(${[...counts.keys()]}::text[], ${[...counts.values()]}::int[]) as o (code_key, quantity)
      join sku k on k.code_key = o.code_key join product p on p.id = k.product_id left join sku_part x on x.sku_id = k.id
      group by 1) w
    join sku c on c.id = w.id left join stock_total t on t.sku_id = w.id`.execute(tx.q);
  return rows;
}
