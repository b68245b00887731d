import { MOMENT_HEADER } from '@ivory/contract';
import { type Moment, momentOf } from '@ivory/core';
import { type Context } from 'hono';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

/** Year 2200: whatever is planned for later is a slip of the finger. */
const LATEST = Date.UTC(2200, 0);

/** The moment that a call is to be answered for; undefined for now. Refuses what is none, and moments that nobody plans for. */
export function lookedAt(c: Context): Moment | undefined {
  const said = c.req.header(MOMENT_HEADER);
  if (said === undefined) return undefined;
  const at = Number(said);
  if (!/^\d{1,15}$/.test(said) || at > LATEST)
    throw new Refusal('not valid', 'This is no moment that can be looked at. Choose one before the year 2200.');
  return momentOf(at);
}

/**
 * The database as it is looked at from a moment: what is asked by the day, and prices, are those of then. In the past, prices and costs are
 * those on record; whatever else there is stands as it does today.
 */
export function seenAt(db: Db, moment: Moment | undefined): Db {
  if (moment === undefined) return db;
  return { ...db, clock: () => moment, isPast: moment < db.clock() };
}
