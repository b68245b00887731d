import { readGtin } from '../codes/gtin.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { namesBehind, type Names } from '../kinds/names.ts';
import { fold } from '../words/fold.ts';
import { type HeadingMatch } from './headings.ts';
import { readCellText } from './formula.ts';

/** Whether a cell is a value that only one field has. */
const TELLING: readonly (readonly [FieldKey, (cell: string, names: Names) => boolean])[] = [
  ['gtin', (cell) => readGtin(cell).ok],
  ['brand', (cell, names) => namesBehind({ kind: 'brand' }, names).find(cell) !== undefined],
  ['supplier', (cell, names) => namesBehind({ kind: 'supplier' }, names).find(cell) !== undefined],
  ['category', (cell, names) => names.categories.meant(cell).length > 0],
];

/** Of so many cells that are filled, at least, this share tells what their column holds. */
const FEWEST = 2;
const SHARE = 0.6;

/**
 * Matches columns whose heading says nothing by what stands below it: GTINs with the right check digit, brands, suppliers and
 * categories of the shop. A field that a heading names is left to it.
 */
export function matchByValues<Match extends HeadingMatch>(
  matches: readonly Match[],
  rows: readonly (readonly string[])[],
  names: Names,
): Match[] {
  const taken = new Set(matches.map(({ field }) => field));
  return matches.map((match, i) => {
    if (match.field !== null) return match;
    const cells = rows.map((row) => readCellText(row[i] ?? '').trim()).filter(Boolean);
    const found = TELLING.find(([field, tells]) => {
      if (taken.has(field) || cells.length < FEWEST || new Set(cells.map(fold)).size < FEWEST) return false;
      return cells.filter((cell) => tells(cell, names)).length >= cells.length * SHARE;
    });
    if (!found) return match;
    taken.add(found[0]);
    return { ...match, field: found[0], by: 'values' };
  });
}
