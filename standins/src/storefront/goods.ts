import { html } from 'hono/html';
import { type Goods, type Page, type Product } from './shopTypes.ts';

export const pounds = (pence: string): string => `£${(Number(pence) / 100).toFixed(2)}`;

export const paragraphs = (text: string) =>
  text
    .split(/\n\s*\n/)
    .filter(Boolean)
    .map((paragraph) => html`<p>${paragraph}</p>`);

export const headPicture = ({ picture }: Page) =>
  picture ? html`<img class="head" src="/pictures/${picture}.webp" alt="" width="220" height="220" />` : '';

export const goodsOf = ({ total, products }: Goods, from: number, query = '') =>
  html`<p>${total} products</p>
    <ul class="goods">
      ${products.map(productCard)}
    </ul>
    ${from + 24 < total ? html`<p><a href="?${query}from=${from + 24}">More</a></p>` : ''}`;

export const badgesOf = ({ badges }: Product) => badges.map((badge) => html`<span class="badge">${badge}</span>`);

export const picture = ({ picture: key, pictures, name }: Product) =>
  key === null
    ? html`<div class="blank">no picture</div>`
    : html`<img src="/pictures/${key}.webp" alt="${pictures[0]?.alternative || name}" width="500" height="500" />`;

export function productCard(product: Product) {
  const prices = product.variants.map(({ price }) => Number(price));
  const least = Math.min(...prices);
  const from = Math.max(...prices) > least ? 'from ' : '';
  return html`<li>
    <a href="/products/${product.slug}"
      >${picture(product)}${badgesOf(product)}<strong>${product.name}</strong><br />${from}${pounds(String(least))}</a
    >
  </li>`;
}
