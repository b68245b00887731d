import * as z from 'zod';

/** A call with this header is answered as it will be at that moment, in milliseconds since 1970 UTC, where it reads what moments change. */
export const MOMENT_HEADER = 'x-moment';
/** A call with this header is answered as a customer group has it, by its id, where it reads what groups change. */
export const GROUP_HEADER = 'x-customer-group';

/** One HTTP call: where it is, what goes in, what comes back. Server and web both read this entry. */
export interface Call<Params, Query, Body, Answer, Sent = Body> {
  readonly method: 'GET' | 'POST' | 'PATCH' | 'DELETE';
  readonly path: string;
  readonly params: z.ZodType<Params>;
  readonly query: z.ZodType<Query>;
  readonly body: z.ZodType<Body, Sent>;
  readonly answer: z.ZodType<Answer>;
}

const nothing = z.object({});

/** Describes a call; parts that are left out are empty. `:name` in the path is a param. */
export function call<
  Answer,
  Params = Record<string, never>,
  Query = Record<string, never>,
  Body = Record<string, never>,
  Sent = Body,
>(
  method: 'GET' | 'POST' | 'PATCH' | 'DELETE',
  path: string,
  parts: {
    params?: z.ZodType<Params>;
    query?: z.ZodType<Query>;
    body?: z.ZodType<Body, Sent>;
    answer: z.ZodType<Answer>;
  },
): Call<Params, Query, Body, Answer, Sent> {
  return {
    method,
    path,
    params: (parts.params ?? nothing) as z.ZodType<Params>,
    query: (parts.query ?? nothing) as z.ZodType<Query>,
    body: (parts.body ?? nothing) as unknown as z.ZodType<Body, Sent>,
    answer: parts.answer,
  };
}

/** What a handler is given of a call's query and body, and what it answers with. */
export type QueryOf<C> = C extends Call<infer _P, infer Q, infer _B, infer _A, infer _S> ? Q : never;
export type BodyOf<C> = C extends Call<infer _P, infer _Q, infer B, infer _A, infer _S> ? B : never;
export type AnswerOf<C> = C extends Call<infer _P, infer _Q, infer _B, infer A, infer _S> ? A : never;
