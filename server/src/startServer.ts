import { type Field, momentOf } from '@ivory/core';
import { serve, type ServerType } from '@hono/node-server';
import { type AddressInfo } from 'node:net';
import { pino, type Logger } from 'pino';
import { landDue } from './changes/planned/landDue.ts';
import { landTaxRatesOfToday } from './changes/land/landFollowing.ts';
import { landWork } from './changes/land/landWork.ts';
import { takeBackWork } from './changes/propose/takeBack.ts';
import { connect, type Db } from './db/connect.ts';
import { readImportWork } from './exchange/readImport.ts';
import { type AppContext } from './http/appContext.ts';
import { Events } from './http/events.ts';
import { makeApp } from './app.ts';
import { Origins } from './http/onlyOurPages.ts';
import { WorkQueue } from './jobs/queue.ts';
import { deliverWork } from './outlets/deliver.ts';
import { type Engine, PATIENT } from './outlets/handOver.ts';
import { FileStore } from './pictures/fileStore.ts';
import { askForRenditions, renderWork } from './pictures/renditions.ts';
import { demoPerson } from './asked/names.ts';
import { sweepOften, sweepOld } from './sweep.ts';

export interface ServerOptions {
  readonly databaseUrl: string;
  readonly filesFolder: string;
  readonly storefront: string;
  readonly web?: string;
  /** 0 takes a free port. */
  readonly port: number;
  readonly engine?: Engine;
  readonly log?: Logger;
  readonly clock?: () => number;
  /** Fields that this server adds to those that every shop has. */
  readonly fields?: readonly Field[];
  /** Hosts of private networks from which pictures may be fetched, as `127.0.0.1:8080`; none, where nothing is said. */
  readonly fetchesFrom?: readonly string[];
  /** Origins under which the server is reached besides the loopback address that it listens on. */
  readonly origins?: readonly string[];
}

export interface RunningServer {
  readonly address: string;
  readonly db: Db;
  close(): Promise<void>;
}

/** More than a question over a million SKUs takes. */
const LONGEST_QUESTION_MS = 20_000;
const SWEEP_OFTEN_MS = 60_000;
/** How soon behind its moment what is planned begins to land. */
const DUE_MS = 1_000;
const SWEEP_OLD_MS = 60 * 60_000;

/**
 * Starts the server: database, queue, events and HTTP on loopback. The schema must be up to date. When the port
 * is taken nothing stays open, and the error's code is EADDRINUSE.
 */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const log = options.log ?? pino({ level: 'warn' });
  const read = options.clock ?? Date.now;
  const clock = () => momentOf(read());
  const db = connect(options.databaseUrl, {
    clock,
    longestQuestion: LONGEST_QUESTION_MS,
    ...(options.fields && { more: options.fields }),
  });
  const files = new FileStore(options.filesFolder);
  const queue = new WorkQueue(
    db,
    {
      import: readImportWork(db, files),
      land: landWork(db),
      'take back': takeBackWork(db),
      deliver: deliverWork(db, files, options.engine ?? PATIENT, clock),
      pictures: renderWork(db, files),
    },
    log,
  );
  const events = new Events(options.databaseUrl, log);
  const person = await demoPerson(db);
  const { storefront, web } = options;
  const origins = new Origins(options.origins);
  const { fetchesFrom = [] } = options;
  const context = { db, files, queue, events, person, storefront, clock, log, origins, fetchesFrom };
  const app = makeApp({ ...context, ...(web !== undefined && { web }) });
  await events.start();
  await queue.start();
  const sweeping = runsByItself({ db, files, queue, person, clock, log });
  const close = async (server?: ServerType) => {
    sweeping.forEach((timer) => clearInterval(timer));
    await events.stop();
    if (server && 'closeAllConnections' in server) server.closeAllConnections();
    if (server) await new Promise((closed) => server.close(closed));
    await queue.stop();
    await db.pool.end();
  };
  const server = await listen(app.fetch, options.port).catch(async (error: unknown) => {
    await close();
    throw error;
  });
  const { port } = server.address() as AddressInfo;
  origins.listensOn(port);
  return {
    address: `http://127.0.0.1:${port}`,
    db,
    close: () => close(server),
  };
}

/** Begins what nobody starts: plans that are due, tax rates of a day, renditions, and sweeping. */
function runsByItself({
  db,
  files,
  queue,
  person,
  clock,
  log,
}: Pick<AppContext, 'db' | 'files' | 'queue' | 'person' | 'clock' | 'log'>): NodeJS.Timeout[] {
  const every = (ms: number, work: () => Promise<unknown>) =>
    setInterval(() => void work().catch((error: Error) => log.warn({ err: error }, 'sweep')), ms);
  return [
    every(SWEEP_OFTEN_MS, () => sweepOften(db)),
    every(SWEEP_OFTEN_MS, () => landTaxRatesOfToday(db, person.id)),
    every(
      DUE_MS,
      oneAtATime(() => landDue(db)),
    ),
    every(SWEEP_OFTEN_MS, () => askForRenditions(db, queue, person.id)),
    every(SWEEP_OLD_MS, () => sweepOld(db, files, clock())),
  ];
}

/** Passes over a turn while the one before is still at it. */
function oneAtATime(work: () => Promise<unknown>): () => Promise<unknown> {
  let running: Promise<unknown> | undefined;
  return () =>
    (running ??= work().finally(() => {
      running = undefined;
    }));
}

function listen(fetch: Parameters<typeof serve>[0]['fetch'], port: number): Promise<ServerType> {
  return new Promise((resolve, reject) => {
    const server = serve({ fetch, port, hostname: '127.0.0.1' }, () => resolve(server));
    server.once('error', reject);
  });
}
