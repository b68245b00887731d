import { connect, FileStore, inTransaction, migrate, startServer, rebuildShelf, staleShelf } from '@ivory/server';
import { startEngine } from '@ivory/standins/engine';
import { startStorefront } from '@ivory/standins/storefront';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { DEMO_SKUS, seedDemo } from './seed.ts';
import { writePast } from './past/writePast.ts';
import { seedEmpty } from './seedEmpty.ts';

const { values } = parseArgs({
  options: {
    database: { type: 'string' },
    data: { type: 'string' },
    web: { type: 'string' },
    skus: { type: 'string', default: String(DEMO_SKUS) },
    port: { type: 'string', default: '4300' },
    origin: { type: 'string', multiple: true, default: [] },
    /** A shop without goods, under a name and in a currency of one's own. */
    empty: { type: 'boolean', default: false },
    name: { type: 'string', default: 'My shop' },
    currency: { type: 'string', default: 'GBP' },
    /** The demo shop as it was made, without the twelve weeks that it has been kept. */
    'without-past': { type: 'boolean', default: false },
    'only-seed': { type: 'boolean', default: false },
    'rebuild-read-model': { type: 'boolean', default: false },
  },
});
const say = (text: string) => process.stdout.write(`${text}\n`);

/** Opens at the wanted port, or at a free one when it is taken, which is said. */
async function openNear<Open>(wanted: number, open: (port: number) => Promise<Open>): Promise<Open> {
  try {
    return await open(wanted);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    say(`Port ${wanted} is taken; another that is free is used instead.`);
    return open(0);
  }
}

const port = Number(values.port);
// The stand-ins have the two ports behind it.
if (!Number.isInteger(port) || port < 1 || port > 65_533) {
  say(`“${values.port}” is no port. Write it like --port 4300, from 1 to 65533.`);
  process.exit(2);
}
if (!Intl.supportedValuesOf('currency').includes(values.currency)) {
  say(`“${values.currency}” is no currency. Write its code in capitals, like --currency EUR.`);
  process.exit(2);
}
const databaseUrl = values.database!;
const filesFolder = join(values.data!, 'files');
const db = connect(databaseUrl, { connections: 4 });
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
const engine = values['only-seed'] ? undefined : await openNear(port + 2, (port) => startEngine(port));
// The storefront is told where the shop is once the shop is open; it asks only when a page is asked for.
const shop = { address: '' };
const storefront = values['only-seed']
  ? undefined
  : await openNear(port + 1, (port) => startStorefront(port, () => shop.address));
const { address: storefrontAddress = '' } = storefront ?? {};
const open = (port: number) =>
  startServer({
    databaseUrl,
    filesFolder,
    storefront: storefrontAddress,
    web: values.web!,
    port,
    origins: values.origin,
  });

if (values.empty) {
  const made = await seedEmpty(db, { name: values.name, currency: values.currency });
  if (made) say(`Made the shop ${values.name}, which sells in ${values.currency} and has no goods yet.`);
} else {
  const seeded = await seedDemo(db, {
    skus: Number(values.skus),
    pictures: new FileStore(filesFolder),
    ...(storefront && { storefront: storefront.address }),
    ...(engine && { engine: engine.address }),
  });
  if (seeded) say(`Made the demo shop Tarn & Teasel with ${values.skus} SKUs.`);
  if (seeded && !values['without-past']) {
    const kept = await open(0);
    await writePast(db, kept.address);
    await kept.close();
    say('Gave it twelve weeks of landings, orders and plans.');
  }
}
await db.pool.end();

if (!values['only-seed']) {
  const server = await openNear(port, open);
  shop.address = server.address;
  say(`\nIvory Shelf is open at ${server.address}`);
  say(`  the shop as shoppers see it: ${storefront!.address}`);
  say(`  the simulated shopping engine: ${engine!.address}`);
  say('  Ctrl+C closes it.\n');
  const close = async () => {
    await server.close();
    await Promise.all([storefront!.close(), engine!.close()]);
    process.exit(0);
  };
  process.once('SIGINT', () => void close());
  process.once('SIGTERM', () => void close());
}
