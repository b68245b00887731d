import { seedEmpty } from '@ivory/demo';
import { calls } from '@ivory/contract';
import { connect } from './db/connect.ts';
import { migrate } from './db/migrate.ts';
import { emptyDatabase } from './testing/freshDatabase.ts';
import { startTestServer } from './testing/index.ts';

describe('a shop of one’s own', () => {
  it('begins without goods, takes its first one, and is not begun twice', async () => {
    const { url, drop } = await emptyDatabase();
    const db = connect(url, { connections: 2 });
    await migrate(db);
    const shop = { name: 'Penny Paper', currency: 'JPY' };
    expect([await seedEmpty(db, shop), await seedEmpty(db, { ...shop, name: 'Another' })]).toEqual([true, false]);
    await db.pool.end();
    const server = await startTestServer({}, { url, drop });
    try {
      expect((await server.call(calls.answerQuestion, { body: { question: '' } })).counts.skus).toBe(0);
      await server.call(calls.makePaths, { body: { paths: ['Paper > Cards'] } });
      await server.call(calls.makeProduct, {
        body: { texts: { name: 'Card', category: 'Paper > Cards' }, sku: { code: 'C-1', price: '300' } },
      });
      await server.land((await server.call(calls.getHandProof)).proof!.id);
      expect((await server.call(calls.getShop)).currency).toBe('JPY');
      expect(
        (await server.call(calls.answerQuestion, { body: { question: 'in Paper price is 300' } })).counts.skus,
      ).toBe(1);
    } finally {
      await server.close();
    }
  });
});
