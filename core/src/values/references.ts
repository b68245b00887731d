import { type Field } from '../kinds/field.ts';
import type { Asking } from '../kinds/asking.ts';
import { type NameList, namesOf } from '../kinds/names.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { nearest } from '../words/nearest.ts';
import { isPartial } from '../question/comparisonTable.ts';
import { EQUALITY, holdsText, OF_SEVERAL, OF_TEXT } from './comparing.ts';
import { type ValueType } from './valueType.ts';

function readReference(text: string, list: NameList): Result<string> {
  const id = list.find(text);
  if (id !== undefined) return good(id);
  if (holdsSeveral(text)) return bad('several-in-one', { value: text.trim(), expected: firstOf(text) });
  const near = nearest(text, list.names());
  return bad('reference-unknown', { value: text.trim(), ...(near !== undefined && { expected: near }) });
}

/** Whether a text divides values by a bar, which stands in no name. */
export const holdsSeveral = (text: string): boolean => text.includes('|');
const firstOf = (text: string): string => text.split('|')[0]!.trim();

/** The names behind the ids of a value. */
const namesOfValue = (value: string, field: Field, asking: Asking): string[] =>
  value.split('|').map((id) => shownName(id, field, asking));

/** A category by its path, which has a list of its own. */
function shownName(id: string, field: Field, asking: Asking): string {
  return field.refersTo?.kind === 'category'
    ? asking.names.categories.path(id)
    : (namesOf(field, asking.names).byId.get(id) ?? '');
}

/** A thing of the shop, by its id: a brand, a supplier, a value of an option. */
export const reference: ValueType = {
  isNumber: false,
  isNamed: true,
  comparisons: OF_TEXT,
  usual: 'is',
  read: (text, field, asking) =>
    field.refersTo?.kind === 'category' ? readPath(text, asking) : readReference(text, namesOf(field, asking.names)),
  show: (value, field, asking) => shownName(value, field, asking),
  known: (field, asking) => namesOf(field, asking.names).names(),
  holds: (comparison, value, wanted, field, asking) => {
    if (!isPartial(comparison)) return value === wanted;
    const name = namesOf(field, asking.names).byId.get(value);
    return name !== undefined && holdsText(comparison, name, wanted);
  },
};

/** The entries of a value that divides them by `|`. */
export const dividedByBar = (value: string): readonly string[] => value.split('|');

/** Ids in the one order that a set is written in, none of them twice. */
export const canonicalSet = (ids: Iterable<string>): string =>
  [...new Set(ids)].sort((a, b) => a.length - b.length || (a < b ? -1 : 1)).join('|');

/** The parts of a cell that holds several: divided by `|`, or by commas where no name has one. */
export function partsOf(text: string, isName: (part: string) => boolean): string[] {
  const parts = text.includes('|') || isName(text) ? text.split('|') : text.split(',');
  return parts.map((part) => part.trim()).filter(Boolean);
}

/** The ids of several things that a cell names, in its order. */
function readSeveral(text: string, list: NameList): Result<string[]> {
  const ids: string[] = [];
  for (const part of partsOf(text, (name) => list.find(name) !== undefined)) {
    const read = readReference(part, list);
    if (!read.ok) return read;
    ids.push(read.value);
  }
  return good([...new Set(ids)]);
}

/** A set of things of the shop: tags, several values of an attribute. */
export const references: ValueType = {
  ...reference,
  comparisons: [...EQUALITY, 'has all of', ...OF_SEVERAL],
  entriesOf: dividedByBar,
  read: (text, field, asking) => {
    const ids = readSeveral(text, namesOf(field, asking.names));
    return ids.ok ? good(canonicalSet(ids.value)) : ids;
  },
  readWanted: (text, field, asking) => readReference(text, namesOf(field, asking.names)),
  show: (value, field, asking) => {
    const shown = namesOfValue(value, field, asking);
    return shown.join(shown.some((name) => name.includes(',')) ? ' | ' : ', ');
  },
  holds: (_comparison, value, wanted) => value.split('|').includes(wanted),
};

/** Lists of SKUs that a count was opened as. */
export const lists: ValueType = { ...references, comparisons: ['is', 'is not'] };

/** Assortments that goods are in, by rule or by hand. */
export const assortments: ValueType = { ...references, comparisons: EQUALITY };

/** Products in an order that is given by hand; each is written by the code of its first SKU. */
export const products: ValueType = {
  ...references,
  comparisons: ['is empty', 'is filled', ...OF_SEVERAL],
  usual: 'is filled',
  read: (text, field, asking) => {
    const ids = readSeveral(text, namesOf(field, asking.names));
    return ids.ok ? good(ids.value.join('|')) : ids;
  },
  // There are as many as the shop has products.
  known: () => [],
};

function readPath(path: string, asking: Asking): Result<string> {
  const meant = asking.names.categories.meant(path);
  if (meant.length === 1) return good(meant[0]!);
  const near = nearest(
    path,
    asking.names.categories.categories.map(({ id }) => asking.names.categories.path(id)),
  );
  return bad('category-unknown', { value: path, ...(near !== undefined && { expected: near }) });
}

/** Categories by their paths, the main one first. */
export const categories: ValueType = {
  ...reference,
  comparisons: ['in', ...EQUALITY, ...OF_SEVERAL],
  usual: 'in',
  entriesOf: dividedByBar,
  read: (text, _field, asking) => {
    const ids: string[] = [];
    for (const path of text
      .split('|')
      .map((part) => part.trim())
      .filter(Boolean)) {
      const read = readPath(path, asking);
      if (!read.ok) return read;
      if (!ids.includes(read.value)) ids.push(read.value);
    }
    return good(ids.join('|'));
  },
  // A name that several categories have asks for all of them.
  readWanted: (text, _field, asking) => {
    const meant = asking.names.categories.meant(text);
    return meant.length > 0 ? good(meant.join('|')) : bad('category-unknown', { value: text });
  },
  show: (value, field, asking) => namesOfValue(value, field, asking).join(' | '),
  known: (_field, asking) => {
    const tree = asking.names.categories;
    return tree.categories.flatMap(({ id, name, parent }) =>
      parent === null ? [tree.path(id)] : [tree.path(id), name],
    );
  },
  holds: (comparison, value, wanted, _field, asking) => {
    const own = value.split('|');
    const ids = comparison === 'in' ? own.flatMap((id) => asking.names.categories.within(id)) : own;
    return ids.includes(wanted);
  },
};
