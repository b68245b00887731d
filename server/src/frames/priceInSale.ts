import { type RawBuilder, sql } from 'kysely';

/** What a regular price comes to by what a sale `s` takes off; null where less than nothing would be left, or it takes nothing off. */
export const reducedPrice = (regular: RawBuilder<unknown>): RawBuilder<unknown> =>
  sql`reduced_price(${regular}, s.off_percent, s.off_amount, s.digits, s.every, s.way)`;

/** The price of a line `l` of a sale `s`: its own amount, or what the sale makes of the regular price in `p`. */
export const PRICE_IN_SALE = sql`coalesce(l.amount, ${reducedPrice(sql`p.regular`)})`;
