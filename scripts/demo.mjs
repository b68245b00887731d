import { join } from 'node:path';
import { builtServer, dataFolder } from './lib/paths.mjs';
import { shopDatabase } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

// npm run demo -- --skus 100000: fills an empty shop with so many SKUs. IVORY_DATA names another data folder.
await ensureDebian();
await ensurePackages();
await ensureBuilt();
const database = await shopDatabase();
try {
  await run(process.execPath, [
    builtServer,
    '--database',
    database.url,
    '--data',
    join(dataFolder),
    '--only-seed',
    ...process.argv.slice(2),
  ]);
} finally {
  await database.release();
}
