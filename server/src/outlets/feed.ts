import { type AnswerOf, type calls, type Outlet } from '@ivory/contract';
import {
  type FeedItem,
  type Moment,
  offeredWith,
  type OutletTerms,
  plain,
  type Question,
  readyOn,
  REFUSING_GAPS,
  RSS_TAIL,
  rssHead,
  rssWriter,
  toldOf,
  withoutPriceOn,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { countEach } from '../range/answers.ts';
import { readShop, type Shop } from '../range/names.ts';
import { Refusal } from '../refusal.ts';
import { feedItems } from './feedItems.ts';

/** What the file of an outlet is made of. */
export interface Feed {
  readonly settings: Outlet['settings'];
  readonly outlet: OutletTerms;
  readonly shop: Shop;
  readonly question: Question;
}

/** The feed of an outlet as it is looked at; refuses an outlet that is gone. */
export async function readFeed(db: Db, id: string): Promise<Feed> {
  const row = /^\d{1,18}$/.test(id)
    ? await db.q.selectFrom('outlet').select('settings').where('id', '=', id).executeTakeFirst()
    : undefined;
  if (!row) throw new Refusal('not found', 'There is no such outlet.');
  const shop = await readShop(db);
  const outlet = { id, formula: shop.outlets.find((one) => one.id === id)?.formula ?? null };
  return { settings: row.settings as Outlet['settings'], outlet, shop, question: readyOn(id) };
}

/** Its items, in batches, those that shoppers see. */
async function* itemsOf(tx: Tx, feed: Feed, moment: Moment): AsyncGenerator<readonly FeedItem[]> {
  const { settings, outlet, shop, question } = feed;
  const { link, names } = settings;
  const place = { outlet, link, moment, timeZone: shop.timeZone, struckBy: shop.struckBy };
  const isStruckTold = names.StrikethroughPrice !== '' || names.priceSpecification !== '';
  const told = { withPrior: isStruckTold, withShipping: names.shippingDetails !== '' };
  for await (const batch of feedItems(tx, question, shop, { ...place, ...told }))
    yield batch.filter(({ availability }) => availability.seen);
}

/** The feed as text, in pieces as they are made; `written` is told the items of each piece. */
export async function* feedText(
  tx: Tx,
  feed: Feed,
  moment: Moment,
  written?: (items: readonly FeedItem[]) => Promise<void>,
): AsyncGenerator<string> {
  const { settings, shop } = feed;
  const write = rssWriter(settings, shop.names.currency);
  yield rssHead(settings);
  for await (const items of itemsOf(tx, feed, moment)) {
    let piece = '';
    for (const item of items) piece += write(item);
    yield piece;
    await written?.(items);
  }
  yield RSS_TAIL;
}

const NOT_SEEN = 'not offered';
const NO_PRICE = 'price below nothing';

/** What the file says of one SKU at the moment; or why it does not have it. */
export async function tellOutlet(db: Db, id: string, sku: string): Promise<AnswerOf<typeof calls.tellOutlet>> {
  const feed = await readFeed(db, id);
  const { rows } = await sql<{ code: string }>`select code from sku where id = ${sku}::bigint`.execute(db.q);
  const code = rows[0]?.code;
  if (code === undefined) throw new Refusal('not found', 'This SKU is not in the shop any more.');
  const ofSku = (question: Question): Question =>
    plain({ kind: 'all', of: [{ kind: 'compare', field: 'code', comparison: 'is', values: [code] }, question] });
  const moment = db.clock();
  const items = await inTransaction(db, async (tx) => {
    const found: FeedItem[] = [];
    for await (const batch of itemsOf(tx, { ...feed, question: ofSku(feed.question) }, moment)) found.push(...batch);
    return found;
  });
  const [item] = items;
  if (item) return { fields: toldOf(item, feed.settings, feed.shop.names.currency), without: [] };
  const reasons = [
    ...REFUSING_GAPS.map((gap) => ({ reason: gap, question: offeredWith(gap) })),
    { reason: NO_PRICE, question: withoutPriceOn(id) },
  ];
  const counts = await countEach(
    db,
    reasons.map(({ question }) => ofSku(question)),
    feed.shop,
  );
  const without = reasons.flatMap(({ reason }, i) => ((counts[i] ?? 0) > 0 ? [reason] : []));
  return { fields: [], without: without.length > 0 ? without : [NOT_SEEN] };
}
