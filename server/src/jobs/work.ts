import { type Work } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { told } from '../db/tell.ts';
import { Refusal } from '../refusal.ts';

type WorkRow = Work & { readonly data: unknown; readonly person_id: string };
const COLUMNS = ['id', 'kind', 'title', 'state', 'done', 'total', 'note', 'result', 'data', 'person_id'] as const;

/** Thrown out of a piece of work that somebody asked to stop; the message is what they read. */
export class Stopped extends Error {
  constructor(message = 'Stopped. Nothing was changed.') {
    super(message);
  }
}

/** Notes a piece of work; the queue is told of it by the caller. */
export async function makeWork(db: Db, person: string, kind: Work['kind'], title: string, data: object): Promise<Work> {
  const row = await db.q
    .insertInto('work')
    .values({ person_id: person, kind, title, data: JSON.stringify(data), total: null, note: null, result: null })
    .returning(COLUMNS)
    .executeTakeFirstOrThrow();
  return shown(row);
}

export const shown = ({ id, kind, title, state, done, total, note, result }: WorkRow): Work => ({
  id,
  kind,
  title,
  state,
  done,
  total,
  note,
  result,
});

export async function readWork(db: Db, id: string): Promise<WorkRow> {
  const row = await db.q.selectFrom('work').select(COLUMNS).where('id', '=', id).executeTakeFirst();
  if (!row) throw new Refusal('not found', 'There is no such work.');
  return row;
}

/** Work of the last day, newest first. */
export async function listWork(db: Db): Promise<Work[]> {
  const rows = await db.q
    .selectFrom('work')
    .select(COLUMNS)
    .where('made_at', '>', sql<Date>`now() - interval '1 day'`)
    .orderBy('id', 'desc')
    .limit(20)
    .execute();
  return rows.map((row) => shown(row as WorkRow));
}

type Change = Partial<Pick<Work, 'state' | 'done' | 'total' | 'note' | 'result'>>;

/** Writes down how a piece of work stands and tells every open browser. */
export async function updateWork(db: Db, id: string, change: Change): Promise<void> {
  const row = await db.q.updateTable('work').set(change).where('id', '=', id).returning(COLUMNS).executeTakeFirst();
  if (!row) return;
  await sql`select ${told({ kind: 'work', work: shown(row) })}`.execute(db.q);
}

/** How a piece of work tells how far it is, and hears that somebody asked to stop it. */
export interface Progress {
  /** Reports rows done, of how many where that is known, at most a few times a second. Throws `Stopped` when it was asked to stop. */
  readonly report: (done: number, total: number | null) => Promise<void>;
  /** Waits for what has no rows to report, and says in words what that is. Asked to stop, it aborts the signal and throws `Stopped`. */
  readonly waitFor: <T>(what: string, wait: (signal: AbortSignal) => Promise<T>) => Promise<T>;
}

/** Milliseconds between two looks at a piece of work: a few times a second. */
const OFTEN = 250;

export function progressOf(db: Db, id: string): Progress {
  const isStopAsked = async () => {
    const { rows } = await sql<{ stop_asked: boolean }>`select stop_asked from work where id = ${id}`.execute(db.q);
    return rows[0]?.stop_asked === true;
  };
  let last = 0;
  return {
    async report(done, total) {
      const now = performance.now();
      if (now - last < OFTEN) return;
      last = now;
      if (await isStopAsked()) throw new Stopped();
      await updateWork(db, id, { done, total });
    },
    async waitFor(what, wait) {
      const stop = new AbortController();
      const look = setInterval(() => {
        isStopAsked().then(
          (asked) => asked && stop.abort(),
          () => undefined,
        );
      }, OFTEN);
      await updateWork(db, id, { note: what });
      try {
        return await wait(stop.signal);
      } catch (error) {
        throw stop.signal.aborted ? new Stopped() : error;
      } finally {
        clearInterval(look);
        await updateWork(db, id, { note: null });
      }
    },
  };
}

/** Asks a piece of work to stop; it does so at its next report, and nothing of it lands. */
export async function stopWork(db: Db, id: string): Promise<Work> {
  await sql`
    update work set stop_asked = true, state = case when state = 'waiting' then 'stopped' else state end
    where id = ${id} and state in ('waiting', 'running')`.execute(db.q);
  return shown(await readWork(db, id));
}
