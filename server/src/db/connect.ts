import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import { type Tables } from './tables.ts';

/** The database: typed queries through `q`; `pool` for what needs a connection of its own (COPY, LISTEN). */
export interface Db {
  readonly q: Kysely<Tables>;
  readonly pool: pg.Pool;
  readonly url: string;
}

/** One connection inside a transaction: typed queries and COPY see the same. */
export interface Tx {
  readonly q: Kysely<Tables>;
  readonly client: pg.PoolClient;
}

/** Waiting longer for a connection than this means that all of them wait for one another. */
const PATIENCE = 30_000;

/** Signing in costs tens of milliseconds, which nobody should wait for after a moment of thought. */
const KEPT_IDLE = 600_000;

/**
 * Queries here are many and short, so compiling them costs more than it saves; sets of 100,000 rows are sorted and
 * joined in memory; data that fits in memory is read from any place alike; and while one core finds rows, the others
 * have what comes out of it to work on.
 */
const SETTINGS = [
  '-c jit=off',
  '-c work_mem=64MB',
  '-c random_page_cost=1.1',
  '-c max_parallel_workers_per_gather=0',
].join(' ');

export function connect(url: string, connections = 10): Db {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: PATIENCE,
    idleTimeoutMillis: KEPT_IDLE,
    options: SETTINGS,
  });
  // A connection that breaks while idle is replaced at its next use; without a listener it would end the process.
  pool.on('error', () => undefined);
  return { q: new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) }), pool, url };
}

/** A Kysely that speaks through one given connection. */
function through(client: pg.PoolClient): Kysely<Tables> {
  const lent = new Proxy(client, {
    get: (target, key) => {
      if (key === 'release') return () => undefined;
      const value: unknown = Reflect.get(target, key, target);
      return typeof value === 'function' ? (value.bind(target) as unknown) : value;
    },
  });
  return new Kysely<Tables>({
    dialect: new PostgresDialect({
      pool: { connect: () => Promise.resolve(lent), end: () => Promise.resolve() },
    }),
  });
}

/** Lends a connection of the pool. One that breaks meanwhile fails what is asked of it, and never the process. */
export async function withConnection<T>(db: Db, work: (client: pg.PoolClient) => Promise<T>): Promise<T> {
  const client = await db.pool.connect();
  let broken: Error | undefined;
  const breaks = (error: Error) => (broken = error);
  client.on('error', breaks);
  try {
    return await work(client);
  } finally {
    client.off('error', breaks);
    client.release(broken);
  }
}

/** Runs `work` in one transaction: all of it lands, or nothing does. */
export function inTransaction<T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> {
  return withConnection(db, async (client) => {
    await client.query('begin');
    try {
      const result = await work({ q: through(client), client });
      await client.query('commit');
      return result;
    } catch (error) {
      // A connection that is lost has rolled back by itself.
      await client.query('rollback').catch(() => undefined);
      throw error;
    }
  });
}
