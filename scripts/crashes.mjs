import { build } from 'esbuild';
import { join } from 'node:path';
import { bundle } from './lib/bundle.mjs';
import { builtWeb, root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

// npm run crashes -- --trials 20: kills the server, PostgreSQL or one of its backends in the middle of work, on a shop of its own,
// and looks whether everything is whole and the server up. On this machine alone, and with processes that it started.
await ensureDebian();
await ensurePackages();
await ensureBuilt();
const folder = join(root, 'dist', 'bench');
for (const entry of ['crashes', 'bench-server']) {
  await build({ ...bundle, entryPoints: [join(root, `bench/src/${entry}.ts`)], outfile: join(folder, `${entry}.mjs`) });
}
const database = await throwawayDatabase({ safe: true });
try {
  await run(process.execPath, [join(folder, 'crashes.mjs'), ...process.argv.slice(2)], {
    env: { ...process.env, BENCH_DATABASE_URL: database.url, BENCH_CLUSTER: database.folder, BENCH_WEB: builtWeb },
  });
} finally {
  await database.release();
}
