import { outletSettingsOf, refusalWords } from '@ivory/contract';
import { setTimeout as pause } from 'node:timers/promises';
import { type Db } from '../db/connect.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { Interrupted, type Progress, Stopped } from '../jobs/work.ts';
import { Refusal } from '../refusal.ts';

/** How patiently an outlet is tried. */
export interface Engine {
  readonly tries: number;
  readonly waitMs: number;
  readonly timeoutMs: number;
}
export const PATIENT: Engine = { tries: 3, waitMs: 2_000, timeoutMs: 120_000 };

/** One line of a reply. */
export interface ItemReply {
  readonly id: string;
  readonly state: 'accepted' | 'warned' | 'refused';
  readonly messages: readonly string[];
}

/** Aborts when it is told to stop, or when the time is over; `AbortSignal.any` may lose a time that nothing else holds. */
function within(ms: number, stop: AbortSignal): AbortSignal {
  const both = new AbortController();
  stop.addEventListener('abort', () => both.abort(stop.reason), { once: true });
  setTimeout(() => both.abort(new DOMException('The time is over.', 'TimeoutError')), ms).unref();
  return both.signal;
}

/** Hands a written file to its outlet, trying again when it is down or slow, and gives back the reply as it comes. */
export async function handOver(
  db: Db,
  files: FileStore,
  delivery: string,
  engine: Engine,
  waitFor: Progress['waitFor'],
): Promise<AsyncIterable<ItemReply>> {
  const { file_key, file_name, settings, name } = await db.q
    .selectFrom('delivery')
    .innerJoin('outlet', 'outlet.id', 'delivery.outlet_id')
    .select(['file_key', 'file_name', 'settings', 'outlet.name'])
    .where('delivery.id', '=', delivery)
    .executeTakeFirstOrThrow();
  const { address, namespace } = outletSettingsOf(settings);
  let last = '';
  let tried = 0;
  for (let attempt = 1; attempt <= engine.tries; attempt++) {
    tried = attempt;
    if (attempt > 1) {
      const wait = engine.waitMs * (attempt - 1);
      await waitFor(`${name}: ${last}. It will be tried again`, (signal) => pause(wait, undefined, { signal }));
    }
    try {
      const response = await waitFor(`${name} is reading the file`, (stop) =>
        fetch(address, {
          method: 'POST',
          headers: { 'content-type': 'application/rss+xml', 'x-file-name': file_name, 'x-namespace': namespace },
          body: files.get(file_key) as unknown as BodyInit,
          duplex: 'half',
          signal: within(engine.timeoutMs, stop),
        } as RequestInit & { duplex: 'half' }),
      );
      if (response.ok && response.body) {
        await db.q.updateTable('delivery').set({ handed_over: true }).where('id', '=', delivery).execute();
        return replyLines(response.body, name);
      }
      last = `it answered ${response.status}: ${(await response.text()).slice(0, 200)}`;
      // What it calls our fault will not get better by trying again.
      if (response.status >= 400 && response.status < 500) break;
    } catch (error) {
      if (error instanceof Stopped || error instanceof Interrupted) throw error;
      last =
        (error as Error).name === 'TimeoutError'
          ? `it did not answer within ${engine.timeoutMs / 1000} s`
          : 'it cannot be reached';
    }
  }
  throw new Refusal('busy', refusalWords.outlets.notHandedOver(name, last, tried));
}

/** Reads a reply in JSON Lines; anything else is refused with the line that does not read. */
async function* replyLines(body: ReadableStream<Uint8Array>, outlet: string): AsyncGenerator<ItemReply> {
  const decoder = new TextDecoder();
  let rest = '';
  let line = 0;
  const read = (text: string): ItemReply => {
    line++;
    try {
      const { id, state, messages } = JSON.parse(text) as ItemReply;
      if (typeof id === 'string' && ['accepted', 'warned', 'refused'].includes(state) && Array.isArray(messages)) {
        return { id, state, messages: messages.map(String) };
      }
    } catch {
      // Falls through to the one refusal for everything that is not a reply.
    }
    throw new Refusal('busy', refusalWords.outlets.replyUnreadable(outlet, line, text));
  };
  for await (const bytes of body as unknown as AsyncIterable<Uint8Array>) {
    const lines = (rest + decoder.decode(bytes, { stream: true })).split('\n');
    rest = lines.pop()!;
    for (const text of lines) if (text.trim()) yield read(text);
  }
  if (rest.trim()) yield read(rest);
}
