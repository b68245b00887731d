import { readdirSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { inLanes } from './lib/lanes.mjs';
import { root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { runAndRead } from './lib/run.mjs';
import { say } from './lib/say.mjs';
import { ensureBuilt, ensureDebian, ensurePackages } from './lib/setup.mjs';

const totals = { passed: 0, failed: 0, skipped: 0 };
const times = [];
const CHROMIUM = '/usr/bin/chromium';

/** Runs one part and says, when it is over, what it printed and how long it took. */
async function part(name, command, args, options) {
  const begun = performance.now();
  say(`== ${name} begins`);
  const ended = await runAndRead(command, args, options);
  const seconds = Math.round((performance.now() - begun) / 1000);
  times.push({ name, seconds });
  say(`== ${name}: ${ended.code === 0 ? 'passed' : 'FAILED'} in ${seconds} s\n`);
  return ended;
}

/** A check that passes or fails as a whole. */
async function check(name, command, args, options) {
  const { code } = await part(name, command, args, options);
  totals[code === 0 ? 'passed' : 'failed']++;
}

/** A test run whose own counts are added; one that ends badly without naming a failure counts as one. */
async function suite(name, command, args, read, options) {
  const { code, output } = await part(name, command, args, options);
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
/** Processes that share the server's specs. */
const SHARES = 4;

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

say(`Seed ${SEED} (TEST_SEED=… for another; npm run fuzz for many)`);
const env = { ...process.env, TEST_SEED: SEED, CHROME_BIN: CHROMIUM, FORCE_COLOR: '0', NG_CLI_ANALYTICS: 'false' };
const tsx = join(root, 'node_modules', '.bin', 'tsx');
const jasmine = join(root, 'node_modules', 'jasmine', 'bin', 'jasmine.js');
const specs = (files) => [
  jasmine,
  '--random=true',
  `--seed=${SEED}`,
  '--no-color',
  '--helper=server/src/testing/seed.ts',
  '--helper=server/src/testing/patience.ts',
  ...files,
];
const specsOf = (...folders) => specs(folders.map((folder) => `${folder}/src/**/*.spec.ts`));

/** The specs of the server in shares: each file in one of them, neighbours by name in different ones, as they take alike. */
function sharesOfServer(count) {
  const files = readdirSync(join(root, 'server', 'src'), { recursive: true })
    .filter((name) => name.endsWith('.spec.ts'))
    .sort()
    .map((name) => `server/src/${name}`);
  return Array.from({ length: count }, (_, share) => files.filter((_file, at) => at % count === share));
}

const lanes = Math.min(2, cpus().length);
const here = { env, together: lanes > 1 };
const node = process.execPath;
const database = runs('server') || runs('e2e') ? await throwawayDatabase() : undefined;
const withDatabase = { ...here, env: { ...env, TEST_DATABASE_URL: database?.url } };
const web = { ...here, cwd: join(root, 'web') };

const jobs = [];
if (runs('server'))
  for (const [at, files] of sharesOfServer(SHARES).entries())
    jobs.push(() => suite(`server, share ${at + 1} of ${SHARES}`, tsx, specs(files), jasmineCounts, withDatabase));
// Building the web types it, its templates too.
if (runs('e2e')) jobs.push(ensureBuilt);
if (runs('web')) jobs.push(() => suite('web', 'npx', ['ng', 'test'], karmaCounts, web));
if (runs('core')) {
  const args = specsOf('core', 'contract', 'demo', 'standins', 'bench');
  jobs.push(() => suite('core, contract and what has no database', tsx, args, jasmineCounts, here));
}
if (only === undefined) {
  const eslint = ['eslint', '.', '--cache', '--cache-location', '.cache/eslint'];
  jobs.push(
    () => check('lint', 'npx', eslint, here),
    () => check('format', 'npx', ['prettier', '--check', '--log-level', 'warn', '.'], here),
    () => check('types', 'npx', ['tsc', '-p', 'tsconfig.json'], here),
    () => check('recipes', node, [join(root, 'scripts', 'recipes.mjs')], here),
  );
}
try {
  await inLanes(lanes, jobs);
  // Browsers need both lanes for themselves.
  if (runs('e2e')) {
    const args = ['playwright', 'test', '--workers', String(lanes)];
    const e2e = { env: withDatabase.env, cwd: join(root, 'e2e') };
    await suite('the real interface', 'npx', args, playwrightCounts, e2e);
  }
} finally {
  await database?.release();
}

say(times.map(({ name, seconds }) => `${String(seconds).padStart(5)} s  ${name}`).join('\n'));
const { passed, failed, skipped } = totals;
say(`\n${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ''}`);
process.exit(failed > 0 ? 1 : 0);
