import { html, raw } from 'hono/html';
import { badgesOf, paragraphs, picture, pounds } from './goods.ts';
import { type Category, type Fit, type Product, type Variant } from './shopTypes.ts';

const STATES: Readonly<Record<string, string>> = {
  'in stock': 'In stock',
  'back-order': 'To order',
  'sold out': 'Sold out',
  'not bought': 'Not for sale',
  'not yet': 'Not yet',
};

/** The picture of the chosen variant or the face, large, and the other pictures below it. */
const gallery = (product: Product, chosen: Variant | undefined) =>
  html`${picture(chosen?.picture ? { ...product, picture: chosen.picture } : product)}
  ${
    product.pictures.length < 2
      ? ''
      : html`<div class="more">
          ${product.pictures
            .slice(1)
            .map(
              ({ key, alternative }) =>
                html`<a href="/pictures/${key}-large.webp"
                  ><img src="/pictures/${key}-small.webp" alt="${alternative || product.name}" width="96" height="96"
                /></a>`,
            )}
        </div>`
  }`;

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

/** What a shopper is told before buying: why not yet, and what to mind. */
function notesOf({ announcement, note, boughtNote, boughtFrom, hazard, variants }: Product) {
  const isNotYet = variants.some(({ state }) => state === 'not yet' || state === 'not bought');
  const notes = [
    announcement,
    isNotYet ? [boughtFrom && `Can be bought from ${boughtFrom}.`, boughtNote].filter(Boolean).join(' ') : '',
    note,
    hazard,
  ];
  return notes.filter(Boolean).map((text) => html`<p class="note">${text}</p>`);
}

/** Files that can be had, with how large they are. */
function filesOf({ files }: Product) {
  if (files.length === 0) return '';
  const size = (bytes: number) =>
    bytes < 100_000 ? `${Math.ceil(bytes / 1_000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
  return html`<h3>To have</h3>
    <ul>
      ${files.map(({ name, key, bytes }) => html`<li><a href="/files/${key}">${name}</a> (${size(bytes)})</li>`)}
    </ul>`;
}

const crumbsOf = (above: readonly Category[]) =>
  html`<nav aria-label="You are here">
    <ul>
      ${above.map(({ id, name }) => html`<li><a href="/categories/${id}">${name}</a></li>`)}
    </ul>
  </nav>`;

/** The shop keeps descriptions clean; one that is not marked up is paragraphs. */
const described = ({ description }: Product) =>
  /^\s*<[a-z][^<>]*>/i.test(description) ? raw(description) : paragraphs(description);

/** The variant that is looked at: the one that is asked for, or the first that can be bought. */
const chosenOf = ({ variants }: Product, code: string | undefined): Variant | undefined =>
  variants.find((one) => one.code === code) ?? variants.find(({ state }) => state === 'in stock') ?? variants[0];

const valueOf = ({ options }: Variant, name: string): string | undefined =>
  options.find((option) => option.name === name)?.value;

const stateOf = ({ state }: Variant) => (state === 'in stock' ? '' : html`<small>${STATES[state] ?? state}</small>`);

/** A value as it looks: its colour or picture, where the shop gave it any and the product is chosen by them. */
function swatchOf({ chosenBy, variants }: Product, name: string, value: string) {
  if (chosenBy !== 'swatches') return '';
  const [warning] = variants.flatMap(({ options }) =>
    options.filter((option) => option.name === name && option.value === value),
  );
  if (warning?.picture)
    return html`<span class="swatch"
      ><img src="/pictures/${warning.picture}-small.webp" alt="" width="18" height="18"
    /></span>`;
  // A colour comes as a picture of one colour, as no page here has styles of its own.
  return warning?.swatch
    ? html`<span class="swatch"><img src="/colours/${warning.swatch.slice(1)}.svg" alt="" /></span>`
    : '';
}

/** The values of each option as choices: those that are not made with the others that are chosen, or sold out, say so. */
function choicesOf(product: Product, chosen: Variant) {
  const { variants } = product;
  const names = [...new Set(variants.flatMap(({ options }) => options.map(({ name }) => name)))];
  const [down, across] = names;
  if (product.chosenBy === 'grid' && down !== undefined && across !== undefined && names.length === 2)
    return gridOf(variants, chosen, down, across);
  return names.map((name) => {
    const values = [...new Set(variants.flatMap((one) => valueOf(one, name) ?? []))];
    const choices = values.map((value) => {
      const isLike = (one: Variant) =>
        names.every((other) => valueOf(one, other) === (other === name ? value : valueOf(chosen, other)));
      const there = variants.find(isLike);
      const shown = html`${swatchOf(product, name, value)}${value}`;
      if (!there)
        return html`<li>
          <span class="off">${shown}<small>not made</small></span>
        </li>`;
      return there === chosen
        ? html`<li>
            <a class="chosen" aria-current="true" href="?sku=${encodeURIComponent(there.code)}"
              >${shown}${stateOf(there)}</a
            >
          </li>`
        : html`<li><a href="?sku=${encodeURIComponent(there.code)}">${shown}${stateOf(there)}</a></li>`;
    });
    return html`<h3 class="option">${name}</h3>
      <ul class="choices">
        ${choices}
      </ul>`;
  });
}

/** Two options as a table: each combination with its price, or that it is not made. */
function gridOf(variants: readonly Variant[], chosen: Variant, down: string, across: string) {
  const valuesOf = (name: string) => [...new Set(variants.flatMap((one) => valueOf(one, name) ?? []))];
  const cell = (row: string, column: string) => {
    const there = variants.find((one) => valueOf(one, down) === row && valueOf(one, across) === column);
    if (!there) return html`<td><small>not made</small></td>`;
    const isChosen = there === chosen;
    return html`<td>
      <a href="?sku=${encodeURIComponent(there.code)}" ${isChosen ? raw('class="chosen" aria-current="true"') : ''}
        >${pounds(there.price)}</a
      >${stateOf(there)}
    </td>`;
  };
  return html`<table class="made">
    <thead>
      <tr>
        <th scope="col">${down}</th>
        ${valuesOf(across).map((column) => html`<th scope="col">${column}</th>`)}
      </tr>
    </thead>
    <tbody>
      ${valuesOf(down).map(
        (row) =>
          html`<tr>
            <th scope="row">${row}</th>
            ${valuesOf(across).map((column) => cell(row, column))}
          </tr>`,
      )}
    </tbody>
  </table>`;
}

/** Puts the chosen variant into the basket, with the text that is put on it where it can be. */
function intoBasket({ personal }: Product, { code, state }: Variant) {
  if (state !== 'in stock' && state !== 'back-order') return '';
  const charge = personal === null || personal.charge === '0' ? '' : ` (${pounds(personal.charge)} more)`;
  return html`<form class="into" method="post" action="/basket/add">
    <input type="hidden" name="code" value="${code}" />
    ${
      personal === null
        ? ''
        : html`<label
            >Your text on it, up to ${personal.longest} characters${charge}
            <input name="text" maxlength="${personal.longest}" autocomplete="off"
          /></label>`
    }
    <label>How many <input class="few" type="number" name="quantity" min="1" max="999" value="1" /></label>
    <button type="submit">Put into the basket</button>
  </form>`;
}

const priceOf = (chosen: Variant) =>
  html`<p class="price">
    ${chosen.was === null ? '' : html`<s>${pounds(chosen.was)}</s>`}<strong>${pounds(chosen.price)}</strong>
    · ${STATES[chosen.state] ?? chosen.state} · ${chosen.code}
    ${chosen.unitPrice === null ? '' : html`<small>${pounds(chosen.unitPrice.price)} per ${chosen.unitPrice.per}</small>`}
    ${chosen.steps.map(({ from, price }) => html`<br />From ${from} pieces: ${pounds(price)} each`)}
    ${
      chosen.prior === null
        ? ''
        : html`<small>Lowest price of the 30 days before the reduction: ${pounds(chosen.prior)}</small>`
    }
  </p>`;

/** The page of a product, with the way to it, and the variant that was chosen. */
export function productPage(product: Product, above: readonly Category[], sku: string | undefined) {
  const chosen = chosenOf(product, sku);
  return html`${crumbsOf(above)}
    <article class="one">
      <div>${gallery(product, chosen)}</div>
      <div>
        <h2>${product.name}</h2>
        <p>${badgesOf(product)}${product.brand ?? ''}</p>
        ${chosen ? priceOf(chosen) : ''} ${chosen ? choicesOf(product, chosen) : ''}
        ${chosen ? intoBasket(product, chosen) : ''}
        ${product.condition !== null && product.condition !== 'new' ? html`<p>Condition: ${product.condition}</p>` : ''}
        ${paragraphs(product.summary)} ${notesOf(product)} ${product.points.length === 0 ? '' : list(product.points)}
        ${described(product)}
        ${
          product.parcelHolds.length === 0
            ? ''
            : html`<h3>In the parcel</h3>
                ${list(product.parcelHolds)}`
        }
        ${filesOf(product)} ${partsOf(product)} ${product.attributes.length === 0 ? '' : attributesOf(product)}
        ${product.fits.length === 0 ? '' : fitsOf(product.fits)}
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
