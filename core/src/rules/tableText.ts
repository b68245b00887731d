import { type Asking } from '../kinds/asking.ts';
import { fieldNamed } from './slots.ts';
import { type DraftTable } from './table.ts';

/** What stands behind the field by whose value a table is read in bands. */
const BANDS = ' from';

/**
 * A table within a sentence, `{brand: Larkspur → 4 %; Northgate → 5 %}`, or in bands, `{regular price from: 0 → .99; 50 → .95}`. Rows
 * stand apart by a semicolon, or each on a line where one stands in them; braces in them have a backslash before them.
 */
export function writeTable({ by, text, bands }: DraftTable, { register }: Asking): string {
  const rows = text.split(/\r?\n/).filter((row) => row.trim() !== '');
  const inLines = rows.some((row) => row.includes(';'));
  const body = inLines
    ? rows.map((row) => `${row}\n`).join('')
    : rows.map((row) => row.replace('\t', ' → ')).join('; ');
  const inside = `${register.find(by)?.name ?? by}${bands ? BANDS : ''}: ${body}`;
  return `{${inside.replace(/[\\{}]/g, '\\$&').replace(/\n/g, '\\n')}}`;
}

const TABLE = /^\{((?:[^{}\\]|\\.)*)\}/s;

/** Takes a table off the beginning of a text: what stands in its braces, and what behind them. */
export function cutTable(text: string): readonly [inside: string, behind: string] | undefined {
  const found = TABLE.exec(text);
  return found ? [unescaped(found[1]!), text.slice(found[0].length).trimStart()] : undefined;
}

const unescaped = (text: string): string => text.replace(/\\(.)/gs, (_, mark: string) => (mark === 'n' ? '\n' : mark));

/** The table of a slot by what stands in its braces; undefined where it begins with the name of no field. */
export function readTableText(inside: string, slot: string, asking: Asking): DraftTable | undefined {
  for (const { index } of inside.matchAll(/:/g)) {
    const named = inside.slice(0, index).trim();
    const body = inside.slice(index + 1);
    const text = (body.includes('\n') ? body : body.replace(/\s*;\s*/g, '\n')).trim();
    const field = fieldNamed(named, asking);
    if (field) return { slot, by: field.key, text, bands: false };
    const ofBands = named.endsWith(BANDS) ? fieldNamed(named.slice(0, -BANDS.length), asking) : undefined;
    if (ofBands) return { slot, by: ofBands.key, text, bands: true };
  }
  return undefined;
}
