import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { builtServer, builtWeb, dataFolder, root } from './lib/paths.mjs';
import { shopDatabase } from './lib/postgres.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

await ensureDebian();
await ensurePackages();
await ensureBuilt();
const database = await shopDatabase();
const args = [
  builtServer,
  '--database',
  database.url,
  '--data',
  join(dataFolder),
  '--web',
  builtWeb,
  ...process.argv.slice(2),
];
const child = spawn(process.execPath, args, { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.once('exit', async (code) => {
  await database.release();
  process.exit(code ?? 0);
});
