import { pino } from 'pino';
import { startServer } from './startServer.ts';
import { freshDatabase } from './testing/freshDatabase.ts';
import { startTestServer } from './testing/index.ts';

describe('a server on a port that is taken', () => {
  it('does not open, says so, and leaves no connection to its database behind', async () => {
    const other = await startTestServer();
    const database = await freshDatabase();
    const port = Number(new URL(other.open.address).port);
    const log = pino({ level: 'silent' });
    const storefront = 'http://127.0.0.1:1';
    const opening = startServer({ databaseUrl: database.url, filesFolder: '/nowhere', storefront, port, log });
    await expectAsync(opening).toBeRejectedWith(jasmine.objectContaining({ code: 'EADDRINUSE' }));
    const open = 'select from pg_stat_activity where datname = $1';
    const left = async () => (await other.db.pool.query(open, [new URL(database.url).pathname.slice(1)])).rowCount;
    // PostgreSQL takes a moment to end what has let go.
    for (let waits = 0; waits < 100 && (await left())! > 0; waits++) await new Promise((go) => setTimeout(go, 20));
    expect(await left()).toBe(0);
    await database.drop();
    await other.close();
  });
});
