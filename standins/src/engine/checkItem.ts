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

/** Words that the engine does not know, and what it wants beside one of them. */
function badWords({ shelfState, shelvedFrom, wear }: Listing): string[] {
  const refusals: string[] = [];
  if (shelfState && !isOneOf(PROFILE.shelfStates, shelfState)) refusals.push(`shelfState "${shelfState}" is unknown`);
  if (shelfState === 'spoken-for' && !shelvedFrom) refusals.push('shelvedFrom is missing beside spoken-for');
  if (wear && !isOneOf(PROFILE.wears, wear)) refusals.push(`wear "${wear}" is unknown`);
  return refusals;
}

const stateOf = (refusals: readonly string[], advice: readonly string[]): Reply['state'] =>
  refusals.length > 0 ? 'refused' : advice.length > 0 ? 'warned' : 'accepted';

const ADVISED = [
  ['heft', 'heft is missing: shipping cannot be shown'],
  ['aisle', 'aisle is missing'],
] as const;

/** The engine's own rules: what it refuses, and what it accepts with advice. */
export function checkItem(item: Listing): Reply {
  const refusals: string[] = [];
  const advice: string[] = [];
  const { ref = '', heading = '', blurb = '', asks = '', coin, strip } = item;
  for (const name of REQUIRED) if (!item[name]) refusals.push(`${name} is missing`);
  refusals.push(...badWords(item));
  if (asks && !/^\d+\.\d{2}$/.test(asks)) refusals.push(`asks "${asks}" is not like 12.50`);
  if (coin && !/^[A-Z]{3}$/.test(coin)) refusals.push(`coin "${coin}" is not like GBP`);
  if (strip && !gtinIsRight(strip)) refusals.push(`strip "${strip}" has a wrong check digit`);
  if (heading.length > 150) refusals.push('heading is longer than 150 characters');
  if (/[A-Z]{12,}/.test(heading.replace(/\s/g, ''))) advice.push('heading shouts: write it in lower case');
  if (parseFloat(asks) >= 250) refusals.push('asks is above the limit of this engine, 250.00');
  for (const [name, why] of ADVISED) if (!item[name]) advice.push(why);
  if (blurb.length < 40) advice.push('blurb is shorter than 40 characters');
  return { id: ref, state: stateOf(refusals, advice), messages: [...refusals, ...advice] };
}
