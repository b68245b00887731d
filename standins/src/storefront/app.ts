import { createHash } from 'node:crypto';
import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import { secureHeaders } from 'hono/secure-headers';
import { type HtmlEscapedString } from 'hono/utils/html';

type Html = HtmlEscapedString | Promise<HtmlEscapedString>;

interface Category {
  readonly id: string;
  readonly parent: string | null;
  readonly name: string;
}
interface Property {
  readonly name: string;
  readonly value: string;
}
interface Variant {
  readonly code: string;
  readonly options: readonly Property[];
  readonly price: string;
  readonly was: string | null;
  readonly state: string;
}
interface Product {
  readonly slug: string;
  readonly name: string;
  readonly brand: string | null;
  readonly description: string;
  readonly picture: string | null;
  readonly variants: readonly Variant[];
  readonly attributes: readonly Property[];
  readonly category: string | null;
}

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
  .blank { aspect-ratio: 1; border: 1px dashed #cfc4ab; display: grid; place-items: center; color: #6b6352 }`;

const pounds = (pence: string): string => `£${(Number(pence) / 100).toFixed(2)}`;
const STATES: Readonly<Record<string, string>> = {
  'in stock': 'In stock',
  'back-order': 'To order',
  'sold out': 'Sold out',
};

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
        formAction: ["'none'"],
      },
      xFrameOptions: 'DENY',
    }),
  );
  const ask = async <T>(path: string): Promise<T | undefined> => {
    const response = await fetch(`${shop()}/shop/${path}`);
    if (response.status === 404) return undefined;
    if (!response.ok) throw new Error(`the shop answered ${response.status}`);
    return (await response.json()) as T;
  };
  const tree = async () => (await ask<{ shop: string; categories: Category[] }>('categories'))!;

  const page = async (title: string, body: Html) => {
    const { shop: name, categories } = await tree();
    const menu = categories.filter(({ parent }) => parent === null);
    return html`<!doctype html>
      <html lang="en">
        <head>
          <meta charset="utf-8" />
          <meta name="viewport" content="width=device-width" />
          <title>${title} – ${name}</title>
          ${raw(`<style>${STYLE}</style>`)}
        </head>
        <body>
          <header>
            <h1><a href="/">${name}</a></h1>
            <nav aria-label="Categories">
              <ul>
                ${menu.map(({ id, name }) => html`<li><a href="/categories/${id}">${name}</a></li>`)}
              </ul>
            </nav>
          </header>
          <main>${body}</main>
        </body>
      </html>`;
  };

  app.onError(async (_error, c) =>
    c.html(
      html`<h1>The shop is closed for a moment</h1>
        <p>Come back shortly.</p>`,
      503,
    ),
  );
  app.get('/', async (c) => {
    const { categories } = await tree();
    const first = categories.find(({ parent }) => parent === null);
    return first
      ? c.redirect(`/categories/${first.id}`)
      : c.html(await page('Welcome', html`<p>There is nothing here yet.</p>`));
  });
  app.get('/categories/:id', async (c) => {
    const id = c.req.param('id');
    const from = Math.max(0, Number(c.req.query('from')) || 0);
    const { categories } = await tree();
    const category = categories.find((one) => one.id === id);
    const goods =
      category &&
      (await ask<{ total: number; products: Product[] }>(`categories/${id}/products?from=${from}&count=24`));
    if (!category || !goods) return c.html(await page('Not found', html`<h2>There is no such category</h2>`), 404);
    const below = categories.filter(({ parent }) => parent === id);
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
          <p>${goods.total} products</p>
          <ul class="goods">
            ${goods.products.map(productCard)}
          </ul>
          ${from + 24 < goods.total ? html`<p><a href="?from=${from + 24}">More</a></p>` : ''}`,
      ),
    );
  });
  app.get('/products/:slug', async (c) => {
    const product = await ask<Product>(`products/${encodeURIComponent(c.req.param('slug'))}`);
    if (!product) return c.html(await page('Not found', html`<h2>There is no such product</h2>`), 404);
    return c.html(await page(product.name, productPage(product)));
  });
  app.get('/pictures/:file', async (c) => {
    const response = await fetch(`${shop()}/pictures/${encodeURIComponent(c.req.param('file'))}`);
    return new Response(response.body, { status: response.status, headers: { 'content-type': 'image/webp' } });
  });
  return app;
}

const picture = ({ picture: key, name }: Product) =>
  key === null
    ? html`<div class="blank">no picture</div>`
    : html`<img src="/pictures/${key}.webp" alt="${name}" width="400" height="400" />`;

function productCard(product: Product) {
  const prices = product.variants.map(({ price }) => Number(price));
  const least = Math.min(...prices);
  const from = Math.max(...prices) > least ? 'from ' : '';
  return html`<li>
    <a href="/products/${product.slug}"
      >${picture(product)}<strong>${product.name}</strong><br />${from}${pounds(String(least))}</a
    >
  </li>`;
}

const attributesOf = ({ attributes }: Product) =>
  html`<table>
    <tbody>
      ${attributes.map(
        ({ name, value }) =>
          html`<tr>
            <th scope="row">${name}</th>
            <td>${value}</td>
          </tr>`,
      )}
    </tbody>
  </table>`;

function productPage(product: Product) {
  const rows = product.variants.map(
    (one) =>
      html`<tr>
        <td>${one.options.map(({ value }) => value).join(', ') || one.code}</td>
        <td>${one.code}</td>
        <td>${STATES[one.state] ?? one.state}</td>
        <td class="price">${one.was === null ? '' : html`<s>${pounds(one.was)}</s>`}${pounds(one.price)}</td>
      </tr>`,
  );
  return html`<article class="one">
    <div>${picture(product)}</div>
    <div>
      <h2>${product.name}</h2>
      <p>${product.brand ?? ''}</p>
      ${product.description.split(/\n\s*\n/).map((paragraph) => html`<p>${paragraph}</p>`)}
      ${product.attributes.length === 0 ? '' : attributesOf(product)}
      <table>
        <thead>
          <tr>
            <th>Variant</th>
            <th>Code</th>
            <th>Availability</th>
            <th>Price</th>
          </tr>
        </thead>
        <tbody>
          ${rows}
        </tbody>
      </table>
    </div>
  </article>`;
}
