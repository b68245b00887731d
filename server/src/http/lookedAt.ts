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
 * The database as it is looked at from a moment: what is asked by the day, and prices, are those of then. Refuses the past: values are those
 * that stand today, and would be shown with a date that is not theirs.
 */
export function seenAt(db: Db, moment: Moment | undefined): Db {
  if (moment === undefined) return db;
  if (moment < db.clock())
    throw new Refusal(
      'not valid',
      'The past stands in the journal and in the history of each value. Choose a moment to come.',
    );
  return { ...db, clock: () => moment };
}
