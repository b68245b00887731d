import { type Call, type ProblemDetails } from '@ivory/contract';
import { of, type Observable, throwError } from 'rxjs';
import { ApiRefusal } from '../api/api.ts';

type Sent = { params?: unknown; query?: unknown; body?: unknown };

/** Stands for the server in specs: answers calls as it was told to, and notes what was sent. */
export class FakeApi {
  /** What was sent, in order: the call and its input. */
  readonly sent: { readonly method: string; readonly path: string; readonly input: Sent }[] = [];
  private readonly answers = new Map<string, (input: Sent) => unknown>();

  answer<Params, Query, Body, Answer, Input>(
    { method, path }: Call<Params, Query, Body, Answer, Input>,
    answer: Answer | ((input: Sent) => Answer),
  ): this {
    this.answers.set(`${method} ${path}`, (input) =>
      typeof answer === 'function' ? (answer as (input: Sent) => Answer)(input) : answer,
    );
    return this;
  }

  refuse(
    call: { readonly method: string; readonly path: string },
    title: string,
    places?: ProblemDetails['places'],
  ): this {
    this.answers.set(`${call.method} ${call.path}`, () => {
      throw new ApiRefusal({ type: 'about:blank', title, status: 422, ...(places && { places }) });
    });
    return this;
  }

  /** The inputs of one call, in order. */
  inputsOf({ method, path }: { readonly method: string; readonly path: string }): Sent[] {
    return this.sent.filter((one) => one.method === method && one.path === path).map(({ input }) => input);
  }

  call({ method, path }: { method: string; path: string }, input: Sent = {}): Observable<unknown> {
    this.sent.push({ method, path, input });
    const answer = this.answers.get(`${method} ${path}`);
    if (!answer) return throwError(() => new Error(`nothing was prepared for ${method} ${path}`));
    try {
      return of(answer(input));
    } catch (error) {
      return throwError(() => error);
    }
  }
}
