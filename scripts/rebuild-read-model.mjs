import { join } from 'node:path';
import { builtServer, dataFolder } from './lib/paths.mjs';
import { shopDatabase } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

// npm run rebuild-read-model: derives the read model anew from the goods, and says how many rows had gone wrong.
await ensureDebian();
await ensurePackages();
await ensureBuilt();
const database = await shopDatabase();
try {
  const args = [builtServer, '--database', database.url, '--data', join(dataFolder), '--rebuild-read-model'];
  await run(process.execPath, args);
} finally {
  await database.release();
}
