import { type Work, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import PgBoss from 'pg-boss';
import { type Logger } from 'pino';
import { connect, type Db, inTransaction, type Tx, withConnection } from '../db/connect.ts';
import { isAway } from '../db/away.ts';
import { Refusal } from '../refusal.ts';
import {
  Interrupted,
  makeWork,
  type Progress,
  progressOf,
  readWork,
  shown,
  Stopped,
  takeUp,
  updateWork,
  type WorkRow,
} from './work.ts';

/** One kind of work that outlives a request. */
export interface Handler {
  /** Does one piece of it; may be run again from its start after a restart, so what it writes must bear that. */
  perform(
    data: never,
    context: Progress & { readonly person: string; readonly work: string },
  ): Promise<{ readonly result?: string; readonly note?: string }>;
  /** Undoes the marks of `prepare`, for work that ends without being done. */
  undo?(tx: Tx, data: never): Promise<void>;
  /** Takes back the marks of work that is not there any more. */
  undoLeft?(tx: Tx): Promise<void>;
}

const QUEUE = 'work';
/** What nobody waits for has a queue of its own, so that nobody waits behind it. */
const BESIDE = 'beside';
const queueOf = (kind: Work['kind']): string => (kind === 'pictures' ? BESIDE : QUEUE);
/** Any number that nothing else locks with; the second key is the work's id. */
const LOCK = 20_260_901;
/** The library does not retry a failed job: `takeUpLeft` takes up all work that nobody holds. */
const JOB = { retryLimit: 0, expireInMinutes: 60 };
const LOOK_FOR_LEFT_MS = 2_000;
/** Work that was begun this many times without an end is given up: it probably crashes the process. */
const MOST_TRIES = 5;

/** Work that outlives a request, on PostgreSQL: several servers may share it, and a restart loses none of it. */
export class WorkQueue {
  private readonly boss: PgBoss;
  /** Progress is told while the work holds a connection of the shop's pool; so it has a pool of its own. */
  private readonly own: Db;
  private readonly closing = new AbortController();
  /** What each queue is at, and who takes it from there. */
  private readonly performing = new Map<string, Promise<void>>();
  private readonly workers = new Map<string, string>();
  private looking: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Db,
    private readonly handlers: Readonly<Record<Work['kind'], Handler>>,
    private readonly log: Logger,
  ) {
    this.own = connect(db.url, { connections: 4 });
    this.boss = new PgBoss({ db: { executeSql: this.executeSql }, schema: 'queue', schedule: false });
    this.boss.on('error', (error) => log.warn({ err: error }, 'queue'));
  }

  /**
   * The library does not wait until it has noted how a job ended, and a rejection of that would end the process. While the
   * database is away it is told that no job was noted: `takeUpLeft` goes by the work itself.
   */
  private readonly executeSql = async (text: string, values?: unknown[]): Promise<{ rows: unknown[] }> => {
    try {
      return await this.own.pool.query(text, values);
    } catch (error) {
      // Notes of how jobs ended are the statements about a list of jobs.
      if (!Array.isArray(values?.[1])) throw error;
      this.log.warn({ err: error as Error }, 'queue');
      return { rows: [{ count: 0 }] };
    }
  };

  async start(): Promise<void> {
    await this.boss.start();
    for (const queue of [QUEUE, BESIDE]) {
      await this.boss.createQueue(queue);
      const worker = await this.boss.work<{ work: string }>(queue, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
        if (!job) return;
        const performing = this.run(job.data.work);
        this.performing.set(queue, performing);
        await performing;
      });
      this.workers.set(queue, worker);
    }
    await this.takeUpLeft();
    this.looking = setInterval(() => {
      this.takeUpLeft().catch((error: unknown) => this.log.warn({ err: error as Error }, 'queue'));
    }, LOOK_FOR_LEFT_MS);
  }

  /** Closes the queue. What it is at is interrupted at its next report, and taken up again by the next start. */
  async stop(): Promise<void> {
    clearInterval(this.looking);
    this.closing.abort();
    await this.boss.stop({ graceful: false, wait: true });
    await Promise.allSettled(this.performing.values());
    await this.own.pool.end();
  }

  /**
   * Adds a piece of work. What it is about is marked by `prepare`, in the transaction that notes the work and queues it:
   * all of it is there, or none.
   */
  async add(
    person: string,
    kind: Work['kind'],
    prepare: (tx: Tx) => Promise<{ readonly title: string; readonly data: object }>,
  ): Promise<Work> {
    const work = await inTransaction(this.db, async (tx) => {
      const { title, data } = await prepare(tx);
      const made = await makeWork(tx, person, kind, title, data);
      await this.send(made, tx);
      return made;
    });
    this.wake(queueOf(kind));
    return work;
  }

  /** Asks a piece of work to stop. It does so at its next report; one that still waits is over at once. */
  async askToStop(id: string): Promise<Work> {
    return inTransaction(this.db, async (tx) => {
      const { rows } = await sql<{ waits: boolean }>`
        update work set stop_asked = true where id = ${id} and state in ('waiting', 'running')
        returning state = 'waiting' as waits`.execute(tx.q);
      const work = await readWork(tx, id);
      if (!rows[0]?.waits) return shown(work);
      const note = new Stopped().message;
      await this.undo(tx, work);
      await updateWork(tx, id, { state: 'stopped', note });
      return shown({ ...work, state: 'stopped', note });
    });
  }

  private async send({ id, kind }: Pick<Work, 'id' | 'kind'>, tx: Tx): Promise<void> {
    const db = { executeSql: (text: string, values: unknown[]) => tx.client.query(text, values) };
    await this.boss.send(queueOf(kind), { work: id }, { ...JOB, db });
  }

  /** This server need not wait for its next look into the queue. */
  private wake(queue: string): void {
    const worker = this.workers.get(queue);
    if (worker !== undefined) this.boss.notifyWorker(worker);
  }

  /**
   * Work that nobody holds and no job waits for is put in the queue once more: its server ended, or lost the database. Marks
   * of work that is not there are taken back.
   */
  private async takeUpLeft(): Promise<void> {
    const left = await inTransaction(this.own, async (tx) => {
      for (const handler of Object.values(this.handlers)) await handler.undoLeft?.(tx);
      const { rows } = await sql<Pick<Work, 'id' | 'kind'>>`
        select id, kind from work w where state in ('waiting', 'running')
          and not exists (select from queue.job j where j.name in (${QUEUE}, ${BESIDE}) and j.data->>'work' = w.id::text and j.state < 'active')
          and not exists (
            select from pg_locks l where l.locktype = 'advisory' and l.classid = ${LOCK}::int and l.objid = w.id::int
              and l.database = (select oid from pg_database where datname = current_database()))
        order by id
      `.execute(tx.q);
      for (const work of rows) await this.send(work, tx);
      return rows;
    });
    for (const { kind } of left) this.wake(queueOf(kind));
  }

  /** Runs one piece of work, unless it is over or another server holds it. */
  private run(id: string): Promise<void> {
    return withConnection(this.own, async (client) => {
      const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1, $2::int) as got', [
        LOCK,
        id,
      ]);
      if (!rows[0]?.got) return;
      try {
        await this.perform(id);
      } finally {
        await client.query('select pg_advisory_unlock($1, $2::int)', [LOCK, id]);
      }
    });
  }

  private async perform(id: string): Promise<void> {
    const work = await takeUp(this.own, id);
    if (!work) return;
    try {
      if (work.tries > MOST_TRIES) throw new Refusal('busy', refusalWords.jobs.triedTooOften(MOST_TRIES));
      const context = { person: work.person_id, work: id, ...progressOf(this.own, id, this.closing.signal) };
      const { result = null, note = null } = await this.handlers[work.kind].perform(work.data as never, context);
      const { done, total } = await readWork(this.own, id);
      await updateWork(this.own, id, { state: 'done', result, note, done: total ?? done });
    } catch (error) {
      // Left as it is, it is taken up again: by the next start, or when the database is back.
      if (error instanceof Interrupted || isAway(error)) return;
      await this.end(work, error as Error);
    }
  }

  /** Ends work that was not done, and takes back what was marked for it. */
  private async end(work: WorkRow, error: Error): Promise<void> {
    const stopped = error instanceof Stopped;
    const foreseen = stopped || error instanceof Refusal;
    if (!foreseen) this.log.error({ err: error, work: work.id }, 'work failed');
    const note = foreseen ? error.message : refusalWords.jobs.failed;
    await inTransaction(this.own, async (tx) => {
      await this.undo(tx, work);
      await updateWork(tx, work.id, { state: stopped ? 'stopped' : 'failed', note });
    });
  }

  private async undo(tx: Tx, { kind, data }: WorkRow): Promise<void> {
    await this.handlers[kind].undo?.(tx, data as never);
  }
}
