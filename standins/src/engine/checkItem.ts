import { type Listing, type ListingField, PROFILE } from './profile.ts';

/** What the engine answers about one item of a feed. */
export interface Reply {
  readonly id: string;
  readonly state: 'accepted' | 'warned' | 'refused';
  readonly messages: readonly string[];
}

const REQUIRED: readonly ListingField[] = [
  ...(['ref', 'heading', 'blurb', 'page', 'photo', 'shelfState', 'asks', 'coin', 'wear'] as const),
];

/** The check digit of a GTIN, as an engine computes it for itself. */
function gtinIsRight(gtin: string): boolean {
  if (!/^(\d{8}|\d{12,14})$/.test(gtin)) return false;
  const digits = [...gtin.padStart(14, '0')].map(Number);
  const sum = digits.reduce((total, digit, i) => total + digit * (i % 2 === 0 ? 3 : 1), 0);
  return sum % 10 === 0;
}

const isOneOf = (words: readonly string[], word: string): boolean => words.includes(word);

/** The engine's own rules: what it refuses, and what it accepts with advice. */
export function checkItem(item: Listing): Reply {
  const refusals: string[] = [];
  const advice: string[] = [];
  const { ref = '', heading = '', blurb = '', shelfState, asks = '', coin, wear, strip } = item;
  for (const name of REQUIRED) if (!item[name]) refusals.push(`${name} is missing`);
  if (asks && !/^\d+\.\d{2}$/.test(asks)) refusals.push(`asks "${asks}" is not like 12.50`);
  if (coin && !/^[A-Z]{3}$/.test(coin)) refusals.push(`coin "${coin}" is not like GBP`);
  if (shelfState && !isOneOf(PROFILE.shelfStates, shelfState)) refusals.push(`shelfState "${shelfState}" is unknown`);
  if (shelfState === 'spoken-for' && !item.shelvedFrom) refusals.push('shelvedFrom is missing beside spoken-for');
  if (wear && !isOneOf(PROFILE.wears, wear)) refusals.push(`wear "${wear}" is unknown`);
  if (strip && !gtinIsRight(strip)) refusals.push(`strip "${strip}" has a wrong check digit`);
  if (heading.length > 150) refusals.push('heading is longer than 150 characters');
  if (/[A-Z]{12,}/.test(heading.replace(/\s/g, ''))) advice.push('heading shouts: write it in lower case');
  if (parseFloat(asks) >= 250) refusals.push('asks is above the limit of this engine, 250.00');
  if (!item.heft) advice.push('heft is missing: shipping cannot be shown');
  if (!item.aisle) advice.push('aisle is missing');
  if (blurb.length < 40) advice.push('blurb is shorter than 40 characters');
  const state = refusals.length > 0 ? 'refused' : advice.length > 0 ? 'warned' : 'accepted';
  return { id: ref, state, messages: [...refusals, ...advice] };
}
