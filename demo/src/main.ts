import { connect, FileStore, inTransaction, migrate, openHouse, rebuildShelf, staleShelf } from '@ivory/server';
import { startEngine } from '@ivory/standins/engine';
import { startStorefront } from '@ivory/standins/storefront';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { DEMO_SKUS, seedDemo } from './seed.ts';

const { values } = parseArgs({
  options: {
    database: { type: 'string' },
    data: { type: 'string' },
    web: { type: 'string' },
    skus: { type: 'string', default: String(DEMO_SKUS) },
    'only-seed': { type: 'boolean', default: false },
    'rebuild-read-model': { type: 'boolean', default: false },
  },
});
const say = (text: string) => process.stdout.write(`${text}\n`);

/** The wanted port, or a free one when it is taken. */
function portNear(wanted: number): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(0));
    probe.listen(wanted, '127.0.0.1', () => probe.close(() => resolve(wanted)));
  });
}

const databaseUrl = values.database!;
const filesFolder = join(values.data!, 'files');
const db = connect(databaseUrl, 4);
await migrate(db);
if (values['rebuild-read-model']) {
  const stale = await inTransaction(db, async (tx) => {
    const found = await staleShelf(tx);
    await rebuildShelf(tx);
    return found.length;
  });
  say(
    `The read model was built anew. ${stale === 0 ? 'Every row was right before.' : `${stale} rows were wrong before.`}`,
  );
  await db.pool.end();
  process.exit(0);
}
const engine = values['only-seed'] ? undefined : await startEngine(await portNear(4302));
// The storefront is told where the shop is once the shop is open; it asks only when a page is asked for.
const shop = { address: '' };
const storefront = values['only-seed'] ? undefined : await startStorefront(await portNear(4301), () => shop.address);
const seeded = await seedDemo(db, {
  skus: Number(values.skus),
  pictures: new FileStore(filesFolder),
  ...(storefront && { storefront: storefront.address }),
  ...(engine && { engine: engine.address }),
});
if (seeded) say(`Made the demo shop Tarn & Teasel with ${values.skus} SKUs.`);
await db.pool.end();

if (!values['only-seed']) {
  const house = await openHouse({
    databaseUrl,
    filesFolder,
    storefront: storefront!.address,
    web: values.web!,
    port: await portNear(4300),
  });
  shop.address = house.address;
  say(`\nIvory Shelf is open at ${house.address}`);
  say(`  the shop as shoppers see it: ${storefront!.address}`);
  say(`  the simulated shopping engine: ${engine!.address}`);
  say('  Ctrl+C closes it.\n');
  const close = async () => {
    await house.close();
    await Promise.all([storefront!.close(), engine!.close()]);
    process.exit(0);
  };
  process.once('SIGINT', () => void close());
  process.once('SIGTERM', () => void close());
}
