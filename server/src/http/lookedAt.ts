import { GROUP_HEADER, MOMENT_HEADER, refusalWords } from '@ivory/contract';
import { LATEST_MOMENT_MS, type Moment, momentOf } from '@ivory/core';
import { type Context } from 'hono';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

/** The moment that a call is to be answered for; undefined for now. Refuses what is none, and moments that nobody plans for. */
function lookedAt(said: string | undefined): Moment | undefined {
  if (said === undefined) return undefined;
  const at = Number(said);
  if (!/^\d{1,15}$/.test(said) || at > LATEST_MOMENT_MS) throw new Refusal('not valid', refusalWords.http.noSuchMoment);
  return momentOf(at);
}

/** What a call is to be answered for, where that is not now and for anybody. */
export interface LookedAt {
  readonly moment?: Moment | undefined;
  /** The id of a customer group. */
  readonly group?: string | undefined;
}

/** What a request is to be answered for; an address that a browser opens by itself says its moment in itself. */
export const lookedAtBy = (c: Context, moment = c.req.header(MOMENT_HEADER)): LookedAt => ({
  moment: lookedAt(moment),
  group: groupOf(c),
});

function groupOf(c: Context): string | undefined {
  const said = c.req.header(GROUP_HEADER);
  if (said === undefined) return undefined;
  if (!/^[1-9]\d{0,17}$/.test(said)) throw new Refusal('not valid', refusalWords.http.noCustomerGroup);
  return said;
}

/**
 * The database as it is looked at from a moment: what is asked by the day, and prices, are those of then. In the past, prices and costs are
 * those on record; everything else is as today. For a customer group prices are those of the group.
 */
export function seenAt(db: Db, { moment, group }: LookedAt): Db {
  const then = moment === undefined ? db : { ...db, clock: () => moment, isPast: moment < db.clock() };
  return group === undefined ? then : { ...then, group };
}
