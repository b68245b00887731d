import { type Asking } from '../kinds/asking.ts';
import { type Field, isTakenIn } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { type Register } from '../kinds/register.ts';
import { type ValueTypeKey } from '../values/valueType.ts';
import { GRAMS_OF } from '../values/weightUnits.ts';
import { ANY_SIGN, type Currency, CURRENCY_IN_TEXT, standsFor } from '../money/currency.ts';
import { editDistance } from '../words/nearest.ts';
import { fold } from '../words/fold.ts';
import { FOREIGN_BEFORE_TAX, FOREIGN_HEADINGS, FOREIGN_WITH_TAX, PRICE_WORDS } from './foreignHeadings.ts';

/** By what a column may have been matched to a field. */
export const MATCHED_BY = ['name', 'synonym', 'likeness', 'values', 'none'] as const;

/** The field a heading was matched to, and how surely. */
export interface HeadingMatch {
  readonly heading: string;
  readonly field: FieldKey | null;
  readonly by: (typeof MATCHED_BY)[number];
}

/** Words of a heading apart from one another: `PRICE_EX_VAT` and `price (ex. VAT)` are one. */
const spaced = (heading: string): string => heading.replace(/[_\-./:#*%()[\]'’°]+/g, ' ');

/** Words about tax are not part of the name of an amount. */
const WITH_TAX = anyOf('(?:incl?|including|with)\\s+(?:vat|tax)', ...FOREIGN_WITH_TAX);
const BEFORE_TAX = anyOf('(?:ex|excl?|excluding|without|before)\\s+(?:vat|tax)', ...FOREIGN_BEFORE_TAX);

function anyOf(...forms: string[]): RegExp {
  return new RegExp(`\\b(?:${forms.join('|').replaceAll(' ', '\\s+')})\\b`, 'i');
}

const SIGN = new RegExp(ANY_SIGN, 'g');

/** The words of a heading, by which it is compared: without marks, accents and case. */
export const headingWords = (text: string): string[] =>
  fold(spaced(text).replace(SIGN, ' $& ')).split(' ').filter(Boolean);

/** A heading, taken apart: its words without what it says of tax and of the shop's own currency. */
interface Heading {
  readonly words: readonly string[];
  readonly tax: 'with' | 'before' | 'unsaid';
}

function takeApart(written: string, currency: Currency): Heading {
  const heading = spaced(written);
  const tax = BEFORE_TAX.test(heading) ? 'before' : WITH_TAX.test(heading) ? 'with' : 'unsaid';
  const words = headingWords(heading.replace(WITH_TAX, ' ').replace(BEFORE_TAX, ' ')).filter(
    (word) => !standsFor(word, currency),
  );
  return { words, tax };
}

/** The currency that the heading of an amount names, as written, when it is not the shop's. */
export function otherCurrency(field: Field, heading: string, currency: Currency): string | undefined {
  if (field.type !== 'money') return undefined;
  return (heading.match(CURRENCY_IN_TEXT) ?? []).find((written) => !standsFor(written, currency));
}

/**
 * Matches a file's headings to fields: by name, by synonym, then by likeness (a synonym with words that say no more than
 * it does, or one or two letters off). A heading that says more, as *sale price* or *pack quantity* do, is left to a
 * person. No field is matched twice; the surer match has it.
 */
export function matchHeadings(headings: readonly string[], { register, names }: Asking): HeadingMatch[] {
  const called = calledIn(register);
  const candidates = headings.flatMap((written, index) => {
    const heading = takeApart(written, names.currency);
    return called
      .map(({ field, ...words }) => ({ index, field, ...likeness(heading, field, words) }))
      .filter(({ score }) => score > 0);
  });
  candidates.sort((a, b) => b.score - a.score || a.index - b.index);
  const byIndex = new Map<number, HeadingMatch>();
  const taken = new Set<FieldKey>();
  for (const { index, field, by } of candidates) {
    if (byIndex.has(index) || taken.has(field.key)) continue;
    byIndex.set(index, { heading: headings[index]!, field: field.key, by });
    taken.add(field.key);
  }
  nameBesidePrices(byIndex);
  return headings.map((heading, index) => byIndex.get(index) ?? { heading, field: null, by: 'none' });
}

/** Price lists often call the names of their goods descriptions. */
function nameBesidePrices(matches: Map<number, HeadingMatch>): void {
  const taken = [...matches.values()].map(({ field }) => field);
  if (taken.includes('name') || !(taken.includes('price') || taken.includes('cost'))) return;
  for (const [index, { heading, field }] of matches)
    if (field === 'description') matches.set(index, { heading, field: 'name', by: 'likeness' });
}

/** Whether a column that is taken for a field holds weights in kilograms, as its heading says. */
export const isInKilograms = (field: Field, heading: string): boolean =>
  field.type === 'grams' && headingWords(heading).some((word) => GRAMS_OF.get(word) === 1_000);

/** Among so many rows headings are looked for: suppliers put titles, addresses and dates above them. */
export const HEADINGS_WITHIN = 10;

/**
 * Which of a file's first rows holds the headings: the one of which most cells match a field, the first such where
 * several do. Undefined when none has two cells that are filled, as headings would be.
 */
export function headingsAt(rows: readonly (readonly string[])[], asking: Asking): number | undefined {
  let best: { readonly at: number; readonly matched: number } | undefined;
  rows.slice(0, HEADINGS_WITHIN).forEach((cells, at) => {
    if (cells.filter((cell) => cell.trim() !== '').length < 2) return;
    const matched = matchHeadings(cells, asking).filter(({ field }) => field !== null).length;
    if (matched > (best?.matched ?? -1)) best = { at, matched };
  });
  return best?.at;
}

/** Words that a heading may have beside the name of a field, and still mean the field; which more, goes by the field's type. */
const SAYS_NO_MORE = ['the', 'our', 'of', 'main'];
const GOODS = ['art', 'item', 'items', 'product', 'products', 'article', 'articles', 'goods', 'variant'];
const BESIDE: Partial<Record<ValueTypeKey, readonly string[]>> = {
  money: [...GOODS, 'new', 'each'],
  longText: [...GOODS, 'full', 'long'],
  reference: ['name'],
  categories: [...GOODS, 'name'],
};
/** Suppliers set this year's price beside last year's; the later one is meant. */
const YEAR = /^20\d\d$/;

/** How a field is called: folded as one text, word by word, and the words that a heading may have beside that. */
interface Called {
  readonly own: readonly string[];
  readonly names: readonly { readonly text: string; readonly words: readonly string[] }[];
  readonly beside: ReadonlySet<string>;
}

/** How the fields of a register are called that a file may have: a shop has one for each of its hundreds of sales. */
const CALLED = new WeakMap<Register, readonly (Called & { readonly field: Field })[]>();

function calledIn(register: Register): readonly (Called & { readonly field: Field })[] {
  let called = CALLED.get(register);
  if (!called) CALLED.set(register, (called = register.goods.filter(isTakenIn).map(calledOf)));
  return called;
}

function calledOf(field: Field): Called & { readonly field: Field } {
  const { key, type, name, alsoCalled, own } = field;
  const foreign = FOREIGN_HEADINGS[(own?.feed ?? key) as keyof typeof FOREIGN_HEADINGS] ?? [];
  const names = [name, ...alsoCalled, ...foreign].map(headingWords);
  return {
    field,
    own: [fold(name), fold(key)],
    names: names.map((words) => ({ text: words.join(' '), words })),
    beside: new Set([...names.flat(), ...SAYS_NO_MORE, ...(BESIDE[type] ?? GOODS)]),
  };
}

/** How surely a heading means a field: 100 by its own name, nought not at all. */
interface Likeness {
  readonly score: number;
  readonly by: HeadingMatch['by'];
}
const NOT_ALIKE: Likeness = { score: 0, by: 'none' };

function likeness({ words: written, tax }: Heading, field: Field, { own, names, beside }: Called): Likeness {
  // What the heading of a weight says of its unit is read apart from its name.
  const unitless = field.type === 'grams' ? written.filter((word) => !GRAMS_OF.has(word)) : written;
  const words = unitless.length > 0 ? unitless : written;
  const text = words.join(' ');
  if (field.tax && tax !== 'unsaid' && tax !== field.tax) return NOT_ALIKE;
  // A price before tax is what a supplier asks, and the goods cost.
  if (field.tax === 'before' && tax === 'before' && PRICE_WORDS.has(text)) return { score: 40, by: 'likeness' };
  if (own.includes(text)) return { score: 100, by: 'name' };
  const year = field.type === 'money' ? words.find((word) => YEAR.test(word)) : undefined;
  const saysNoMore = words.every((word) => beside.has(word) || word === year);
  let best = NOT_ALIKE;
  for (const name of names) {
    const offer = alike(name);
    if (offer.score > best.score) best = offer;
  }
  return best;

  function alike(name: Called['names'][number]): Likeness {
    if (text === name.text) return { score: 90, by: 'synonym' };
    if (saysNoMore && name.words.every((word) => words.includes(word)))
      return { score: 40 + name.text.length + Number(year ?? 0) / 10_000, by: 'likeness' };
    return hasSlip(words, name.words) ? { score: 35, by: 'likeness' } : NOT_ALIKE;
  }
}

/** Whether words are meant to be a name: a word of more than four letters may be one letter off, of more than eight two. */
const hasSlip = (words: readonly string[], name: readonly string[]): boolean =>
  words.length === name.length &&
  words.every((word, i) => {
    if (word === name[i]) return true;
    const letters = name[i]!.length;
    const most = letters > 8 ? 2 : 1;
    // Letters that one has more than the other are edits too.
    return letters > 4 && Math.abs(word.length - letters) <= most && editDistance(word, name[i]!) <= most;
  });
