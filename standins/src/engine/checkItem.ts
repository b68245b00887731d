/** What the engine answers about one item of a feed. */
export interface Reply {
  readonly id: string;
  readonly state: 'accepted' | 'warned' | 'refused';
  readonly messages: readonly string[];
}

const REQUIRED = ['id', 'title', 'description', 'link', 'image_link', 'availability', 'price', 'condition'];
const AVAILABILITY = new Set(['in_stock', 'out_of_stock', 'preorder', 'backorder']);

/** The check digit of a GTIN, as an engine computes it for itself. */
function gtinIsRight(gtin: string): boolean {
  if (!/^(\d{8}|\d{12,14})$/.test(gtin)) return false;
  const digits = [...gtin.padStart(14, '0')].map(Number);
  const sum = digits.reduce((total, digit, i) => total + digit * (i % 2 === 0 ? 3 : 1), 0);
  return sum % 10 === 0;
}

/** The engine's own rules: what it refuses, and what it accepts with advice. */
export function checkItem(item: Readonly<Record<string, string>>): Reply {
  const refusals: string[] = [];
  const advice: string[] = [];
  for (const name of REQUIRED) if (!item[name]) refusals.push(`${name} is missing`);
  if (item['price'] && !/^\d+\.\d{2} [A-Z]{3}$/.test(item['price']))
    refusals.push(`price "${item['price']}" is not like 12.50 GBP`);
  if (item['availability'] && !AVAILABILITY.has(item['availability']))
    refusals.push(`availability "${item['availability']}" is unknown`);
  if (item['gtin'] && !gtinIsRight(item['gtin'])) refusals.push(`gtin "${item['gtin']}" has a wrong check digit`);
  const title = item['title'] ?? '';
  if (title.length > 150) refusals.push('title is longer than 150 characters');
  if (/[A-Z]{12,}/.test(title.replace(/\s/g, ''))) advice.push('title shouts: write it in lower case');
  if (parseFloat(item['price'] ?? '') >= 250) refusals.push('price is above the limit of this engine, 250.00');
  if (!item['shipping_weight']) advice.push('shipping_weight is missing: shipping cannot be shown');
  if (!item['product_type']) advice.push('product_type is missing');
  if ((item['description'] ?? '').length < 40) advice.push('description is shorter than 40 characters');
  const state = refusals.length > 0 ? 'refused' : advice.length > 0 ? 'warned' : 'accepted';
  return { id: item['id'] ?? '', state, messages: [...refusals, ...advice] };
}
