import { problemWords, type ProblemDetails } from '@ivory/contract';
import { type Context } from 'hono';
import { type ContentfulStatusCode } from 'hono/utils/http-status';
import { type Logger } from 'pino';
import { Refusal, type RefusalKind } from '../refusal.ts';

const STATUS: Readonly<Record<RefusalKind, ContentfulStatusCode>> = {
  'not found': 404,
  'not valid': 422,
  clash: 409,
  'too large': 413,
  busy: 503,
};

/** Turns whatever was thrown into RFC 9457 problem details. What nobody foresaw is logged, and says nothing of itself. */
export function answerError(error: Error, c: Context, log: Logger): Response {
  if (!(error instanceof Refusal)) log.error({ err: error, path: c.req.path }, 'unforeseen');
  const refusal =
    error instanceof Refusal
      ? error
      : new Refusal('busy', 'Something went wrong here. Nothing was changed. Try again.');
  const status = error instanceof Refusal ? STATUS[refusal.kind] : 500;
  const details: ProblemDetails = {
    type: 'about:blank',
    title: refusal.message,
    status,
    ...(refusal.places.length > 0 && {
      detail: refusal.places.map(problemWords).join(' '),
      places: [...refusal.places],
    }),
  };
  return c.json(details, status, { 'content-type': 'application/problem+json' });
}
