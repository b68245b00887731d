import { type Call, refusalWords } from '@ivory/contract';
import { type Context, type Hono } from 'hono';
import { type ZodType } from 'zod';
import { Refusal } from '../refusal.ts';
import { type LookedAt, lookedAtBy } from './lookedAt.ts';

/**
 * What comes in, by its schema; or a refusal that says at which place it cannot be read. What a person typed is tested by
 * rules of the contract's own, and those say in words what is wrong.
 */
export function parsed<T>(schema: ZodType<T>, value: unknown): T {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const { issues } = read.error;
  if (issues.every(({ code }) => code === 'custom'))
    throw new Refusal('not valid', issues.map(({ message }) => message).join(' '));
  const [issue] = issues;
  const place = issue?.path.join('.') ?? '';
  throw new Refusal('not valid', refusalWords.http.requestUnreadable(place, issue?.message));
}

/** Half of a pair of UTF-16, which no encoding of text can hold. */
const LONE_SURROGATE = /\p{Cs}/gu;

/** Text as PostgreSQL can keep it: without NUL, which nobody can see, and with a mark for halves of characters. */
export const keepable = (text: string): string => text.replaceAll('\0', '').replace(LONE_SURROGATE, '\ufffd');

/** Params or query of a request, by their schema; for requests that `serve` does not serve. */
export const parsedTexts = <T>(schema: ZodType<T>, values: Readonly<Record<string, string>>): T =>
  parsed(schema, clean(values));

const clean = (values: Readonly<Record<string, string>>) =>
  Object.fromEntries(Object.entries(values).map(([name, value]) => [name, keepable(value)]));

async function bodyOf(c: Context): Promise<unknown> {
  const text = await c.req.text();
  try {
    if (text === '') return {};
    // Looking once is far cheaper than asking about every value of a large request.
    const cleaning = /\\u(?:0000|d[89a-f])/i.test(text)
      ? (_: string, value: unknown) => (typeof value === 'string' ? keepable(value) : value)
      : undefined;
    return JSON.parse(text, cleaning) as unknown;
  } catch {
    throw new Refusal('not valid', refusalWords.http.bodyNotJson);
  }
}

/** The parsed input of a call. `asker` is aborted when the client disconnects; `looked` is the moment and customer group that it asks for. */
interface Input<Params, Query, Body> {
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly asker: AbortSignal;
  readonly looked: LookedAt;
}

/** Serves one call of the contract: what comes in is parsed by its schemas, what goes out has its type. */
export function serve<Params, Query, Body, Answer, Sent>(
  app: Hono,
  call: Call<Params, Query, Body, Answer, Sent>,
  handle: (input: Input<Params, Query, Body>) => Promise<Answer>,
): void {
  app.on(call.method, call.path, async (c) => {
    const params = parsedTexts(call.params, c.req.param());
    const query = parsedTexts(call.query, c.req.query());
    const body = parsed(call.body, call.method === 'GET' ? {} : await bodyOf(c));
    return c.json((await handle({ params, query, body, asker: c.req.raw.signal, looked: lookedAtBy(c) })) as object);
  });
}

/** The name that came along, percent-encoded; one that does not read is no reason to refuse the file. */
export function sentName(header: string | undefined, otherwise = 'file.csv'): string {
  try {
    return keepable(decodeURIComponent(header ?? otherwise)).slice(0, 200);
  } catch {
    return (header ?? otherwise).slice(0, 200);
  }
}
