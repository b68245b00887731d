import { type FieldKey } from '../fields/keys.ts';
import { field as entry, type Field, fields, isEditable } from '../fields/register.ts';
import { editDistance } from '../words/nearest.ts';
import { fold } from '../words/fold.ts';

/** The field a heading was matched to, and how surely. */
export interface HeadingMatch {
  readonly heading: string;
  readonly field: FieldKey | null;
  readonly by: 'name' | 'synonym' | 'likeness' | 'none';
}

/** Words of a heading apart from one another: `PRICE_EX_VAT` and `price ex. VAT` are one. */
const spaced = (heading: string): string => heading.replace(/[_\-./:#*]+/g, ' ');

/** What a heading says of tax is no part of what it calls the amount. */
const WITH_TAX = /\b(?:incl?|including|with)\W+(?:vat|tax)\b/gi;
const BEFORE_TAX = /\b(?:ex|excl?|excluding|without|before)\W+(?:vat|tax)\b/gi;

const plainHeading = (heading: string): string =>
  fold(
    spaced(heading)
      .replace(WITH_TAX, ' ')
      .replace(BEFORE_TAX, ' ')
      .replace(/\(.*?\)|\[.*?\]/g, ' '),
  );

/**
 * Matches a file's headings to fields: by name, by synonym, then by likeness (every word of a synonym in the heading,
 * or one or two letters off). No field is matched twice; the surer match has it.
 */
export function matchHeadings(headings: readonly string[]): HeadingMatch[] {
  const candidates = headings.flatMap((written, index) => {
    const heading = plainHeading(written);
    const isBeforeTax = spaced(written).search(BEFORE_TAX) >= 0;
    return fields()
      .filter((field) => isEditable(field.key))
      .map((field) => ({ index, field, ...likeness(heading, isBeforeTax, field) }))
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
export const isInKilograms = (key: FieldKey, heading: string): boolean =>
  entry(key).type === 'grams' && /\b(?:kgs?|kilos?|kilograms?)\b/i.test(spaced(heading));

/** Among so many rows headings are looked for: suppliers put titles, addresses and dates above them. */
const FIRST_ROWS = 10;

/**
 * Which of a file's first rows holds the headings: the one of which most cells match a field, the first such where
 * several do. Undefined when none has two cells that are filled, as headings would be.
 */
export function headingsAt(rows: readonly (readonly string[])[]): number | undefined {
  let best: { readonly at: number; readonly matched: number } | undefined;
  rows.slice(0, FIRST_ROWS).forEach((cells, at) => {
    if (cells.filter((cell) => cell.trim() !== '').length < 2) return;
    const matched = matchHeadings(cells).filter(({ field }) => field !== null).length;
    if (matched > (best?.matched ?? -1)) best = { at, matched };
  });
  return best?.at;
}

function likeness(heading: string, isBeforeTax: boolean, field: Field): { score: number; by: HeadingMatch['by'] } {
  // The regular price is with tax; what a supplier asks before tax is what the goods cost.
  if (field.key === 'price' && isBeforeTax) return { score: 0, by: 'none' };
  if (field.key === 'cost' && heading === 'price' && isBeforeTax) return { score: 40, by: 'likeness' };
  if (heading === fold(field.name) || heading === fold(field.key)) return { score: 100, by: 'name' };
  let best = { score: 0, by: 'none' as HeadingMatch['by'] };
  const offer = (score: number, by: HeadingMatch['by']) => {
    if (score > best.score) best = { score, by };
  };
  const words = heading.split(' ');
  for (const name of [field.name, ...field.alsoCalled].map(plainHeading)) {
    if (heading === name) offer(90, 'synonym');
    else if (name.split(' ').every((word) => words.includes(word))) offer(40 + name.length, 'likeness');
    else if (name.length > 4 && editDistance(heading, name) <= (name.length > 8 ? 2 : 1)) offer(35, 'likeness');
  }
  return best;
}
