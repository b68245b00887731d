import { type Context, type MiddlewareHandler } from 'hono';
import { contextStorage, getContext } from 'hono/context-storage';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';

const COOKIE = 'moment';
/** Milliseconds since 1970 UTC. */
const MOMENT = /^\d{1,15}$/;
/** Who plans looks at a coming moment for a while, and then at the shop as it is. */
const KEPT_SECONDS = 60 * 60;

/** Keeps the moment that the shop is looked at, which an address says once by `?at=` in milliseconds since 1970 UTC; an empty one is now. */
export const lookedAtMoments = (): MiddlewareHandler[] => [
  contextStorage(),
  async (c, next) => {
    const said = c.req.query('at');
    if (said !== undefined) {
      if (MOMENT.test(said)) setCookie(c, COOKIE, said, { httpOnly: true, sameSite: 'Strict', maxAge: KEPT_SECONDS });
      else deleteCookie(c, COOKIE);
    }
    await next();
  },
];

/** The moment that the page in hand is of; undefined for now. */
export function lookedAt(): number | undefined {
  const c: Context = getContext();
  const said = c.req.query('at') ?? getCookie(c, COOKIE);
  return said !== undefined && MOMENT.test(said) ? Number(said) : undefined;
}

/** What tells the shop for which moment a page is wanted. */
export function momentHeader(): Record<string, string> {
  const at = lookedAt();
  return at === undefined ? {} : { 'x-moment': String(at) };
}
