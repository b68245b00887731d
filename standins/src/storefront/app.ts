import { createHash } from 'node:crypto';
import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import { secureHeaders } from 'hono/secure-headers';
import { type HtmlEscapedString } from 'hono/utils/html';

type Html = HtmlEscapedString | Promise<HtmlEscapedString>;

interface Page {
  readonly head: string;
  readonly foot: string;
  readonly pageTitle: string;
  readonly pageDescription: string;
}
interface Category extends Page {
  readonly id: string;
  readonly parent: string | null;
  readonly name: string;
  readonly inMenu: boolean;
}
interface Assortment extends Page {
  readonly id: string;
  readonly name: string;
  readonly inMenu: boolean;
  readonly frontRow: boolean;
  readonly headOf: readonly string[];
}
interface Goods {
  readonly total: number;
  readonly products: readonly Product[];
}
interface Tree {
  readonly shop: string;
  readonly categories: readonly Category[];
  readonly assortments: readonly Assortment[];
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
  readonly parts: readonly { readonly name: string; readonly times: number }[];
}
interface Fit {
  readonly maker: string;
  readonly model: string;
  readonly from: number | null;
  readonly to: number | null;
  readonly note: string;
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
  readonly badges: readonly string[];
  readonly fits: readonly Fit[];
  readonly goesWith?: readonly { readonly slug: string; readonly name: string }[];
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
  .badge { display: inline-block; padding: 0 6px; margin-right: 6px; border: 1px solid #8a7a52; font-size: 13px }
  .row { border-top: 1px solid #e5dcc8; padding-top: 12px; margin-top: 24px } .row h3 { margin: 0 0 8px; font-size: 20px }
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
  const tree = async () => (await ask<Tree>('categories'))!;

  const page = async (title: string, body: Html, words?: Page) => {
    const { shop: name, categories, assortments } = await tree();
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
        </head>
        <body>
          <header>
            <h1><a href="/">${name}</a></h1>
            <nav aria-label="Categories">
              <ul>
                ${menu.map(({ id, name }) => html`<li><a href="/categories/${id}">${name}</a></li>`)}
                ${gathered.map(({ id, name }) => html`<li><a href="/assortments/${id}">${name}</a></li>`)}
              </ul>
            </nav>
          </header>
          <main>${body}</main>
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

  app.onError(async (_error, c) =>
    c.html(
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
          ${paragraphs(assortment.head)} ${goodsOf(goods, from)} ${paragraphs(assortment.foot)}`,
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
          ${paragraphs(category.head)} ${heads} ${goodsOf(goods, from)} ${paragraphs(category.foot)}`,
        category,
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

const paragraphs = (text: string) =>
  text
    .split(/\n\s*\n/)
    .filter(Boolean)
    .map((paragraph) => html`<p>${paragraph}</p>`);

const goodsOf = ({ total, products }: Goods, from: number) =>
  html`<p>${total} products</p>
    <ul class="goods">
      ${products.map(productCard)}
    </ul>
    ${from + 24 < total ? html`<p><a href="?from=${from + 24}">More</a></p>` : ''}`;

const badgesOf = ({ badges }: Product) => badges.map((badge) => html`<span class="badge">${badge}</span>`);

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
      >${picture(product)}${badgesOf(product)}<strong>${product.name}</strong><br />${from}${pounds(String(least))}</a
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

const yearsOf = ({ from, to }: Fit) =>
  from === null && to === null ? '' : from === to ? String(from) : `${from ?? ''} – ${to ?? ''}`.trim();

const fitsOf = (fits: readonly Fit[]) =>
  html`<h3>Fits</h3>
    <table>
      <tbody>
        ${fits.map(
          (fit) =>
            html`<tr>
              <th scope="row">${fit.maker} ${fit.model}</th>
              <td>${yearsOf(fit)}</td>
              <td>${fit.note}</td>
            </tr>`,
        )}
      </tbody>
    </table>`;

/** What is in a set, once for variants that hold the same. */
function partsOf({ variants }: Product) {
  const [parts = []] = variants.map((one) => one.parts).filter((parts) => parts.length > 0);
  if (parts.length === 0) return '';
  return html`<h3>In this set</h3>
    <ul>
      ${parts.map(({ name, times }) => html`<li>${times === 1 ? name : `${times} × ${name}`}</li>`)}
    </ul>`;
}

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
      <p>${badgesOf(product)}${product.brand ?? ''}</p>
      ${product.description.split(/\n\s*\n/).map((paragraph) => html`<p>${paragraph}</p>`)} ${partsOf(product)}
      ${product.attributes.length === 0 ? '' : attributesOf(product)}
      ${product.fits.length === 0 ? '' : fitsOf(product.fits)}
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
      ${
        (product.goesWith ?? []).length === 0
          ? ''
          : html`<h3>Goes well with</h3>
              <ul>
                ${product.goesWith!.map(({ slug, name }) => html`<li><a href="/products/${slug}">${name}</a></li>`)}
              </ul>`
      }
    </div>
  </article>`;
}
