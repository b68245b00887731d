import { join } from 'node:path';
import { root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { run } from './lib/run.mjs';
import { ensureDebian, ensurePackages } from './lib/setup.mjs';

// npm run interop: files that the shop writes are opened and saved by a spreadsheet program of Debian's, without a screen, and brought back.
await ensureDebian({ spreadsheet: true });
await ensurePackages();
const database = await throwawayDatabase();
try {
  await run(
    join(root, 'node_modules', '.bin', 'tsx'),
    [join(root, 'node_modules', 'jasmine', 'bin', 'jasmine.js'), '--no-color', 'server/src/**/*.interop.ts'],
    { env: { ...process.env, TEST_DATABASE_URL: database.url } },
  );
} finally {
  await database.release();
}
