import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  realpathSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { cacheFolder, root } from './lib/paths.mjs';
import { throwawayDatabase } from './lib/postgres.mjs';
import { runAndRead } from './lib/run.mjs';
import { say } from './lib/say.mjs';
import { ensureDebian, ensurePackages } from './lib/setup.mjs';

// npm run recipes: makes every recipe of docs/extending.md in a copy of the repository, types it and runs what the recipes say of it.
// npm run recipes -- --half verb kind: besides, leaves one edit of these recipes (of all, where none is named) out at a time, and says which
// of these halves compile.

const copy = join(cacheFolder, 'recipes');

/** The files of the repository, with the packages that are installed; those of ours are the copy's. */
function makeCopy() {
  rmSync(copy, { recursive: true, force: true });
  const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: root, encoding: 'utf8' });
  for (const file of listed.split('\n').filter((one) => one !== '' && existsSync(join(root, one)))) {
    mkdirSync(dirname(join(copy, file)), { recursive: true });
    copyFileSync(join(root, file), join(copy, file));
  }
  for (const folder of ['.', ...readdirSync(root).filter((one) => existsSync(join(copy, one, 'package.json')))]) {
    const installed = join(root, folder, 'node_modules');
    if (!existsSync(installed)) continue;
    mkdirSync(join(copy, folder, 'node_modules'), { recursive: true });
    for (const name of readdirSync(installed))
      if (name !== '@ivory') symlinkSync(join(installed, name), join(copy, folder, 'node_modules', name));
  }
  mkdirSync(join(copy, 'node_modules', '@ivory'));
  for (const name of readdirSync(join(root, 'node_modules', '@ivory'))) {
    const at = realpathSync(join(root, 'node_modules', '@ivory', name));
    symlinkSync(join(copy, at.slice(root.length)), join(copy, 'node_modules', '@ivory', name));
  }
}

const read = (file) => readFileSync(join(copy, file), 'utf8');
const write = (file, text) => {
  mkdirSync(dirname(join(copy, file)), { recursive: true });
  writeFileSync(join(copy, file), text);
};

/** Makes one edit; gives the files that it touches. Throws where what it is to stand behind is not there once. */
function make(edit) {
  if (edit.create) {
    write(edit.create, edit.text);
    return [edit.create];
  }
  if (edit.migration) return makeMigration(edit);
  const text = read(edit.file);
  const pieces = text.split(edit.behind);
  if (pieces.length !== 2)
    throw new Error(`${edit.file} has ${pieces.length - 1} times, and not once: ${edit.behind.trim()}`);
  write(edit.file, pieces[0] + edit.behind + edit.put + pieces[1]);
  return [edit.file];
}

const MIGRATIONS = 'server/src/db/migrations';
function makeMigration({ migration, statements }) {
  const last = readdirSync(join(copy, MIGRATIONS))
    .filter((file) => /^\d/.test(file))
    .at(-1);
  const name = `${String(Number(last.slice(0, 3)) + 1).padStart(3, '0')}_${migration}`;
  write(
    `${MIGRATIONS}/${name}.ts`,
    `import { type Kysely, sql } from 'kysely';
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const one of ${JSON.stringify(statements)}) await sql.raw(one).execute(db);
}
`,
  );
  const index = `${MIGRATIONS}/index.ts`;
  const text = read(index);
  write(
    index,
    `import * as ${migration} from './${name}.ts';\n` + text.replace(/\n};\s*$/, `\n  '${name}': ${migration},\n};\n`),
  );
  return [MIGRATIONS + '/'];
}

/** What `docs/extending.md` says of a recipe. */
function sectionOf(recipe) {
  const text = readFileSync(join(root, 'docs', 'extending.md'), 'utf8');
  const section = text.split('\n## ').find((one) => one.startsWith(`${recipe}\n`));
  if (section === undefined) throw new Error(`docs/extending.md has no recipe “${recipe}”.`);
  return section;
}

/** Whether a recipe names a file: by its path, or by its name where the folder is named before. */
const names = (section, file) => section.includes(file) || section.includes(`\`${file.split('/').at(-1)}\``);

const options = { cwd: copy, env: { ...process.env, FORCE_COLOR: '0' } };
const tsc = join(root, 'node_modules', '.bin', 'tsc');

const TYPES = [
  ['-p', 'tsconfig.json'],
  ['-p', 'web/tsconfig.app.json', '--noEmit'],
];

/** Whether the copy compiles, server and web side by side; says what does not. */
async function compiles() {
  const runs = TYPES.map((args) => runAndRead(tsc, args, options));
  return (await Promise.all(runs)).every(({ code }) => code === 0);
}

/** The same without a word, and no further than to the first that does not. */
function compilesInSilence() {
  try {
    for (const args of TYPES) execFileSync(tsc, args, { ...options, stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

function specFile(recipes) {
  const cases = recipes
    .filter(({ spec }) => spec)
    .map(
      ({ recipe, spec }) => `describe('${recipe}: what it adds', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());
${spec}});
`,
    );
  return `import { calls } from '@ivory/contract';
import { tellAlone } from './db/tell.ts';
import { startTestServer, type TestServer } from './testing/index.ts';

${cases.join('\n')}`;
}

await ensureDebian();
await ensurePackages();
const recipes = [];
for (const file of readdirSync(join(root, 'recipes'))
  .filter((one) => one.endsWith('.mjs'))
  .sort())
  recipes.push({ name: file.replace('.mjs', ''), ...(await import(join(root, 'recipes', file))).default });

makeCopy();
const wrong = [];
for (const { recipe, edits } of recipes) {
  const section = sectionOf(recipe);
  for (const edit of edits)
    for (const file of make(edit)) if (!names(section, file)) wrong.push(`“${recipe}” does not name ${file}.`);
}
for (const one of wrong) say(one);

say(`\n== ${recipes.length} recipes in one copy: types`);
let failed = wrong.length;
if (!(await compiles())) failed++;

say('\n== what they add');
const withSpecs = recipes.filter(({ spec }) => spec);
write('server/src/recipes.spec.ts', specFile(recipes));
const database = await throwawayDatabase();
try {
  const { code } = await runAndRead(
    join(root, 'node_modules', '.bin', 'tsx'),
    [
      join(root, 'node_modules', 'jasmine', 'bin', 'jasmine.js'),
      '--no-color',
      '--helper=server/src/testing/patience.ts',
      'server/src/recipes.spec.ts',
      'core/src/feeds/feeds.spec.ts',
      'core/src/rules/ruleText.spec.ts',
    ],
    { ...options, env: { ...options.env, TEST_DATABASE_URL: database.url } },
  );
  if (code !== 0) failed++;
} finally {
  await database.release();
}

if (process.argv.includes('--half')) {
  say('\n== halves');
  const named = process.argv.slice(process.argv.indexOf('--half') + 1);
  for (const { recipe, edits } of recipes.filter(({ name }) => named.length === 0 || named.includes(name)))
    for (const [i, left] of edits.entries()) {
      makeCopy();
      for (const other of recipes)
        for (const [k, edit] of other.edits.entries()) if (other.recipe !== recipe || k !== i) make(edit);
      const what = left.file ?? left.create ?? `the migration ${left.migration}`;
      say(`${compilesInSilence() ? 'compiles' : 'does not compile'}: ${recipe}, without ${what}`);
    }
}

say(failed === 0 ? `\nEvery recipe holds: ${recipes.length} made, ${withSpecs.length} used.` : `\n${failed} failed.`);
rmSync(copy, { recursive: true, force: true });
process.exit(failed === 0 ? 0 : 1);
