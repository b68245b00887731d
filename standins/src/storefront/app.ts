import { createHash } from 'node:crypto';
import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import { HTTPException } from 'hono/http-exception';
import { secureHeaders } from 'hono/secure-headers';
import { type HtmlEscapedString } from 'hono/utils/html';
import { basketPages } from './basket.ts';
import { lookedAt, lookedAtHeaders, lookedAtMoments } from './lookedAt.ts';
import { goodsOf, headPicture, paragraphs, productCard } from './goods.ts';
import { productPage } from './productPage.ts';
import { type Assortment, type Category, type Goods, type Page, type Product, type Tree } from './shopTypes.ts';
import { inScript, structured } from './structured.ts';

type Html = HtmlEscapedString | Promise<HtmlEscapedString>;

const STYLE = `
  :root { color-scheme: light } * { box-sizing: border-box }
  body { margin: 0; font: 16px/1.5 Georgia, serif; color: #26231d; background: #fcfaf5 }
  a { color: inherit } header, main { max-width: 960px; margin: 0 auto; padding: 16px }
  header { border-bottom: 1px solid #d9d0bd } header h1 { margin: 0; font-size: 26px } h1 a { text-decoration: none }
  nav ul { list-style: none; display: flex; flex-wrap: wrap; gap: 4px 18px; margin: 8px 0 0; padding: 0 }
  .goods { display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 22px; padding: 0; list-style: none }
  .goods a { text-decoration: none; display: block } .goods img { width: 100%; height: auto; aspect-ratio: 1; object-fit: cover; border: 1px solid #e5dcc8 }
  .one { display: grid; grid-template-columns: minmax(0, 1fr); gap: 24px } .one img { width: 100%; height: auto }
  @media (min-width: 640px) { .one { grid-template-columns: 1fr 1fr } }
  table { border-collapse: collapse; width: 100% } th, td { text-align: left; padding: 6px 8px; border-bottom: 1px solid #e5dcc8 }
  td.price { text-align: right; font-variant-numeric: tabular-nums } s { color: #6b6352; margin-right: 6px }
  .badge { display: inline-block; padding: 0 6px; margin-right: 6px; border: 1px solid #8a7a52; font-size: 13px }
  form { display: flex; gap: 6px; margin-top: 8px } input, button { font: inherit; padding: 4px 10px; border: 1px solid #8a7a52; background: #fff; color: inherit }
  .note { padding: 6px 10px; border-left: 3px solid #8a7a52; background: #f4eee0 } .head { float: right; margin: 0 0 12px 16px }
  .one .more { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 8px } .one .more img { width: 96px; border: 1px solid #e5dcc8 }
  .choices { list-style: none; display: flex; flex-wrap: wrap; gap: 6px; margin: 0; padding: 0 } h3.option { margin: 12px 0 4px; font-size: 16px }
  .choices a, .choices .off { display: block; padding: 4px 10px; border: 1px solid #8a7a52; text-decoration: none }
  .choices .chosen { background: #26231d; color: #fcfaf5 } .choices .off { border-style: dashed; color: #6b6352 } small { display: block; font-size: 12px }
  .few { width: 76px } .total { text-align: right } td form { margin: 0 } .to-basket { float: right; margin: 6px 0 0 } .swatch { display: inline-block; width: 18px; height: 18px; border: 1px solid #8a7a52; vertical-align: -4px; margin-right: 6px }
  .swatch img { width: 100%; height: 100%; border: 0 } .made td { text-align: center } .made a.chosen { background: #26231d; color: #fcfaf5; padding: 0 6px } .into { display: flex; flex-wrap: wrap; gap: 8px; align-items: end } .into label { display: block }
  @media (max-width: 480px) { .each { display: none } td form { flex-direction: column; align-items: start } }
  .row { border-top: 1px solid #e5dcc8; padding-top: 12px; margin-top: 24px } .row h3 { margin: 0 0 8px; font-size: 20px }
  .blank { aspect-ratio: 1; border: 1px dashed #cfc4ab; display: grid; place-items: center; color: #6b6352 }`;

/** Says that a page is not of now, or not of everybody, and leads back. */
function momentNote({ timeZone, seenBy }: Tree): Html | string {
  const at = lookedAt();
  if (at === undefined && seenBy === null) return '';
  const shown = new Intl.DateTimeFormat('en-GB', { dateStyle: 'full', timeStyle: 'short', timeZone }).format(at);
  const when = at === undefined ? 'it is' : `it ${at < Date.now() ? 'was' : 'will be'} on ${shown}`;
  return html`<p class="note" role="status">
    The shop as ${when}${seenBy === null ? '' : ` for ${seenBy}`}. <a href="/?at=&amp;as=">The shop as it is now</a>
  </p>`;
}

/** A plain storefront that knows the shop only by its HTTP interface, and shows what has landed there. */
export function storefrontApp(shop: () => string): Hono {
  const app = new Hono();
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'none'"],
        imgSrc: ["'self'"],
        styleSrc: [`'sha256-${createHash('sha256').update(STYLE).digest('base64')}'`],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
      },
      xFrameOptions: 'DENY',
    }),
  );
  app.use(...lookedAtMoments());
  const ask = async <T>(path: string): Promise<T | undefined> => {
    const response = await fetch(`${shop()}/shop/${path}`, { headers: lookedAtHeaders() });
    if (response.status === 404) return undefined;
    if (!response.ok) throw new Error(`the shop answered ${response.status}`);
    return (await response.json()) as T;
  };
  const tree = async () => (await ask<Tree>('categories'))!;

  const send = async <T>(path: string, body: unknown): Promise<T | { title: string }> => {
    const response = await fetch(`${shop()}/shop/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (response.status >= 500) throw new Error(`the shop answered ${response.status}`);
    return (await response.json()) as T | { title: string };
  };

  /** What the head of a page says of it, beside its title. */
  type Words = Pick<Page, 'pageTitle' | 'pageDescription'>;
  const page = async (title: string, body: Html, words?: Words, data?: unknown) => {
    const seen = await tree();
    const { shop: name, categories, assortments } = seen;
    const menu = categories.filter(({ parent, inMenu }) => parent === null && inMenu);
    const gathered = assortments.filter(({ inMenu }) => inMenu);
    return html`<!doctype html>
      <html lang="en">
        <head>
          <meta charset="utf-8" />
          <meta name="viewport" content="width=device-width" />
          <title>${words?.pageTitle || `${title} – ${name}`}</title>
          ${words?.pageDescription ? html`<meta name="description" content="${words.pageDescription}" />` : ''}
          ${raw(`<style>${STYLE}</style>`)}
          ${data === undefined ? '' : raw(`<script type="application/ld+json">${inScript(data)}</script>`)}
        </head>
        <body>
          <header>
            <p class="to-basket"><a href="/basket">Basket</a></p>
            <h1><a href="/">${name}</a></h1>
            <form action="/search" role="search">
              <input type="search" name="q" aria-label="Search the shop" placeholder="Search" required />
              <button type="submit">Search</button>
            </form>
            <nav aria-label="Categories">
              <ul>
                ${menu.map(({ id, name }) => html`<li><a href="/categories/${id}">${name}</a></li>`)}
                ${gathered.map(({ id, name }) => html`<li><a href="/assortments/${id}">${name}</a></li>`)}
              </ul>
            </nav>
          </header>
          <main>${momentNote(seen)} ${body}</main>
        </body>
      </html>`;
  };

  /** The first goods of assortments, each as a row that leads to its page. */
  const rowsOf = (assortments: readonly Assortment[]) =>
    Promise.all(
      assortments.map(async ({ id, name }) => {
        const goods = await ask<Goods>(`assortments/${id}/products?count=5`);
        return html`<section class="row">
          <h3><a href="/assortments/${id}">${name}</a></h3>
          <ul class="goods">
            ${(goods?.products ?? []).map(productCard)}
          </ul>
        </section>`;
      }),
    );

  basketPages(app, { page, send });
  app.onError((error, c) =>
    error instanceof HTTPException
      ? error.getResponse()
      : c.html(
          html`<h1>The shop is closed for a moment</h1>
            <p>Come back shortly.</p>`,
          503,
        ),
  );
  app.get('/', async (c) => {
    const { categories, assortments } = await tree();
    const rows = await rowsOf(assortments.filter(({ frontRow }) => frontRow));
    if (rows.length > 0) return c.html(await page('Welcome', html`${rows}`));
    const first = categories.find(({ parent, inMenu }) => parent === null && inMenu);
    return first
      ? c.redirect(`/categories/${first.id}`)
      : c.html(await page('Welcome', html`<p>There is nothing here yet.</p>`));
  });
  app.get('/assortments/:id', async (c) => {
    const id = c.req.param('id');
    const from = Math.max(0, Number(c.req.query('from')) || 0);
    const { assortments } = await tree();
    const assortment = assortments.find((one) => one.id === id);
    const goods = assortment && (await ask<Goods>(`assortments/${id}/products?from=${from}&count=24`));
    if (!goods) return c.html(await page('Not found', html`<h2>There is no such page</h2>`), 404);
    return c.html(
      await page(
        assortment.name,
        html`<h2>${assortment.name}</h2>
          ${headPicture(assortment)} ${paragraphs(assortment.head)} ${goodsOf(goods, from)}
          ${paragraphs(assortment.foot)}`,
        assortment,
      ),
    );
  });
  app.get('/categories/:id', async (c) => {
    const id = c.req.param('id');
    const from = Math.max(0, Number(c.req.query('from')) || 0);
    const { categories, assortments } = await tree();
    const category = categories.find((one) => one.id === id);
    const goods = category && (await ask<Goods>(`categories/${id}/products?from=${from}&count=24`));
    if (!category || !goods) return c.html(await page('Not found', html`<h2>There is no such category</h2>`), 404);
    const below = categories.filter(({ parent, inMenu }) => parent === id && inMenu);
    const heads = from > 0 ? [] : await rowsOf(assortments.filter(({ headOf }) => headOf.includes(id)));
    return c.html(
      await page(
        category.name,
        html`<h2>${category.name}</h2>
          ${
            below.length > 0
              ? html`<nav aria-label="Below ${category.name}">
                  <ul>
                    ${below.map((one) => html`<li><a href="/categories/${one.id}">${one.name}</a></li>`)}
                  </ul>
                </nav>`
              : ''
          }
          ${headPicture(category)} ${paragraphs(category.head)} ${heads} ${goodsOf(goods, from)}
          ${paragraphs(category.foot)}`,
        category,
      ),
    );
  });
  app.get('/search', async (c) => {
    const words = (c.req.query('q') ?? '').trim().slice(0, 200);
    const from = Math.max(0, Number(c.req.query('from')) || 0);
    const goods =
      words === '' ? undefined : await ask<Goods>(`search?q=${encodeURIComponent(words)}&from=${from}&count=24`);
    const body = goods
      ? html`<h2>Found for “${words}”</h2>
          ${goodsOf(goods, from, `q=${encodeURIComponent(words)}&`)}`
      : html`<h2>Search</h2>
          <p>Write a word above.</p>`;
    return c.html(await page('Search', body));
  });
  app.get('/products/:slug', async (c) => {
    const found = await ask<Product | { movedTo: string }>(`products/${encodeURIComponent(c.req.param('slug'))}`);
    if (!found) return c.html(await page('Not found', html`<h2>There is no such product</h2>`), 404);
    if ('movedTo' in found) return c.redirect(`/products/${encodeURIComponent(found.movedTo)}`, 301);
    const { categories } = await tree();
    const above = pathTo(found.category, categories);
    return c.html(
      await page(
        found.name,
        productPage(found, above, c.req.query('sku')),
        found,
        structured(found, above, new URL(c.req.url).origin),
      ),
    );
  });
  app.get('/colours/:file', (c) => {
    const colour = /^([0-9a-fA-F]{6})\.svg$/.exec(c.req.param('file'))?.[1];
    if (colour === undefined) return c.text('There is no such colour', 404);
    const picture = `<svg xmlns="http://www.w3.org/2000/svg" width="18" height="18"><rect width="18" height="18" fill="#${colour}"/></svg>`;
    return c.body(picture, 200, { 'content-type': 'image/svg+xml' });
  });
  app.get('/files/:key', async (c) => {
    const response = await fetch(`${shop()}/files/${encodeURIComponent(c.req.param('key'))}`);
    const headers = ['content-type', 'content-disposition', 'content-length'].flatMap((name) => {
      const value = response.headers.get(name);
      return value === null ? [] : [[name, value] as const];
    });
    return new Response(response.body, { status: response.status, headers: Object.fromEntries(headers) });
  });
  app.get('/pictures/:file', async (c) => {
    const response = await fetch(`${shop()}/pictures/${encodeURIComponent(c.req.param('file'))}`);
    return new Response(response.body, { status: response.status, headers: { 'content-type': 'image/webp' } });
  });
  return app;
}

/** A category with all above it, the outermost first. */
function pathTo(id: string | null, categories: readonly Category[]): Category[] {
  const category = categories.find((one) => one.id === id);
  return category ? [...pathTo(category.parent, categories), category] : [];
}
