import { seedDemo } from '@ivory/demo';
import { tmpdir } from 'node:os';
import pg from 'pg';
import { pino } from 'pino';
import { connect } from '../db/connect.ts';
import { migrate } from '../db/migrate.ts';
import { startServer } from '../startServer.ts';

/** SKUs of the made-up shop that every test starts with. */
export const TEST_SKUS = 300;

const server = process.env['TEST_DATABASE_URL'];
let made = 0;
let template: Promise<string> | undefined;

const urlOf = (database: string): string => {
  const url = new URL(server!);
  url.pathname = `/${database}`;
  return url.href;
};

async function admin(...statements: string[]): Promise<void> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  try {
    for (const statement of statements) await client.query(statement);
  } finally {
    await client.end();
  }
}

/** Migrated and filled once for each test process; every test copies it in a few milliseconds. */
async function makeTemplate(): Promise<string> {
  if (server === undefined) throw new Error('TEST_DATABASE_URL names no server: run the tests by npm test.');
  const name = `template_${process.pid}`;
  await admin(`create database ${name}`);
  const db = connect(urlOf(name), { connections: 2 });
  await migrate(db);
  await seedDemo(db, { skus: TEST_SKUS });
  await db.pool.end();
  await makeQueues(urlOf(name));
  await admin(`alter database ${name} is_template true allow_connections false`);
  return name;
}

/** The tables of the queue are made by the first start of a server on a database, which takes longer than all else of it. */
async function makeQueues(databaseUrl: string): Promise<void> {
  const options = { databaseUrl, filesFolder: tmpdir(), storefront: '', port: 0, log: pino({ level: 'silent' }) };
  await (await startServer(options)).close();
}

/** A database with nothing in it, not even a schema. */
export async function emptyDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `empty_${process.pid}_${++made}`;
  await admin(`create database ${name}`);
  return { url: urlOf(name), drop: () => admin(`drop database ${name} with (force)`) };
}

/** A database of the demo shop for one test, gone when it is let go. */
export async function freshDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const from = await (template ??= makeTemplate());
  const name = `test_${process.pid}_${++made}`;
  await admin(`create database ${name} template ${from} strategy file_copy`);
  return { url: urlOf(name), drop: () => admin(`drop database ${name} with (force)`) };
}
