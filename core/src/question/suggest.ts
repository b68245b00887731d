import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type Register } from '../kinds/register.ts';
import { knownValues, typeOf } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { comparisonsOf, isComparable } from './comparisons.ts';
import { WRITTEN } from './comparisonTable.ts';
import { quote } from './print.ts';
import { type ComparisonKey } from './tree.ts';

/** What could be typed next: `insert` takes the place of the text from `from` to the caret. */
export interface Suggestion {
  readonly kind: 'field' | 'comparison' | 'value';
  readonly insert: string;
  readonly from: number;
  /** Of a value that goods are counted by: the field that it is a value of, and its name as the shop has it. */
  readonly of?: { readonly field: Field; readonly name: string };
}

const MOST = 12;
const FORMS = [...new Set(WRITTEN.map(([text]) => text))].sort((a, b) => b.length - a.length);

/** The field whose value is to be typed next at the end of `text`; undefined where something else is. */
export function fieldOfNextValue(text: string, { register }: Asking): Field | undefined {
  const open = openComparison(text, register);
  return open && (open.comparison !== undefined || typeOf(open.field).isPhrase) ? open.field : undefined;
}

/**
 * What fits at the end of `text` (the question up to the caret): a field, then its comparisons, then its values; those that the shop does
 * not have at hand, such as titles of landings, are handed in as `others`.
 */
export function suggest(text: string, asking: Asking, others: readonly string[] = []): Suggestion[] {
  const { register } = asking;
  const open = openComparison(text, register);
  if (open?.comparison !== undefined)
    return [
      ...values(open.field, open.rest, text, [...knownValues(open.field, asking), ...others]),
      ...otherFields(open.field, open.comparison, open.rest, text, register),
    ];
  if (open) {
    const comparisons = comparisonsOf(open.field)
      .filter((comparison) => comparison !== 'in' && startsWith(comparison, open.rest))
      .map((comparison): Suggestion => ({
        kind: 'comparison',
        insert: comparison + ' ',
        from: text.length - open.rest.length,
      }));
    return typeOf(open.field).isPhrase ? [...values(open.field, open.rest, text, others), ...comparisons] : comparisons;
  }
  return fieldNames(text, register);
}

interface OpenComparison {
  readonly field: Field;
  readonly comparison?: ComparisonKey;
  /** What was typed behind the field or the comparison. */
  readonly rest: string;
}

/** The last field in the text that still waits for its comparison or its value. */
function openComparison(text: string, register: Register): OpenComparison | undefined {
  const inCategory = /(?:^|[\s(])in\s+("?[^"()<>]*)$/i.exec(text);
  // The name that ends last counts, and of those that end together the longest: `landed in` is not `in`.
  const at = inCategory ? inCategory.index + inCategory[0].search(/in\s/i) : 0;
  let best: (OpenComparison & { at: number; end: number }) | undefined = inCategory
    ? { field: register.get('category'), comparison: 'in', rest: inCategory[1]!, at, end: at + 2 }
    : undefined;
  for (const target of register.goods) {
    for (const name of [target.name, ...target.alsoCalled]) {
      const found = lastWhole(fold(text), fold(name));
      if (found === undefined) continue;
      const end = found + name.length;
      if (best && (end < best.end || (end === best.end && found > best.at))) continue;
      const behind = text.slice(found + name.length);
      if (!/^\s/.test(behind)) continue;
      const rest = behind.trimStart();
      const form = FORMS.find((form) => startsWith(rest, form) && /^\s/.test(rest.slice(form.length)));
      const comparison = form && WRITTEN.find(([written]) => written === form)?.[1];
      if (comparison) best = { field: target, comparison, rest: rest.slice(form.length).trimStart(), at: found, end };
      else if (!/["(),]/.test(rest)) best = { field: target, rest, at: found, end };
    }
  }
  return best;
}

function lastWhole(text: string, name: string): number | undefined {
  const at = text.lastIndexOf(name);
  return at < 0 || /[^\s(]/.test(text[at - 1] ?? ' ') ? undefined : at;
}

const startsWith = (text: string, beginning: string): boolean => fold(text).startsWith(fold(beginning));

function values(target: Field, rest: string, text: string, all: readonly string[]): Suggestion[] {
  const typed = rest.slice(rest.lastIndexOf(',') + 1).trimStart();
  const wanted = typed.replace(/^"/, '');
  if (/"$/.test(wanted)) return [];
  const known = all.filter((value) => fold(value) !== fold(wanted));
  const matching = [
    ...known.filter((value) => startsWith(value, wanted)),
    ...known.filter((value) => !startsWith(value, wanted) && fold(value).includes(fold(wanted))),
  ];
  return matching.slice(0, MOST).map((value) => ({
    kind: 'value',
    insert: (/^[\p{L}\p{N}._/-]+$/u.test(value) ? value : quote(value)) + ' ',
    from: text.length - typed.length,
    ...(target.type !== 'titles' && { of: { field: target, name: value } }),
  }));
}

/** The fields that a number can be compared with. */
function otherFields(
  target: Field,
  comparison: ComparisonKey,
  rest: string,
  text: string,
  register: Register,
): Suggestion[] {
  const typed = rest.replace(/^\S+ (?:times|×) /, '');
  return register.goods
    .filter((other) => isComparable(target, other, comparison) && startsWith(other.name, typed))
    .map(({ name }) => ({ kind: 'field', insert: name + ' ', from: text.length - typed.length }));
}

function fieldNames(text: string, register: Register): Suggestion[] {
  const typed = /[^\s"()]*$/.exec(text)![0];
  if (typed === '') return [];
  const from = text.length - typed.length;
  const offered = register.goods
    .filter(({ name, alsoCalled }) => [name, ...alsoCalled].some((called) => startsWith(called, typed)))
    .map(({ name }) => ({ kind: 'field' as const, insert: name + ' ', from }));
  return startsWith('in', typed) ? [{ kind: 'comparison', insert: 'in ', from }, ...offered] : offered;
}
