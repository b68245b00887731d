import { readdirSync, readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { connect, migrate } from '@ivory/server';
import { seedDemo } from '@ivory/demo';
import { benchFeed } from './feed.ts';
import { type Figure, isWithin, table } from './figures.ts';
import { benchGoods } from './goods.ts';
import { benchImport } from './import.ts';
import { benchLaidOut } from './laidOut.ts';
import { benchOwn } from './own.ts';
import { benchQuestions } from './questions.ts';
import { benchRule } from './rule.ts';
import { benchPrices } from './prices.ts';
import { benchTexts } from './texts.ts';
import { benchSheet } from './sheet.ts';
import { ServerUnderTest } from './serverUnderTest.ts';

const { values } = parseArgs({
  options: {
    skus: { type: 'string', default: '100000' },
    only: { type: 'string' },
    runs: { type: 'string', default: '5' },
  },
});
const skus = Number(values.skus);
const runs = Number(values.runs);
const say = (text: string) => process.stdout.write(`${text}\n`);

const url = new URL(process.env['BENCH_DATABASE_URL']!);
const db = connect(url.href, { connections: 4 });
say(`Making the shop with ${skus.toLocaleString('en-GB')} SKUs …`);
await migrate(db);
await seedDemo(db, { skus });
await db.pool.query('vacuum analyze');

const files = await mkdtemp(join(tmpdir(), 'ivory-bench-'));
const server = await ServerUnderTest.start(url.href, files, process.env['BENCH_WEB']!);
const figures: Figure[] = [];
try {
  const parts = {
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
  };
  for (const [name, bench] of Object.entries(parts)) {
    if (values.only !== undefined && values.only !== name) continue;
    say(`Measuring ${name} …`);
    figures.push(...(await bench({ db, server, skus, runs, files })));
  }
  figures.push({
    work: 'memory of the server at its largest, MB',
    ours: server.peakMegabytes(),
    limit: { ms: 400 },
    note: 'MB, not ms',
  });
} finally {
  await server.stop();
  await db.pool.end();
  await rm(files, { recursive: true, force: true });
}

const cpu = /model name\s*:\s*(.*)/.exec(readFileSync('/proc/cpuinfo', 'utf8'))?.[1] ?? 'unknown processor';
const cores = readdirSync('/sys/devices/system/cpu').filter((name) => /^cpu\d+$/.test(name)).length;
say(`\n${skus.toLocaleString('en-GB')} SKUs, medians of ${runs}; Node ${process.version}, ${cores} cores, ${cpu}\n`);
say(table(figures));
const short = figures.filter((figure) => isWithin(figure) === false);
say(
  short.length === 0
    ? '\nEvery figure is reached.'
    : `\n${short.length} fall short: ${short.map((f) => f.work).join('; ')}.`,
);
