import { sql } from 'kysely';
import { freshDatabase } from '../testing/freshDatabase.ts';
import { connect, type Db, inTransaction } from './connect.ts';

describe('a connection with a longest question', () => {
  let db: Db;
  let fresh: Awaited<ReturnType<typeof freshDatabase>>;
  beforeAll(async () => {
    fresh = await freshDatabase();
    db = connect(fresh.url, { connections: 2, longestQuestion: 50 });
  });
  afterAll(async () => {
    await db.pool.end();
    await fresh.drop();
  });

  it('gives a question up that takes longer, and can be asked again', async () => {
    await expectAsync(sql`select pg_sleep(30)`.execute(db.q)).toBeRejectedWith(
      jasmine.objectContaining({ code: '57014' }),
    );
    const { rows } = await sql<{ n: number }>`select 1 as n`.execute(db.q);
    expect(rows).toEqual([{ n: 1 }]);
  });

  it('lets work within a transaction take as long as it does, and limits the next question again', async () => {
    await inTransaction(db, (tx) => sql`select pg_sleep(0.1)`.execute(tx.q));
    await expectAsync(sql`select pg_sleep(30)`.execute(db.q)).toBeRejected();
  });
});
