import { type Work, refusalWords } from '@ivory/contract';
import { type Kysely, type RawBuilder, sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { type Tables } from '../db/tables.ts';
import { told } from '../db/tell.ts';
import { Refusal } from '../refusal.ts';

export type WorkRow = Work & { readonly data: unknown; readonly person_id: string; readonly tries: number };
const COLUMNS = [
  ...(['id', 'kind', 'title', 'state', 'done', 'total', 'note', 'result'] as const),
  ...(['data', 'person_id', 'tries'] as const),
];

/** Queries inside a transaction or outside of one. */
type Asking = { readonly q: Kysely<Tables> };

/** Thrown out of a piece of work that somebody asked to stop; the message is what they read. */
export class Stopped extends Error {
  constructor(message: string = refusalWords.jobs.stopped) {
    super(message);
  }
}

/** Thrown out of a piece of work because the server closes; the next start takes the work up again. */
export class Interrupted extends Error {}

/** Notes a piece of work; the queue is told of it by the caller. */
export async function makeWork(
  { q }: Asking,
  person: string,
  kind: Work['kind'],
  title: string,
  data: object,
): Promise<Work> {
  const row = await q
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

export async function readWork({ q }: Asking, id: string): Promise<WorkRow> {
  const row = await q.selectFrom('work').select(COLUMNS).where('id', '=', id).executeTakeFirst();
  if (!row) throw new Refusal('not found', refusalWords.jobs.noSuchWork);
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
export async function updateWork({ q }: Asking, id: string, change: Change): Promise<void> {
  const row = await q.updateTable('work').set(change).where('id', '=', id).returning(COLUMNS).executeTakeFirst();
  if (!row) return;
  await sql`select ${told({ kind: 'work', work: shown(row) })}`.execute(q);
}

/** Whether no work that is not over is about something: `key` is where its data names that, `id` what it is. */
export const nobodyWorksOn = (kind: Work['kind'], key: string, id: RawBuilder<unknown>): RawBuilder<boolean> =>
  sql<boolean>`not exists (
    select from work w where w.kind = ${kind} and w.state in ('waiting', 'running') and w.data->>${key} = ${id}::text)`;

/** Takes up work that is not over: it runs from now on, once more tried. Undefined when it is over. */
export async function takeUp({ q }: Asking, id: string): Promise<WorkRow | undefined> {
  const row = await q
    .updateTable('work')
    .set({ state: 'running', done: 0, note: null, tries: sql`tries + 1` })
    .where('id', '=', id)
    .where('state', 'in', ['waiting', 'running'])
    .returning(COLUMNS)
    .executeTakeFirst();
  if (row) await sql`select ${told({ kind: 'work', work: shown(row) })}`.execute(q);
  return row;
}

/** How a piece of work tells how far it is, and hears that somebody asked to stop it. */
export interface Progress {
  /** Reports rows done, of how many where that is known, at most a few times a second. Throws `Stopped` when it was asked to stop. */
  readonly report: (done: number, total: number | null) => Promise<void>;
  /** Waits for what has no rows to report, and says in words what that is. Asked to stop, it aborts the signal and throws `Stopped`. */
  readonly waitFor: <T>(what: string, wait: (signal: AbortSignal) => Promise<T>) => Promise<T>;
}

/** Milliseconds between two looks at a piece of work: a few times a second. */
const OFTEN_MS = 250;

/** The progress of one piece of work; `closing` is aborted when the server closes, which interrupts it. */
export function progressOf(db: Db, id: string, closing: AbortSignal): Progress {
  const isStopAsked = async () => {
    const { rows } = await sql<{ stop_asked: boolean }>`select stop_asked from work where id = ${id}`.execute(db.q);
    return rows[0]?.stop_asked === true;
  };
  let last = -Infinity;
  return {
    async report(done, total) {
      if (closing.aborted) throw new Interrupted('The server closes.');
      const now = performance.now();
      if (now - last < OFTEN_MS) return;
      last = now;
      if (await isStopAsked()) throw new Stopped();
      await updateWork(db, id, { done, total });
    },
    async waitFor(what, wait) {
      const stop = new AbortController();
      const look = setInterval(() => {
        if (closing.aborted) stop.abort();
        isStopAsked().then(
          (asked) => asked && stop.abort(),
          () => undefined,
        );
      }, OFTEN_MS);
      await updateWork(db, id, { note: what });
      try {
        return await wait(stop.signal);
      } catch (error) {
        if (closing.aborted) throw new Interrupted('The server closes.');
        throw stop.signal.aborted ? new Stopped() : error;
      } finally {
        clearInterval(look);
        await updateWork(db, id, { note: null });
      }
    },
  };
}
