import { type Db } from '@ivory/server';
import { dateBack } from './dateBack.ts';
import { HAPPENINGS, planAhead } from './happenings.ts';
import { ShopByHand } from './shopByHand.ts';
import { sql } from 'kysely';

const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;

/**
 * Gives the demo shop twelve weeks of landings, orders and files, a season to come and a plan that waits. All of it is done over HTTP at a
 * server that runs, as a merchandiser would, and then dated back to when it is to have been.
 */
export async function writePast(db: Db, address: string): Promise<void> {
  const shop = new ShopByHand(address, db);
  const today = Math.floor(Date.now() / DAY_MS) * DAY_MS;
  for (const { daysAgo, at, do: happen } of HAPPENINGS) {
    const [hours = 0, minutes = 0] = at.split(':').map(Number);
    const then = today - daysAgo * DAY_MS + (hours * 60 + minutes) * MINUTE_MS;
    const begun = await momentOf(db);
    await happen(shop);
    await dateBack(db, begun, begun.getTime() - then);
  }
  const first = Math.max(...HAPPENINGS.map(({ daysAgo }) => daysAgo));
  await sql`update shop set recorded_since = ${new Date(today - (first + 1) * DAY_MS)}`.execute(db.q);
  await planAhead(shop);
}

/** Of the database's own clock, which gives what is written its time. */
async function momentOf({ q }: Db): Promise<Date> {
  const { rows } = await sql<{ now: Date }>`select clock_timestamp() as now`.execute(q);
  return rows[0]!.now;
}
