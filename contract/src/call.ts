import * as z from 'zod';

/** One HTTP call: where it is, what goes in, what comes back. Server and web both read this entry. */
export interface Call<Params, Query, Body, Answer> {
  readonly method: 'GET' | 'POST' | 'PATCH' | 'DELETE';
  readonly path: string;
  readonly params: z.ZodType<Params>;
  readonly query: z.ZodType<Query, unknown>;
  readonly body: z.ZodType<Body, unknown>;
  readonly answer: z.ZodType<Answer>;
}

const nothing = z.object({});

/** Describes a call; parts that are left out are empty. `:name` in the path is a param. */
export function call<
  Answer,
  Params = Record<string, never>,
  Query = Record<string, never>,
  Body = Record<string, never>,
>(
  method: Call<never, never, never, never>['method'],
  path: string,
  parts: {
    params?: z.ZodType<Params>;
    query?: z.ZodType<Query, unknown>;
    body?: z.ZodType<Body, unknown>;
    answer: z.ZodType<Answer>;
  },
): Call<Params, Query, Body, Answer> {
  return {
    method,
    path,
    params: (parts.params ?? nothing) as z.ZodType<Params>,
    query: (parts.query ?? nothing) as z.ZodType<Query, unknown>,
    body: (parts.body ?? nothing) as z.ZodType<Body, unknown>,
    answer: parts.answer,
  };
}

export type ParamsOf<C> = C extends Call<infer P, infer _Q, infer _B, infer _A> ? P : never;
export type QueryOf<C> = C extends Call<infer _P, infer Q, infer _B, infer _A> ? Q : never;
export type BodyOf<C> = C extends Call<infer _P, infer _Q, infer B, infer _A> ? B : never;
export type AnswerOf<C> = C extends Call<infer _P, infer _Q, infer _B, infer A> ? A : never;
