import { type Rule } from '@ivory/core';
import { calls } from '@ivory/contract';
import { connect, type Db, inTransaction, migrate, staleShelf } from '@ivory/server';
import { seedDemo } from '@ivory/demo';
import { execFile } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import { ServerUnderTest } from './serverUnderTest.ts';

const { values } = parseArgs({
  options: { trials: { type: 'string', default: '20' }, skus: { type: 'string', default: '8000' } },
});
const trials = Number(values.trials);
const skus = Number(values.skus);
const url = process.env['BENCH_DATABASE_URL']!;
const cluster = process.env['BENCH_CLUSTER']!;
/** No trial waits longer than this until everything is whole again. */
const PATIENCE_MS = 60_000;
/** Kills come at any time within this, which is about how long the work takes. */
const WITHIN_MS = 1_500;

const say = (text: string) => process.stdout.write(`${text}\n`);
const pause = (ms: number) => new Promise((go) => setTimeout(go, ms));
const files = await mkdtemp(join(tmpdir(), 'ivory-crashes-'));

const db = connect(url, { connections: 4 });
await migrate(db);
await seedDemo(db, { skus });
let server = await ServerUnderTest.start(url, files, process.env['BENCH_WEB']!);

/** Tries until it succeeds, as whoever uses the shop would. */
async function again<T>(work: () => Promise<T>): Promise<T> {
  const end = Date.now() + PATIENCE_MS;
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (Date.now() > end) throw error;
      await pause(50);
    }
  }
}
const ignored = (work: Promise<unknown>): Promise<unknown> => work.catch(() => undefined);

const sumOf = async (shop: Db, sum: string): Promise<bigint> => {
  const { rows } = await shop.pool.query<{ sum: string }>(`select ${sum} as sum`);
  return BigInt(rows[0]!.sum);
};

/** A rule over all goods, and a sum in the shop to which each of its lines adds as much. */
interface Landing {
  readonly rule: Rule;
  readonly sum: string;
  readonly each: bigint;
}
const PRICES: Landing = {
  rule: { steps: [{ do: 'raise', field: 'price', slots: { by: '100' } }], guards: [] },
  sum: '(select sum(regular) from price)',
  each: 100n,
};
let landings = 0;
const letter = (of: number) => String.fromCharCode(97 + (of % 26));
/** Words are not put twice behind a name: each time others are, also where many landings before did not come to pass. */
function names(): Landing {
  landings++;
  const words = letter(landings) + letter(Math.floor(landings / 26));
  return {
    rule: { steps: [{ do: 'put after', field: 'name', slots: { words } }], guards: [] },
    sum: '(select sum(char_length(name)) from product)',
    each: 2n,
  };
}

/** One kind of work: `begin` starts it, `whole` waits until it is over and says what is not whole. */
interface Trial {
  begin(): Promise<unknown>;
  whole(): Promise<string | undefined>;
}

async function landing({ rule, sum: total, each }: Landing): Promise<Trial> {
  const before = await sumOf(db, total);
  const { proof } = await server.call(calls.putRule, { body: { question: '', title: 'Trial', rule } });
  const after = before + each * BigInt(proof!.lines);
  return {
    begin: () => server.call(calls.landProof, { params: { id: proof!.id } }),
    async whole() {
      const { state } = await again(async () => {
        const now = (await server.call(calls.getProof, { params: { id: proof!.id } })).proof;
        if (now.state === 'landing') throw new Error('it is landing still');
        return now;
      });
      const sum = await again(() => sumOf(db, total));
      if (state === 'open') {
        await again(() => server.call(calls.discardProof, { params: { id: proof!.id } }));
        return sum === before ? undefined : `the proof is open, and the sum came to ${sum} from ${before}`;
      }
      return sum === after ? undefined : `the proof is ${state}, and the sum came to ${sum}, not ${after}`;
    },
  };
}

let made = 0;
async function importing(): Promise<Trial> {
  const rows = Array.from({ length: skus }, (_, i) => `TR-${made}-${i},Trial ${i},5.00,Brand ${i % 50}`);
  made++;
  const response = await fetch(`${server.address}/api/imports`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream', 'x-file-name': 'trial.csv' },
    body: `code,name,price,brand\n${rows.join('\n')}\n`,
  });
  const { id } = (await response.json()) as { id: string };
  const columns = ['code', 'name', 'price', 'brand'] as const;
  const body = { columns: [...columns], decimalSign: '.' as const, makeProducts: true, makeNames: true };
  return {
    begin: () => server.call(calls.readImport, { params: { id }, body }),
    async whole() {
      const file = await again(async () => {
        const now = await server.call(calls.getImport, { params: { id } });
        if (now.state === 'reading') throw new Error('it is being read still');
        return now;
      });
      const { proofs } = await again(() => server.call(calls.listProofs));
      const own = proofs.filter(({ importId }) => importId === id);
      for (const proof of own) await again(() => server.call(calls.discardProof, { params: { id: proof.id } }));
      if (file.state === 'uploaded') return own.length === 0 ? undefined : 'a proof stands of a file that was not read';
      if (own.length !== 1) return `${own.length} proofs of one file`;
      return own[0]!.newSkus === skus ? undefined : `a proof of ${own[0]!.newSkus} SKUs, not ${skus}`;
    },
  };
}

async function reading(): Promise<Trial> {
  const ask = () => server.call(calls.answerQuestion, { body: { question: 'in Ink price > 1' } });
  const before = (await ask()).counts.skus;
  return {
    begin: () =>
      Promise.all(
        Array.from({ length: 40 }, async (_, i) =>
          pause(i * 30)
            .then(ask)
            .catch(() => undefined),
        ),
      ),
    async whole() {
      const { counts } = await again(ask);
      return counts.skus === before ? undefined : `${counts.skus} answer, not ${before}`;
    },
  };
}

async function killServer(): Promise<void> {
  await server.kill();
  server = await ServerUnderTest.start(url, files, process.env['BENCH_WEB']!);
}

/** A postmaster that is killed takes its backends along. */
async function killPostgres(): Promise<void> {
  const pid = Number(readFileSync(join(cluster, 'cluster', 'postmaster.pid'), 'utf8').split('\n')[0]);
  process.kill(pid, 'SIGKILL');
  await pause(300);
  const script = join(import.meta.dirname, '..', '..', 'scripts', 'lib', 'startAgain.mjs');
  await again(() => promisify(execFile)(process.execPath, [script, cluster]));
}

async function killBackend(): Promise<void> {
  const { rows } = await db.pool.query<{ pid: number }>(
    `select pid from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()
     order by (state = 'active') desc, random() limit 1`,
  );
  if (rows[0]) process.kill(rows[0].pid, 'SIGKILL');
}

const KILLED = { server: killServer, PostgreSQL: killPostgres, 'one backend': killBackend };
const WORK = {
  'landing of prices': () => landing(PRICES),
  'landing of names': () => landing(names()),
  import: importing,
  reading,
};

/** What is not whole after one trial; undefined when all is. */
async function tryOnce(kill: () => Promise<void>, prepare: () => Promise<Trial>): Promise<string | undefined> {
  const trial = await prepare();
  const { pid } = server;
  const work = ignored(trial.begin());
  await pause(Math.random() * WITHIN_MS);
  await ignored(kill());
  await work;
  if (kill !== killServer && (!server.isUp || server.pid !== pid)) {
    server = await ServerUnderTest.start(url, files, process.env['BENCH_WEB']!);
    return 'the server ended';
  }
  await again(() => db.pool.query('select 1'));
  const wrong = await trial.whole();
  if (wrong !== undefined) return wrong;
  const stale = await again(() => inTransaction(db, staleShelf));
  if (stale.length > 0) return `${stale.length} rows of the read model are wrong`;
  const { rows } = await again(() =>
    db.pool.query<{ n: number }>(
      `select count(*)::int as n from (select sku_id, sum(quantity) as sum from stock_movement group by sku_id) m
       join stock_total t using (sku_id) where m.sum <> t.on_hand`,
    ),
  );
  return rows[0]!.n === 0 ? undefined : `${rows[0]!.n} sums of stock are wrong`;
}

const lines: string[] = [];
let broken = 0;
try {
  for (const [killed, kill] of Object.entries(KILLED)) {
    for (const [during, prepare] of Object.entries(WORK)) {
      const wrong: string[] = [];
      for (let i = 0; i < trials; i++) {
        const found = await tryOnce(kill, prepare).catch((error: unknown) => String(error));
        if (found !== undefined) wrong.push(found);
      }
      broken += wrong.length;
      lines.push(
        `| ${killed} | ${during} | ${trials} | ${trials - wrong.length} | ${[...new Set(wrong)].join('; ')} |`,
      );
      say(lines.at(-1)!);
    }
  }
} finally {
  await server.kill();
  await db.pool.end().catch(() => undefined);
  await rm(files, { recursive: true, force: true });
}
say(`\n| killed | during | tried | whole | what was not |\n| --- | --- | --- | --- | --- |\n${lines.join('\n')}`);
say(broken === 0 ? '\nAll whole, and the server up.' : `\n${broken} were not whole.`);
process.exit(broken === 0 ? 0 : 1);
