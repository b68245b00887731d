import { type AnswerOf, type calls, type OutletSettings, outletSettingsOf, refusalWords } from '@ivory/contract';
import {
  type FeedItem,
  localDay,
  type Moment,
  offeredWith,
  outletPricing,
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
import { type Db, inSnapshot, type Tx } from '../db/connect.ts';
import { countEach } from '../asked/answers.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { keepPriors } from '../frames/framePriors.ts';
import { feedItems, priorsAsked } from './feedItems.ts';

/** What the file of an outlet is made of. */
export interface Feed {
  readonly settings: OutletSettings;
  readonly outlet: OutletTerms;
  readonly shop: Shop;
  readonly question: Question;
}

/**
 * Works on the feed of an outlet at a moment, all of it in one snapshot of the shop: prices, goods and what they are read with agree. Refuses an
 * outlet that is gone.
 */
export async function withFeed<T>(
  db: Db,
  id: string,
  moment: Moment,
  work: (tx: Tx, feed: Feed) => Promise<T>,
): Promise<T> {
  const then = { ...db, clock: () => moment };
  // Within a transaction the prices of the moment are not worked out for all: they are to stand before it begins.
  await readShop(then);
  return inSnapshot(then, async (tx) => work(tx, await readFeed(tx, id)));
}

/** What an outlet sets of its file; refuses an outlet that is gone. */
export async function outletSettings({ q }: Pick<Tx, 'q'>, id: string): Promise<OutletSettings> {
  const row = /^\d{1,18}$/.test(id)
    ? await q.selectFrom('outlet').select('settings').where('id', '=', id).executeTakeFirst()
    : undefined;
  if (!row) throw new Refusal('not found', refusalWords.outlets.noSuchOutlet);
  return outletSettingsOf(row.settings);
}

async function readFeed(db: Db | Tx, id: string): Promise<Feed> {
  const settings = await outletSettings(db, id);
  const shop = await readShop(db);
  const outlet = { id, formula: shop.outlets.find((one) => one.id === id)?.formula ?? null };
  return { settings, outlet, shop, question: readyOn(id) };
}

/** Whether prior prices stand in the file: what an outlet that has a formula asked in the thirty days before is not on record. */
function tellsPriors({ settings: { names }, shop, outlet }: Feed, moment: Moment): boolean {
  const isStruckTold = names.StrikethroughPrice !== '' || names.priceSpecification !== '';
  return (
    isStruckTold &&
    shop.struckBy === 'prior price' &&
    !outletPricing(outlet.formula, localDay(moment, shop.timeZone), null)
  );
}

/** Finds what of a feed takes long and holds for a while, and keeps it for this file and those that come after it. */
export async function prepareFeed(db: Db, id: string, moment: Moment): Promise<void> {
  const feed = await readFeed({ ...db, clock: () => moment }, id);
  const { shop, question } = feed;
  if (tellsPriors(feed, moment)) await keepPriors(db, priorsAsked(question, shop, moment, shop.timeZone));
}

/** Its items, in batches, those that shoppers see. */
async function* itemsOf(tx: Tx, feed: Feed): AsyncGenerator<readonly FeedItem[]> {
  const { settings, outlet, shop, question } = feed;
  const moment = tx.clock();
  const { link, names } = settings;
  const place = { outlet, link, moment, timeZone: shop.timeZone, struckBy: shop.struckBy };
  const told = { withPriors: tellsPriors(feed, moment), withShipping: names.shippingDetails !== '' };
  for await (const batch of feedItems(tx, question, shop, { ...place, ...told }))
    yield batch.filter(({ availability }) => availability.seen);
}

/** The feed as text, in pieces as they are made; `written` is told the items of each piece. */
export async function* feedText(
  tx: Tx,
  feed: Feed,
  written?: (items: readonly FeedItem[]) => Promise<void>,
): AsyncGenerator<string> {
  const { settings, shop } = feed;
  const write = rssWriter(settings, shop.names.currency);
  yield rssHead(settings);
  for await (const items of itemsOf(tx, feed)) {
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
export const tellOutlet = (db: Db, id: string, sku: string): Promise<AnswerOf<typeof calls.tellOutlet>> =>
  withFeed(db, id, db.clock(), async (tx, feed) => {
    const { settings, shop, question } = feed;
    const { rows } = await sql<{ code: string }>`select code from sku where id = ${sku}::bigint`.execute(tx.q);
    const code = rows[0]?.code;
    if (code === undefined) throw new Refusal('not found', refusalWords.range.skuGone);
    const ofSku = (whole: Question): Question =>
      plain({ kind: 'all', of: [{ kind: 'compare', field: 'code', comparison: 'is', values: [code] }, whole] });
    const items: FeedItem[] = [];
    for await (const batch of itemsOf(tx, { ...feed, question: ofSku(question) })) items.push(...batch);
    const [item] = items;
    if (item) return { fields: toldOf(item, settings, shop.names.currency), without: [] };
    const reasons = [
      ...REFUSING_GAPS.map((gap) => ({ reason: gap, question: offeredWith(gap) })),
      { reason: NO_PRICE, question: withoutPriceOn(id) },
    ];
    const counts = await countEach(
      tx,
      reasons.map((one) => ofSku(one.question)),
      shop,
    );
    const without = reasons.flatMap(({ reason }, i) => ((counts[i] ?? 0) > 0 ? [reason] : []));
    return { fields: [], without: without.length > 0 ? without : [NOT_SEEN] };
  });
