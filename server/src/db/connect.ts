import { type Field, type Moment, momentOf } from '@ivory/core';
import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';
import { type Tables } from './tables.ts';

/**
 * The database: typed queries through `q`, or through `often` when they are asked all day for a handful of rows, and every
 * connection is to plan them once; `pool` for what needs a connection of its own (COPY, LISTEN).
 */
export interface Db {
  readonly q: Kysely<Tables>;
  readonly often: Kysely<Tables>;
  readonly pool: pg.Pool;
  readonly url: string;
  /** Fields that this server has beside those that every shop has. */
  readonly more: readonly Field[];
  /** What tells which day it is for what is asked by the day. */
  readonly clock: () => Moment;
  /** The clock stands at a past moment: prices are those on record. */
  readonly isPast?: boolean;
  /** The customer group whose prices are asked for, by its id; without one, those of anybody. */
  readonly group?: string;
}

/** One connection inside a transaction: typed queries and COPY see the same. */
export interface Tx {
  readonly q: Kysely<Tables>;
  readonly client: pg.PoolClient;
  /** Of its database. */
  readonly url: string;
  readonly more: readonly Field[];
  readonly clock: () => Moment;
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

/** What a pool of connections is opened with, besides where. */
export interface ConnectOptions {
  readonly connections?: number;
  /** Fields that this server adds to those of every shop. */
  readonly more?: readonly Field[];
  readonly clock?: () => Moment;
  /**
   * After so many milliseconds a single statement is given up, so that no question holds up others; work within transactions may take
   * as long as it does. 0 is without end.
   */
  readonly longestQuestion?: number;
}

/** Opens a pool of connections to a database. */
export function connect(url: string, options: ConnectOptions = {}): Db {
  const { connections = 10, more = [], clock = () => momentOf(Date.now()), longestQuestion = 0 } = options;
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: PATIENCE,
    idleTimeoutMillis: KEPT_IDLE,
    options: `${SETTINGS} -c statement_timeout=${longestQuestion}`,
  });
  // A connection that breaks is replaced at its next use, and fails what is asked of it. An error of a connection that
  // nobody listens to would end the process, be it idle or lent to somebody: so each has a listener for as long as it lives.
  pool.on('error', () => undefined);
  pool.on('connect', (client) => client.on('error', () => undefined));
  const often = through(async () => {
    const client = await pool.connect();
    return lent(client, { query: queryByName(client), release: () => client.release() });
  });
  return { q: new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) }), often, pool, url, more, clock };
}

const through = (connect: () => Promise<pg.PoolClient>) =>
  new Kysely<Tables>({ dialect: new PostgresDialect({ pool: { connect, end: () => Promise.resolve() } }) });

/** A connection some of whose methods are others. */
const lent = (client: pg.PoolClient, methods: Readonly<Record<string, unknown>>): pg.PoolClient =>
  new Proxy(client, {
    get: (target, key) => {
      const value: unknown = Reflect.get(Object.hasOwn(methods, key) ? methods : target, key);
      return typeof value === 'function' ? (value.bind(target) as unknown) : value;
    },
  });

/** A statement under the name by which each connection knows it: it is read and planned once. Planning is most of a small one. */
const queryByName = (client: pg.PoolClient) => (text: string, values: unknown[]) =>
  client.query({ ...named(text), values });

const NAMES = new Map<string, string>();
/** More texts than this are not of a few kinds that come again and again: they are planned each time. */
const MOST_NAMES = 300;

/** The text of a query with its name, for queries that are asked all day for a handful of rows. */
export function named(text: string): { readonly text: string; readonly name?: string } {
  const known = NAMES.get(text);
  if (known !== undefined) return { text, name: known };
  if (NAMES.size >= MOST_NAMES) return { text };
  const name = `often_${NAMES.size}`;
  NAMES.set(text, name);
  return { text, name };
}

/** Lends a connection of the pool; one that broke meanwhile is not given back to it. */
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

const KEEP = { release: () => undefined };

/** Runs `work` in one transaction: all of it lands, or nothing does. */
export const inTransaction = <T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> => transaction(db, work, () => KEEP);

/** The same, where all statements see the shop as it stands at the first of them: for what is read in several, and is to agree. */
export const inSnapshot = <T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> =>
  transaction(db, work, () => KEEP, 'begin isolation level repeatable read');

/** The same for work on a handful of rows that is done all day: each connection plans its statements once. */
export const inShortTransaction = <T>(db: Db, work: (tx: Tx) => Promise<T>): Promise<T> =>
  transaction(db, work, (client) => ({ ...KEEP, query: queryByName(client) }));

function transaction<T>(
  db: Db,
  work: (tx: Tx) => Promise<T>,
  methods: (client: pg.PoolClient) => Readonly<Record<string, unknown>>,
  begin = 'begin',
): Promise<T> {
  const { url, more, clock } = db;
  return withConnection(db, async (client) => {
    await client.query(`${begin}; set local statement_timeout = 0`);
    try {
      const q = through(() => Promise.resolve(lent(client, methods(client))));
      const result = await work({ q, client, url, more, clock });
      await client.query('commit');
      return result;
    } catch (error) {
      // A connection that is lost has rolled back by itself.
      await client.query('rollback').catch(() => undefined);
      throw error;
    }
  });
}

/**
 * Runs `work` in one transaction. When `asker` is aborted, the running statement is cancelled in the database, and throws.
 */
export async function cancellable<T>(db: Db, asker: AbortSignal, work: (tx: Tx) => Promise<T>): Promise<T> {
  asker.throwIfAborted();
  const { url: connectionString } = db;
  return inTransaction(db, async (tx) => {
    const { processID } = tx.client as unknown as { processID: number };
    let cancelled: Promise<unknown> = Promise.resolve();
    const cancel = () => {
      const admin = new pg.Client({ connectionString });
      admin.on('error', () => undefined);
      cancelled = admin
        .connect()
        .then(() => admin.query('select pg_cancel_backend($1)', [processID]))
        .catch(() => undefined)
        .finally(() => admin.end().catch(() => undefined));
    };
    asker.addEventListener('abort', cancel, { once: true });
    try {
      return await work(tx);
    } finally {
      asker.removeEventListener('abort', cancel);
      // Given back before that, the connection might be cancelled in the middle of somebody else's work.
      await cancelled;
    }
  });
}

/**
 * Runs `work` with two transactions on two connections, for streaming rows out of one into the other; `writing` is all or
 * nothing, `reading` sees what had committed before it. The only place that takes a connection while it holds another: if all
 * connections were held by callers that wait for a second one, none would ever get it, so that at most four callers
 * hold one at a time. The others wait their turn in order.
 */
export async function inTwoTransactions<T>(db: Db, work: (reading: Tx, writing: Tx) => Promise<T>): Promise<T> {
  const turns = turnsOf(db.pool);
  await turns.begin();
  try {
    return await inTransaction(db, (reading) => {
      // eslint-disable-next-line no-restricted-syntax -- the one pair that the turns make safe
      return inTransaction(db, (writing) => work(reading, writing));
    });
  } finally {
    turns.end();
  }
}

/** Lets a number of callers go on at a time; the others wait in the order in which they came. */
class Turns {
  private readonly waiting: (() => void)[] = [];
  constructor(private free: number) {}

  async begin(): Promise<void> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((go) => this.waiting.push(go));
  }

  end(): void {
    const next = this.waiting.shift();
    if (next) next();
    else this.free++;
  }
}

const PAIRS_AT_A_TIME = 4;
const TURNS = new WeakMap<pg.Pool, Turns>();

function turnsOf(pool: pg.Pool): Turns {
  const turns = TURNS.get(pool) ?? new Turns(PAIRS_AT_A_TIME);
  TURNS.set(pool, turns);
  return turns;
}
