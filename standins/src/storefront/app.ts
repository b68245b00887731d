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
  readonly picture?: string | null;
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
  readonly summary: string;
  readonly points: readonly string[];
  readonly parcelHolds: readonly string[];
  readonly announcement: string;
  readonly note: string;
  readonly boughtNote: string;
  readonly boughtFrom: string | null;
  readonly hazard: string;
  readonly condition: string | null;
  readonly personal: { readonly longest: number; readonly charge: string } | null;
  readonly pageTitle: string;
  readonly pageDescription: string;
  readonly pictures: readonly { readonly key: string; readonly alternative: string }[];
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
  form { display: flex; gap: 6px; margin-top: 8px } input, button { font: inherit; padding: 4px 10px; border: 1px solid #8a7a52; background: #fff; color: inherit }
  .note { padding: 6px 10px; border-left: 3px solid #8a7a52; background: #f4eee0 } .head { float: right; margin: 0 0 12px 16px }
  .one .more { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 8px } .one .more img { width: 96px; border: 1px solid #e5dcc8 }
  .row { border-top: 1px solid #e5dcc8; padding-top: 12px; margin-top: 24px } .row h3 { margin: 0 0 8px; font-size: 20px }
  .blank { aspect-ratio: 1; border: 1px dashed #cfc4ab; display: grid; place-items: center; color: #6b6352 }`;

const pounds = (pence: string): string => `£${(Number(pence) / 100).toFixed(2)}`;
const STATES: Readonly<Record<string, string>> = {
  'in stock': 'In stock',
  'back-order': 'To order',
  'sold out': 'Sold out',
  'not bought': 'Not for sale',
  'not yet': 'Not yet',
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
        formAction: ["'self'"],
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

  /** What the head of a page says of it, beside its title. */
  type Words = Pick<Page, 'pageTitle' | 'pageDescription'>;
  const page = async (title: string, body: Html, words?: Words, data?: unknown) => {
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
          ${data === undefined ? '' : raw(`<script type="application/ld+json">${inScript(data)}</script>`)}
        </head>
        <body>
          <header>
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
      await page(found.name, productPage(found, above), found, structured(found, above, new URL(c.req.url).origin)),
    );
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

/** A category with all above it, the outermost first. */
function pathTo(id: string | null, categories: readonly Category[]): Category[] {
  const category = categories.find((one) => one.id === id);
  return category ? [...pathTo(category.parent, categories), category] : [];
}

/** JSON that stands in a page: no text in it can end the element around it. */
const inScript = (data: unknown): string => JSON.stringify(data).replaceAll('<', '\\u003c');

const IN_STOCK: Readonly<Record<string, string>> = {
  'in stock': 'InStock',
  'back-order': 'BackOrder',
  'not yet': 'PreOrder',
};

/** A product in the words of schema.org: Product with an Offer for each variant, and the way to it as a BreadcrumbList. */
function structured(product: Product, above: readonly Category[], origin: string): unknown {
  const url = `${origin}/products/${product.slug}`;
  const crumbs = [
    ...above.map(({ id, name }) => ({ name, item: `${origin}/categories/${id}` })),
    { name: product.name, item: url },
  ];
  return {
    '@context': 'https://schema.org',
    '@graph': [
      {
        '@type': 'Product',
        name: product.name,
        description: product.summary || product.description,
        url,
        ...(product.brand !== null && { brand: { '@type': 'Brand', name: product.brand } }),
        image: product.pictures.map(({ key }) => `${origin}/pictures/${key}-1200.webp`),
        offers: product.variants.map((one) => ({
          '@type': 'Offer',
          sku: one.code,
          price: (Number(one.price) / 100).toFixed(2),
          priceCurrency: 'GBP',
          availability: `https://schema.org/${IN_STOCK[one.state] ?? 'OutOfStock'}`,
          itemCondition: `https://schema.org/${CONDITIONS[product.condition ?? 'new']}`,
          url: `${url}?sku=${encodeURIComponent(one.code)}`,
        })),
      },
      {
        '@type': 'BreadcrumbList',
        itemListElement: crumbs.map((crumb, i) => ({ '@type': 'ListItem', position: i + 1, ...crumb })),
      },
    ],
  };
}

const CONDITIONS: Readonly<Record<string, string>> = {
  new: 'NewCondition',
  used: 'UsedCondition',
  refurbished: 'RefurbishedCondition',
  damaged: 'DamagedCondition',
};

const headPicture = ({ picture }: Page) =>
  picture ? html`<img class="head" src="/pictures/${picture}-500.webp" alt="" width="220" height="220" />` : '';

const goodsOf = ({ total, products }: Goods, from: number, query = '') =>
  html`<p>${total} products</p>
    <ul class="goods">
      ${products.map(productCard)}
    </ul>
    ${from + 24 < total ? html`<p><a href="?${query}from=${from + 24}">More</a></p>` : ''}`;

const badgesOf = ({ badges }: Product) => badges.map((badge) => html`<span class="badge">${badge}</span>`);

const picture = ({ picture: key, pictures, name }: Product) =>
  key === null
    ? html`<div class="blank">no picture</div>`
    : html`<img src="/pictures/${key}.webp" alt="${pictures[0]?.alternative || name}" width="500" height="500" />`;

/** The face, large, and the other pictures below it. */
const gallery = (product: Product) =>
  html`${picture(product)}
  ${
    product.pictures.length < 2
      ? ''
      : html`<div class="more">
          ${product.pictures
            .slice(1)
            .map(
              ({ key, alternative }) =>
                html`<a href="/pictures/${key}-1200.webp"
                  ><img src="/pictures/${key}-160.webp" alt="${alternative || product.name}" width="96" height="96"
                /></a>`,
            )}
        </div>`
  }`;

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

const list = (entries: readonly string[]) =>
  html`<ul>
    ${entries.map((entry) => html`<li>${entry}</li>`)}
  </ul>`;

/** What a shopper is told before buying: why not yet, what to mind, what can be put on it. */
function notesOf({ announcement, note, boughtNote, boughtFrom, hazard, personal, variants }: Product) {
  const isNotYet = variants.some(({ state }) => state === 'not yet' || state === 'not bought');
  const notes = [
    announcement,
    isNotYet ? [boughtFrom && `Can be bought from ${boughtFrom}.`, boughtNote].filter(Boolean).join(' ') : '',
    note,
    hazard,
    personal
      ? `Can be made with a text of yours, of up to ${personal.longest} characters${personal.charge === '0' ? '' : `, for ${pounds(personal.charge)}`}.`
      : '',
  ];
  return notes.filter(Boolean).map((text) => html`<p class="note">${text}</p>`);
}

const crumbsOf = (above: readonly Category[]) =>
  html`<nav aria-label="You are here">
    <ul>
      ${above.map(({ id, name }) => html`<li><a href="/categories/${id}">${name}</a></li>`)}
    </ul>
  </nav>`;

function productPage(product: Product, above: readonly Category[]) {
  const rows = product.variants.map(
    (one) =>
      html`<tr>
        <td>${one.options.map(({ value }) => value).join(', ') || one.code}</td>
        <td>${one.code}</td>
        <td>${STATES[one.state] ?? one.state}</td>
        <td class="price">${one.was === null ? '' : html`<s>${pounds(one.was)}</s>`}${pounds(one.price)}</td>
      </tr>`,
  );
  return html`${crumbsOf(above)}
    <article class="one">
      <div>${gallery(product)}</div>
      <div>
        <h2>${product.name}</h2>
        <p>${badgesOf(product)}${product.brand ?? ''}</p>
        ${product.condition !== null && product.condition !== 'new' ? html`<p>Condition: ${product.condition}</p>` : ''}
        ${paragraphs(product.summary)} ${notesOf(product)} ${product.points.length === 0 ? '' : list(product.points)}
        ${paragraphs(product.description)}
        ${
          product.parcelHolds.length === 0
            ? ''
            : html`<h3>In the parcel</h3>
                ${list(product.parcelHolds)}`
        }
        ${partsOf(product)} ${product.attributes.length === 0 ? '' : attributesOf(product)}
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
