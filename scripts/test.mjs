import { cpus } from 'node:os';
import { join } from 'node:path';
import { root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { runAndRead } from './lib/run.mjs';
import { say } from './lib/say.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

const totals = { passed: 0, failed: 0, skipped: 0 };
const CHROMIUM = '/usr/bin/chromium';

/** A check that passes or fails as a whole. */
async function check(name, command, args, options) {
  say(`\n== ${name}`);
  const { code } = await runAndRead(command, args, options);
  totals[code === 0 ? 'passed' : 'failed']++;
}

/** A test run whose own counts are added; one that ends badly without naming a failure counts as one. */
async function suite(name, command, args, read, options) {
  say(`\n== ${name}`);
  const { code, output } = await runAndRead(command, args, options);
  const { passed, failed, skipped } = read(output);
  totals.passed += passed;
  totals.failed += code !== 0 && failed === 0 ? 1 : failed;
  totals.skipped += skipped;
  if (passed + failed === 0 && code === 0) totals.failed++;
}

const number = (text, pattern) => Number(pattern.exec(text)?.[1] ?? 0);

function jasmineCounts(output) {
  const all = number(output, /(\d+) specs?,/);
  const failed = number(output, /(\d+) failures?/);
  const skipped = number(output, /(\d+) pending specs?/);
  return { passed: all - failed - skipped, failed, skipped };
}

function karmaCounts(output) {
  const last = output.match(/Executed \d+ of \d+.*/g)?.at(-1) ?? '';
  const failed = number(last, /\((\d+) FAILED/);
  const skipped = number(last, /skipped (\d+)/);
  return { passed: number(last, /Executed (\d+) of/) - failed - skipped, failed, skipped };
}

function playwrightCounts(output) {
  return {
    passed: number(output, /(\d+) passed/),
    failed: number(output, /(\d+) failed/) + number(output, /(\d+) did not run/),
    skipped: number(output, /(\d+) skipped/),
  };
}

const PARTS = ['core', 'server', 'web', 'e2e'];

/** The parts that `--only` names, several by commas, by spaces or by saying it again; without it the whole. */
function partsAsked(args) {
  if (args.length === 0) return undefined;
  const asked = args.filter((word) => word !== '--only').flatMap((word) => word.replace(/^--only=/, '').split(','));
  const unknown = asked.filter((part) => !PARTS.includes(part));
  const isOnly = args[0].startsWith('--only');
  if (!isOnly || asked.length === 0 || unknown.length > 0) {
    say(`Write it like: npm test -- --only ${PARTS.join('|')} (several may be named); npm test alone is the whole.`);
    process.exit(2);
  }
  return asked;
}

/** Order and random cases are the same in every run, so that whether it passes does not depend on luck; `npm run fuzz` tries others. */
const SEED = process.env.TEST_SEED ?? '20261201';
const only = partsAsked(process.argv.slice(2));
const runs = (part) => only === undefined || only.includes(part);

await ensureDebian({ browser: runs('web') || runs('e2e') });
await ensurePackages();
if (runs('e2e')) await ensureBuilt();

say(`Seed ${SEED} (TEST_SEED=… for another; npm run fuzz for many)`);
const env = { ...process.env, TEST_SEED: SEED, CHROME_BIN: CHROMIUM, FORCE_COLOR: '0', NG_CLI_ANALYTICS: 'false' };
const tsx = join(root, 'node_modules', '.bin', 'tsx');
const jasmine = join(root, 'node_modules', 'jasmine', 'bin', 'jasmine.js');
const specs = (...folders) => [
  jasmine,
  '--random=true',
  `--seed=${SEED}`,
  '--no-color',
  '--helper=server/src/testing/seed.ts',
  '--helper=server/src/testing/patience.ts',
  ...folders.map((folder) => `${folder}/src/**/*.spec.ts`),
];

if (only === undefined) {
  await check('format', 'npx', ['prettier', '--check', '--log-level', 'warn', '.'], { env });
  await check('lint', 'npx', ['eslint', '.', '--cache', '--cache-location', '.cache/eslint'], { env });
  await check('types', 'npx', ['tsc', '-p', 'tsconfig.json'], { env });
  await check('types of the web', 'npx', ['tsc', '-p', 'web/tsconfig.app.json', '--noEmit'], { env });
  await check('recipes', process.execPath, [join(root, 'scripts', 'recipes.mjs')], { env });
}
if (runs('core')) {
  const folders = ['core', 'contract', 'demo', 'standins', 'bench'];
  await suite('core, contract and what has no database', tsx, specs(...folders), jasmineCounts, { env });
}
if (runs('web')) await suite('web', 'npx', ['ng', 'test'], karmaCounts, { env, cwd: join(root, 'web') });
if (runs('server') || runs('e2e')) {
  const database = await throwawayDatabase();
  try {
    const withDatabase = { env: { ...env, TEST_DATABASE_URL: database.url } };
    if (runs('server')) await suite('server', tsx, specs('server'), jasmineCounts, withDatabase);
    if (runs('e2e')) {
      const args = ['playwright', 'test', '--workers', String(Math.min(2, cpus().length))];
      await suite('the real interface', 'npx', args, playwrightCounts, { ...withDatabase, cwd: join(root, 'e2e') });
    }
  } finally {
    await database.release();
  }
}

const { passed, failed, skipped } = totals;
say(`\n${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`);
process.exit(failed > 0 ? 1 : 0);
