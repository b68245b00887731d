import { type Work } from '@ivory/contract';
import PgBoss from 'pg-boss';
import { type Logger } from 'pino';
import { type Db, withConnection } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';
import { makeWork, type Progress, progressOf, readWork, Stopped, updateWork } from './work.ts';

/** Does one piece of work; may be run again from its start after a restart, so what it writes must bear that. */
export type Handler = (
  data: never,
  context: Progress & { readonly person: string; readonly work: string },
) => Promise<{ readonly result?: string; readonly note?: string }>;

const QUEUE = 'work';
/** Any number that nothing else locks with; the second key is the work's id. */
const LOCK = 20_260_901;
const RETRY = { retryLimit: 3, retryDelay: 1, expireInMinutes: 60 };

/** Work that outlives a request, on PostgreSQL: several servers may share it, and a restart loses none of it. */
export class WorkQueue {
  private readonly boss: PgBoss;
  private worker: string | undefined;

  constructor(
    private readonly db: Db,
    private readonly handlers: Readonly<Record<Work['kind'], Handler>>,
    private readonly log: Logger,
  ) {
    this.boss = new PgBoss({ connectionString: db.url, max: 3, schema: 'queue' });
    this.boss.on('error', (error) => log.warn({ err: error }, 'queue'));
  }

  async start(): Promise<void> {
    await this.boss.start();
    await this.boss.createQueue(QUEUE);
    this.worker = await this.boss.work<{ work: string }>(QUEUE, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await this.run(job.data.work);
    });
    await this.takeUpAgain();
  }

  async stop(): Promise<void> {
    await this.boss.stop({ graceful: false, wait: true });
  }

  async add(person: string, kind: Work['kind'], title: string, data: object): Promise<Work> {
    const work = await makeWork(this.db, person, kind, title, data);
    await this.boss.send(QUEUE, { work: work.id }, RETRY);
    // This server need not wait for its next look into the queue.
    if (this.worker !== undefined) this.boss.notifyWorker(this.worker);
    return work;
  }

  /** Work that a server was doing when it ended is not held by anybody: it is put in the queue once more. */
  private async takeUpAgain(): Promise<void> {
    const left = await this.db.q.selectFrom('work').select('id').where('state', 'in', ['running', 'waiting']).execute();
    for (const { id } of left) await this.boss.send(QUEUE, { work: id }, RETRY);
  }

  /** Runs one piece of work, unless it is done or another server holds it. */
  private run(id: string): Promise<void> {
    return withConnection(this.db, async (client) => {
      const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1, $2::int) as got', [
        LOCK,
        id,
      ]);
      if (!rows[0]?.got) return;
      try {
        const { state } = await readWork(this.db, id);
        if (state === 'waiting' || state === 'running') await this.perform(id);
      } finally {
        await client.query('select pg_advisory_unlock($1, $2::int)', [LOCK, id]);
      }
    });
  }

  private async perform(id: string): Promise<void> {
    const { kind, data, person_id: person } = await readWork(this.db, id);
    await updateWork(this.db, id, { state: 'running', done: 0, note: null });
    try {
      const context = { person, work: id, ...progressOf(this.db, id) };
      const { result = null, note = null } = await this.handlers[kind](data as never, context);
      const { done, total } = await readWork(this.db, id);
      await updateWork(this.db, id, { state: 'done', result, note, done: total ?? done });
    } catch (error) {
      if (error instanceof Stopped) await updateWork(this.db, id, { state: 'stopped', note: error.message });
      else {
        const foreseen = error instanceof Refusal;
        if (!foreseen) this.log.error({ err: error as Error, work: id }, 'work failed');
        const note = foreseen ? error.message : 'Something went wrong. Nothing was changed. Try again.';
        await updateWork(this.db, id, { state: 'failed', note });
      }
    }
  }
}
