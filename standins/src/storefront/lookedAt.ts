import { type Context, type MiddlewareHandler } from 'hono';
import { contextStorage, getContext } from 'hono/context-storage';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';

/** What a page may be looked at as: each is said once by an address, and kept in a cookie; an empty one is taken away. */
const LOOKED_AT = [
  // A moment, in milliseconds since 1970 UTC.
  { said: 'at', cookie: 'moment', header: 'x-moment' },
  // A customer group, by its id.
  { said: 'as', cookie: 'group', header: 'x-customer-group' },
] as const;
type Said = (typeof LOOKED_AT)[number]['said'];

const NUMBER = /^\d{1,15}$/;
/** Who plans looks at a coming moment for a while, and then at the shop as it is. */
const KEPT_SECONDS = 60 * 60;

/** Keeps the moment that the shop is looked at, and as whom. */
export const lookedAtMoments = (): MiddlewareHandler[] => [
  contextStorage(),
  async (c, next) => {
    for (const { said, cookie } of LOOKED_AT) {
      const value = c.req.query(said);
      if (value === undefined) continue;
      if (NUMBER.test(value)) setCookie(c, cookie, value, { httpOnly: true, sameSite: 'Strict', maxAge: KEPT_SECONDS });
      else deleteCookie(c, cookie);
    }
    await next();
  },
];

function saidOf(wanted: Said): string | undefined {
  const c: Context = getContext();
  const { cookie } = LOOKED_AT.find(({ said }) => said === wanted)!;
  const value = c.req.query(wanted) ?? getCookie(c, cookie);
  return value !== undefined && NUMBER.test(value) ? value : undefined;
}

/** The moment that the page in hand is of; undefined for now. */
export function lookedAt(): number | undefined {
  const said = saidOf('at');
  return said === undefined ? undefined : Number(said);
}

/** What tells the shop for which moment a page is wanted, and as whom. */
export const lookedAtHeaders = (): Record<string, string> =>
  Object.fromEntries(
    LOOKED_AT.flatMap(({ said, header }) => {
      const value = saidOf(said);
      return value === undefined ? [] : [[header, value]];
    }),
  );
