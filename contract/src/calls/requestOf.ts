import { type Call } from './call.ts';

/** What a call is made with. */
export interface CallInput<Params, Sent> {
  readonly params?: Params;
  readonly query?: Readonly<Record<string, string | number>>;
  readonly body?: Sent;
}

/** What `fetch` is told besides the address. */
interface Sending {
  readonly method: string;
  readonly headers: Record<string, string>;
  readonly body?: string;
}

/** The path of a call with its params filled in. */
export const pathOfCall = <Params>({ path }: { readonly path: string }, params: Params | undefined): string =>
  path.replace(/:(\w+)/g, (_, name: string) =>
    encodeURIComponent(String((params as Record<string, string> | undefined)?.[name])),
  );

/** A call as `fetch` makes it: the address behind the server's, and what is sent. */
export function requestOf<Params, Query, Body, Answer, Sent>(
  call: Call<Params, Query, Body, Answer, Sent>,
  { params, query = {}, body }: CallInput<Params, Sent> = {},
): { readonly address: string; readonly init: Sending } {
  const { method } = call;
  const asked = new URLSearchParams(Object.entries(query).map(([key, value]) => [key, String(value)]));
  const address = `${pathOfCall(call, params)}?${asked}`;
  if (method === 'GET') return { address, init: { method, headers: {} } };
  return {
    address,
    init: { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body ?? {}) },
  };
}
