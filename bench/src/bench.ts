import { execFileSync } from 'node:child_process';
import { appendFileSync, existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { connect, type Db, migrate } from '@ivory/server';
import { seedDemo } from '@ivory/demo';
import { benchAllAtOnce } from './parts/allAtOnce.ts';
import { benchFeed } from './parts/feed.ts';
import { type Figure, isWithin, table } from './figures.ts';
import { benchGoods } from './parts/goods.ts';
import { benchImport } from './parts/import.ts';
import { benchLaidOut } from './parts/laidOut.ts';
import { benchOwn } from './parts/own.ts';
import { benchQuestions } from './parts/questions.ts';
import { benchRule } from './parts/rule.ts';
import { benchPrices } from './parts/prices.ts';
import { benchTexts } from './parts/texts.ts';
import { benchSheet } from './parts/sheet.ts';
import { type Fallen, fallenOf, historyLine, lastOf, type Ratios, ratiosOf } from './ratios.ts';
import { ServerUnderTest } from './serverUnderTest.ts';
import { shopsLike } from './shopsLike.ts';
import { yardstick } from './yardstick.ts';

const { values } = parseArgs({
  options: {
    skus: { type: 'string' },
    sales: { type: 'string' },
    only: { type: 'string', multiple: true },
    runs: { type: 'string' },
    // A small shop, each row against `bench/limits.json` and the last line of `bench/history.md`.
    gate: { type: 'boolean', default: false },
    // Writes this run down as a line of the history, or as the limits, with room for noise.
    note: { type: 'boolean', default: false },
    limits: { type: 'boolean', default: false },
  },
});
const { gate } = values;
const skus = Number(values.skus ?? (gate ? 20_000 : 100_000));
const sales = Number(values.sales ?? (gate ? 100 : 500));
const runs = Number(values.runs ?? (gate ? 3 : 5));
const only = values.only?.flatMap((names) => names.split(','));
const say = (text: string) => process.stdout.write(`${text}\n`);

const FOLDER = join(process.env['BENCH_ROOT']!, 'bench');
const LIMITS = join(FOLDER, 'limits.json');
const HISTORY = join(FOLDER, 'history.md');
const cpu = /model name\s*:\s*(.*)/.exec(readFileSync('/proc/cpuinfo', 'utf8'))?.[1] ?? 'unknown processor';
const cores = readdirSync('/sys/devices/system/cpu').filter((name) => /^cpu\d+$/.test(name)).length;
const machine = `${cores} cores, ${cpu}`;

const PARTS = {
  sheet: benchSheet,
  questions: benchQuestions,
  own: benchOwn,
  laidOut: benchLaidOut,
  goods: benchGoods,
  rule: benchRule,
  texts: benchTexts,
  prices: benchPrices,
  feed: benchFeed,
  import: benchImport,
  allAtOnce: benchAllAtOnce,
};
const unknown = only?.find((name) => !Object.keys(PARTS).includes(name));
if (unknown !== undefined) {
  say(`There is no part ${unknown}; there are ${Object.keys(PARTS).join(', ')}.`);
  process.exit(2);
}
/** What the gate leaves out: the browser, and a classification of ten thousand categories, take longer than all the rest. */
const NOT_OF_GATE = ['sheet', 'laidOut'];

const url = process.env['BENCH_DATABASE_URL']!;
say(`Making the shop with ${skus.toLocaleString('en-GB')} SKUs …`);
const shops = await shopsLike(url, async (db) => {
  await migrate(db);
  await seedDemo(db, { skus });
  await db.pool.query('vacuum analyze');
});

const files = await mkdtemp(join(tmpdir(), 'ivory-bench-'));
const figures: Figure[] = [];
const ratios = new Map<string, number>();
const measured = new Set<string>();
let peak = 0;
let stick = 0;

/** One part on a shop of its own: what others left behind is no part of its figures. */
async function measure(name: string, bench: (typeof PARTS)[keyof typeof PARTS]): Promise<void> {
  say(`Measuring ${name} …`);
  const shop = await shops.next();
  const db: Db = connect(shop, { connections: 4 });
  const server = await ServerUnderTest.start(shop, files, process.env['BENCH_WEB']!);
  try {
    stick = await yardstick(db);
    const found = await bench({ db, server, skus, sales, runs, files });
    const isFirst = !measured.has(name);
    measured.add(name);
    if (isFirst) figures.push(...found);
    for (const [row, ratio] of ratiosOf(name, found, stick)) ratios.set(row, Math.min(ratio, ratios.get(row) ?? ratio));
    peak = Math.max(peak, server.peakMegabytes());
  } finally {
    await server.stop();
    await db.pool.end();
    await shops.forget(shop);
  }
}

try {
  for (const [name, bench] of Object.entries(PARTS))
    if (only ? only.includes(name) : !gate || !NOT_OF_GATE.includes(name)) await measure(name, bench);
  // What the machine did besides shows in one run and not in two: a part with rows that fell is measured once more.
  if (gate)
    for (const [name, bench] of Object.entries(PARTS))
      if (fallenNow().some(({ row }) => row.startsWith(`${name}: `))) await measure(name, bench);
  figures.push({
    work: 'memory of the server at its largest, MB',
    ours: peak,
    limit: { ms: skus > 100_000 ? 400 : 300 },
    note: 'MB, not ms',
  });
} finally {
  await shops.end();
  await rm(files, { recursive: true, force: true });
}

say(
  `\n${skus.toLocaleString('en-GB')} SKUs, ${sales} sales, medians of ${runs}; Node ${process.version}, ${machine}; yardstick ${Math.round(stick)} ms\n`,
);
say(table(figures));
if (gate) passGate();
else {
  const short = figures.filter((figure) => isWithin(figure) === false);
  say(
    short.length === 0
      ? '\nEvery figure is reached.'
      : `\n${short.length} fall short: ${short.map((f) => f.work).join('; ')}.`,
  );
}

/** The rows that fell, by what was measured so far. */
function fallenNow(): Fallen[] {
  const history = existsSync(HISTORY) ? readFileSync(HISTORY, 'utf8') : '';
  return fallenOf(ratios, limitsOfRows(), lastOf(history, machine));
}

function limitsOfRows(): Ratios {
  return existsSync(LIMITS)
    ? new Map(Object.entries(JSON.parse(readFileSync(LIMITS, 'utf8')) as Record<string, number>))
    : new Map();
}

/** Says which rows fell, and ends with 1 where any did. */
function passGate(): void {
  const fallen = fallenNow();
  for (const { row, ratio, than, why } of fallen) say(`${why}: ${row}: ${ratio}, where it was to be ${than}`);
  say(fallen.length === 0 ? '\nThe gate is passed.' : `\n${fallen.length} rows fell.`);
  const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { cwd: FOLDER, encoding: 'utf8' }).trim();
  if (values.note) appendFileSync(HISTORY, `${historyLine(commit, machine, ratios)}\n`);
  // Half as much again: figures of a shared machine differ by a third from one run to the next.
  if (values.limits) {
    const roomy = [...ratios].map(([row, ratio]) => [row, Number((ratio * 1.5).toPrecision(3))]);
    writeFileSync(LIMITS, `${JSON.stringify(Object.fromEntries([...limitsOfRows(), ...roomy]), null, 2)}\n`);
  }
  process.exitCode = fallen.length === 0 ? 0 : 1;
}
