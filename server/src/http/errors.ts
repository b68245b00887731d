import { problemWords, type ProblemDetails, refusalWords } from '@ivory/contract';
import { type Context } from 'hono';
import { type ContentfulStatusCode } from 'hono/utils/http-status';
import { type Logger } from 'pino';
import { isAway } from '../db/away.ts';
import { Refusal, type RefusalKind } from '../refusal.ts';

const STATUS: Readonly<Record<RefusalKind, ContentfulStatusCode>> = {
  'not found': 404,
  'not valid': 422,
  clash: 409,
  'too large': 413,
  'not allowed': 403,
  busy: 503,
};

const QUERY_CANCELLED = '57014';

/** Turns any thrown error into RFC 9457 problem details. Unforeseen errors are logged, and their message is not told. */
export function answerError(error: Error, c: Context, log: Logger): Response {
  const refusal = refusalOf(error);
  if (!refusal) log.error({ err: error, path: c.req.path }, 'unforeseen');
  const { message, places } = refusal ?? new Refusal('busy', refusalWords.http.unforeseen);
  const status = refusal ? STATUS[refusal.kind] : 500;
  const details: ProblemDetails = {
    type: 'about:blank',
    title: message,
    status,
    ...(places.length > 0 && { detail: places.map(problemWords).join(' '), places: [...places] }),
  };
  return c.json(details, status, { 'content-type': 'application/problem+json' });
}

/** A refusal of ours, or what an error of the database is to a person. */
function refusalOf(error: Error): Refusal | undefined {
  if (error instanceof Refusal) return error;
  if ((error as { code?: unknown }).code === QUERY_CANCELLED) return new Refusal('busy', refusalWords.http.givenUp);
  if (!isAway(error)) return undefined;
  return new Refusal('busy', refusalWords.http.databaseAway);
}
