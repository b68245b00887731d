import { type ServerEvent } from '@ivory/contract';
import { type RawBuilder, sql } from 'kysely';
import { type Db } from './connect.ts';

/** The channel that every server process listens to, for the browsers that are open at it. */
export const CHANNEL = 'ivory';

/** Tells every open browser something, when the transaction that selects it commits. */
export const told = (event: ServerEvent): RawBuilder<unknown> => sql`pg_notify(${CHANNEL}, ${JSON.stringify(event)})`;

/** Tells it in a transaction of its own, which changes nothing and so need not wait for the disk. */
export async function tellAlone(db: Db, event: ServerEvent): Promise<void> {
  await sql`select set_config('synchronous_commit', 'off', true), ${told(event)}`.execute(db.q);
}
