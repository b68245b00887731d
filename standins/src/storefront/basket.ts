import { randomUUID } from 'node:crypto';
import { type Context, type Hono } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import { csrf } from 'hono/csrf';
import { html } from 'hono/html';
import { pounds } from './goods.ts';
import { type Basket, type BasketLine, type WantedLine } from './shopTypes.ts';

const COOKIE = 'basket';
/** Where the shopper wants it shipped. */
const COUNTRY_COOKIE = 'country';
const MOST_LINES = 100;
const MOST_OF_ONE = 999;
/** Browsers drop larger cookies without a word. */
const LARGEST_COOKIE = 3_800;

/** What the pages of the basket need of the storefront. */
interface Storefront {
  readonly page: (title: string, body: ReturnType<typeof html>) => Promise<ReturnType<typeof html>>;
  /** Sends something to the shop; gives its answer, and what is wrong where it refuses. */
  readonly send: <T>(path: string, body: unknown) => Promise<T | { readonly title: string }>;
}

/** What the shopper has gathered: it stands in a cookie of theirs, and the shop prices it anew each time. */
function readBasket(c: Context): WantedLine[] {
  try {
    const lines = JSON.parse(getCookie(c, COOKIE) ?? '[]') as unknown;
    return Array.isArray(lines) ? lines.flatMap(wantedIn).slice(0, MOST_LINES) : [];
  } catch {
    // A cookie that somebody else wrote is an empty basket.
    return [];
  }
}

function wantedIn(line: unknown): WantedLine[] {
  const { code, quantity, text } = (line ?? {}) as Partial<Record<keyof WantedLine, unknown>>;
  if (typeof code !== 'string' || typeof quantity !== 'number' || !Number.isInteger(quantity)) return [];
  if (quantity < 1 || quantity > MOST_OF_ONE || code.length > 64) return [];
  return [{ code, quantity, text: typeof text === 'string' ? text.slice(0, 1_000) : '' }];
}

const keep = (c: Context, lines: readonly WantedLine[]): void =>
  setCookie(c, COOKIE, JSON.stringify(lines), { httpOnly: true, sameSite: 'Lax', path: '/', maxAge: 30 * 24 * 3_600 });

/** The country that was chosen, by its code. */
function countryOf(c: Context): string | null {
  const said = getCookie(c, COUNTRY_COOKIE) ?? '';
  return /^[A-Z]{2}$/.test(said) ? said : null;
}

const numberIn = (text: unknown): number => Math.min(Math.max(Math.trunc(Number(text)) || 0, 0), MOST_OF_ONE);
const textIn = (text: unknown): string => (typeof text === 'string' ? text.trim() : '');

/** The basket: goods are put in, changed, taken out and ordered. */
export function basketPages(app: Hono, { page, send }: Storefront): void {
  app.use('/basket/*', csrf());

  app.get('/basket', async (c) => {
    const lines = readBasket(c);
    return c.html(await page('Basket', basketBody(await priced(lines, countryOf(c)), lines)));
  });
  app.post('/basket/add', async (c) => {
    const form = await c.req.parseBody();
    const added = { code: textIn(form['code']), quantity: numberIn(form['quantity']), text: textIn(form['text']) };
    const lines = readBasket(c);
    const same = lines.findIndex(({ code, text }) => code === added.code && text === added.text);
    if (added.code !== '' && added.quantity > 0) {
      const [first] = lines.splice(same < 0 ? lines.length : same, 1);
      lines.push({ ...added, quantity: Math.min(added.quantity + (first?.quantity ?? 0), MOST_OF_ONE) });
    }
    if (lines.length > MOST_LINES || encodeURIComponent(JSON.stringify(lines)).length > LARGEST_COOKIE) {
      const there = readBasket(c);
      const full = 'The basket is full: what you chose was not put in. Order what is in it first.';
      return c.html(await page('Basket', basketBody(await priced(there, countryOf(c)), there, full)), 422);
    }
    keep(c, lines);
    return c.redirect('/basket', 303);
  });
  app.post('/basket/change', async (c) => {
    const form = await c.req.parseBody();
    const quantity = numberIn(form['quantity']);
    const isMeant = ({ code, text }: WantedLine) => code === textIn(form['code']) && text === textIn(form['text']);
    keep(
      c,
      readBasket(c).flatMap((line) => (!isMeant(line) ? [line] : quantity > 0 ? [{ ...line, quantity }] : [])),
    );
    return c.redirect('/basket', 303);
  });
  app.post('/basket/country', async (c) => {
    const form = await c.req.parseBody();
    setCookie(c, COUNTRY_COOKIE, textIn(form['country']), { httpOnly: true, sameSite: 'Lax', path: '/' });
    return c.redirect('/basket', 303);
  });
  app.post('/basket/order', async (c) => {
    const form = await c.req.parseBody();
    const lines = readBasket(c);
    const country = countryOf(c);
    const answer = await send<{ order: string; total: string }>('orders', { key: textIn(form['key']), lines, country });
    if ('title' in answer) {
      const basket = await priced(lines, country);
      return c.html(await page('Basket', basketBody(basket, lines, answer.title)), 422);
    }
    keep(c, []);
    return c.html(
      await page(
        'Thank you',
        html`<h2>Thank you</h2>
          <p>Your order ${answer.order} over ${pounds(answer.total)} was taken.</p>
          <p>This is a stand-in for a shop: nothing is paid and nothing is sent.</p>`,
      ),
    );
  });

  async function priced(lines: readonly WantedLine[], country: string | null): Promise<Basket> {
    const answer = await send<Basket>('basket', { lines, country });
    if (!('title' in answer)) return answer;
    const gone = lines.map(({ code }) => code);
    return { lines: [], gone, total: '0', shipping: null, withShipping: null, notShipped: null, countries: [] };
  }
}

/** Which line of the shopper's a form changes. */
const whichLine = ({ code, text }: WantedLine) =>
  html`<input type="hidden" name="code" value="${code}" /><input type="hidden" name="text" value="${text}" />`;

const lineOf = (line: BasketLine) =>
  html`<tr>
    <td>
      <a href="/products/${line.slug}?sku=${encodeURIComponent(line.code)}">${line.name}</a>
      <small>${[...line.options.map(({ value }) => value), line.code].join(' · ')}</small>
      ${line.text === '' ? '' : html`<small>with “${line.text}”</small>`}
      ${line.problem === null ? '' : html`<p class="note" role="alert">${line.problem}</p>`}
    </td>
    <td class="price each">${pounds(line.price)}</td>
    <td>
      <form method="post" action="/basket/change">
        ${whichLine(line)}
        <input
          class="few"
          type="number"
          name="quantity"
          min="0"
          max="${MOST_OF_ONE}"
          value="${line.quantity}"
          aria-label="How many of ${line.name}"
        />
        <button type="submit">Change</button>
      </form>
    </td>
    <td class="price">${pounds(line.sum)}</td>
  </tr>`;

/** Where it is to be shipped, and what that costs. */
const shippedTo = ({ shipping, withShipping, notShipped, countries }: Basket) =>
  html`<form method="post" action="/basket/country">
      <p class="total">
        <label>
          Ship to
          <select name="country">
            <option value="">choose a country</option>
            ${countries.map(
              ({ code, name }) =>
                html`<option value="${code}" ${shipping?.country === code ? 'selected' : ''}>${name}</option>`,
            )}
          </select>
        </label>
        <button type="submit">Show what it costs</button>
      </p>
    </form>
    ${notShipped === null ? '' : html`<p class="note" role="alert">${notShipped}</p>`}
    ${
      shipping?.charge == null || withShipping === null
        ? ''
        : html`<p class="total">
            Shipping <strong>${pounds(shipping.charge)}</strong>, with it <strong>${pounds(withShipping)}</strong>
          </p>`
    }`;

function basketBody(basket: Basket, wanted: readonly WantedLine[], refused?: string) {
  const { lines, gone, total } = basket;
  const isOrderable =
    basket.notShipped === null &&
    lines.length > 0 &&
    gone.length === 0 &&
    lines.every(({ problem }) => problem === null);
  return html`<h2>Basket</h2>
    ${refused === undefined ? '' : html`<p class="note" role="alert">${refused}</p>`}
    ${gone.map(
      (code) =>
        html`<form method="post" action="/basket/change">
          <p class="note" role="alert">${code} is not in the shop any more.</p>
          ${whichLine({ code, quantity: 0, text: wanted.find((line) => line.code === code)?.text ?? '' })}
          <input type="hidden" name="quantity" value="0" />
          <button type="submit">Take it out</button>
        </form>`,
    )}
    ${
      lines.length === 0
        ? html`<p>There is nothing in it yet.</p>`
        : html`<table>
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col" class="each">Each</th>
                  <th scope="col">How many</th>
                  <th scope="col">Together</th>
                </tr>
              </thead>
              <tbody>
                ${lines.map(lineOf)}
              </tbody>
            </table>
            <p class="total">Total <strong>${pounds(total)}</strong></p>
            ${basket.countries.length > 0 ? shippedTo(basket) : ''}`
    }
    ${
      isOrderable
        ? html`<form method="post" action="/basket/order">
            <input type="hidden" name="key" value="${randomUUID()}" />
            <button type="submit">Place the order</button>
          </form>`
        : ''
    }`;
}
