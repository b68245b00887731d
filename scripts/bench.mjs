import { build } from 'esbuild';
import { join } from 'node:path';
import { builtWeb, root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';
import { bundle } from './lib/bundle.mjs';

// npm run bench -- --skus 100000 --runs 5 --only rule,prices: every figure with the raw work beside it, each part on a shop of its own.
// npm run bench -- --gate: a small shop, each row against its limit and the last run that was noted; `--note` notes this one.
await ensureDebian({ browser: true });
await ensurePackages();
await ensureBuilt();
const folder = join(root, 'dist', 'bench');
for (const entry of ['bench', 'bench-server']) {
  await build({ ...bundle, entryPoints: [join(root, `bench/src/${entry}.ts`)], outfile: join(folder, `${entry}.mjs`) });
}
// Safe settings, as a shop's data has them: what is measured includes that writes reach the disk.
const database = await throwawayDatabase({ safe: true });
try {
  await run(process.execPath, [join(folder, 'bench.mjs'), ...process.argv.slice(2)], {
    env: { ...process.env, BENCH_DATABASE_URL: database.url, BENCH_WEB: builtWeb, BENCH_ROOT: root },
  });
} finally {
  await database.release();
}
