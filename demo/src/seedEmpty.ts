import { type Db, inTransaction } from '@ivory/server';
import { sql } from 'kysely';

/**
 * Makes a shop without goods in an empty database, which sells in a currency of ISO 4217 by its code. A shop that is there already is left
 * as it is; false then.
 */
export async function seedEmpty(db: Db, { name, currency }: { name: string; currency: string }): Promise<boolean> {
  return inTransaction(db, async (tx) => {
    await sql`lock table shop in exclusive mode`.execute(tx.q);
    const there = await tx.q.selectFrom('shop').select('name').executeTakeFirst();
    if (there) return false;
    const { timeZone } = Intl.DateTimeFormat().resolvedOptions();
    await sql`
      insert into shop (name, currency, time_zone, floor_margin_bp, large_change_bp)
      values (${name}, ${currency}, ${timeZone}, 0, 3000)`.execute(tx.q);
    await sql`insert into person (name) values ('Merchandiser')`.execute(tx.q);
    return true;
  });
}
