import { spawn } from 'node:child_process';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';

const ROOT = join(import.meta.dirname, '..');

/** A whole shop for one test: the built application, the storefront and the engine, on a database of its own. */
export interface RunningShop {
  readonly address: string;
  readonly storefront: string;
  readonly engine: string;
}

/** A shop as it is before each test: its database, and the folder of its files. */
interface MadeShop {
  readonly database: string;
  readonly data: string;
}

let made = 0;
let first: Promise<MadeShop> | undefined;

function urlOf(database?: string): string {
  const server = process.env['TEST_DATABASE_URL'];
  if (server === undefined) throw new Error('TEST_DATABASE_URL names no server: run the tests by npm test.');
  const url = new URL(server);
  if (database !== undefined) url.pathname = `/${database}`;
  return url.href;
}

async function query(text: string, database?: string): Promise<void> {
  const client = new pg.Client({ connectionString: urlOf(database) });
  await client.connect();
  try {
    await client.query(text);
  } finally {
    await client.end();
  }
}

/** Runs the server on a shop; what it says is read by `hear`. */
function run({ database, data }: MadeShop, more: readonly string[], hear: (said: string) => void) {
  const options = ['--database', urlOf(database), '--data', data, '--web', 'dist/web/browser', '--without-past'];
  const child = spawn(process.execPath, ['dist/server.mjs', ...options, ...more], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let said = '';
  child.stdout.on('data', (bytes: Buffer) => hear((said += bytes.toString())));
  return child;
}

/** The demo shop is made once for each process that tests, as its pictures take longer to draw than all of it to copy. */
async function makeFirst(): Promise<MadeShop> {
  const shop = { database: `e2e_${process.pid}`, data: await mkdtemp(join(tmpdir(), 'ivory-e2e-')) };
  await query(`create database ${shop.database}`);
  const child = run(shop, ['--only-seed'], () => undefined);
  const code = await new Promise((resolve) => child.once('exit', resolve));
  if (code !== 0) throw new Error(`The shop was not made; it ended with ${String(code)}.`);
  return shop;
}

/** Starts a shop of one's own, as the demo shop is made. */
export async function startShop(): Promise<RunningShop & { stop: () => Promise<void> }> {
  const from = await (first ??= makeFirst());
  const shop = { database: `${from.database}_${++made}`, data: `${from.data}-${made}` };
  await query(`create database ${shop.database} template ${from.database} strategy file_copy`);
  await cp(from.data, shop.data, { recursive: true });
  let child!: ReturnType<typeof run>;
  const said = await new Promise<string>((resolve, reject) => {
    child = run(shop, [], (said) => {
      if (said.includes('Ctrl+C')) resolve(said);
    });
    child.once('exit', (code) => reject(new Error(`the shop ended with ${String(code)}`)));
  });
  const [address, storefront, engine] = [...said.matchAll(/http:\/\/127\.0\.0\.1:\d+/g)].map(([found]) => found);
  // The outlet was made before it was known where its stand-ins would be.
  await query(
    `update outlet set settings = settings || '${JSON.stringify({ link: storefront, address: `${engine!}/feeds` })}'`,
    shop.database,
  );
  return {
    ...{ address: address!, storefront: storefront!, engine: engine! },
    stop: async () => {
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
      await query(`drop database ${shop.database} with (force)`);
      await rm(shop.data, { recursive: true, force: true });
    },
  };
}

/** Puts away what the shops of this process were copied from. */
export async function forgetFirst(): Promise<void> {
  if (first === undefined) return;
  const { database, data } = await first;
  first = undefined;
  await query(`drop database ${database} with (force)`);
  await rm(data, { recursive: true, force: true });
}
