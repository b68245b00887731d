import { type Field } from '../kinds/field.ts';
import { type NameList, type Names, namesOf } from '../kinds/names.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { nearest } from '../words/nearest.ts';
import { EQUALITY, holdsText, isPartial, OF_TEXT } from './comparing.ts';
import { type ValueType } from './valueType.ts';

function readReference(text: string, list: NameList): Result<string> {
  const id = list.find(text);
  if (id !== undefined) return good(id);
  const near = nearest(text, list.names());
  return bad('reference-unknown', { value: text.trim(), ...(near !== undefined && { expected: near }) });
}

/** The names behind the ids of a value. */
const namesOfValue = (value: string, field: Field, names: Names): string[] =>
  value.split('|').map((id) => shownName(id, field, names));

/** A category by its path, which has a list of its own. */
function shownName(id: string, field: Field, names: Names): string {
  return field.refersTo?.kind === 'category' ? names.categories.path(id) : (namesOf(field, names).byId.get(id) ?? '');
}

/** A thing of the shop, by its id: a brand, a supplier, a value of an option. */
export const reference: ValueType = {
  isNumber: false,
  isNamed: true,
  comparisons: OF_TEXT,
  usual: 'is',
  read: (text, field, names) =>
    field.refersTo?.kind === 'category' ? readPath(text, names) : readReference(text, namesOf(field, names)),
  show: (value, field, names) => shownName(value, field, names),
  known: (field, names) => namesOf(field, names).names(),
  holds: (comparison, value, wanted, field, names) => {
    if (!isPartial(comparison)) return value === wanted;
    const name = namesOf(field, names).byId.get(value);
    return name !== undefined && holdsText(comparison, name, wanted);
  },
};

/** Ids in the one order that a set is written in, none of them twice. */
export const canonicalSet = (ids: Iterable<string>): string =>
  [...new Set(ids)].sort((a, b) => a.length - b.length || (a < b ? -1 : 1)).join('|');

/** The parts of a cell that holds several: divided by `|`, or by commas where no name has one. */
export function partsOf(text: string, isName: (part: string) => boolean): string[] {
  const parts = text.includes('|') || isName(text) ? text.split('|') : text.split(',');
  return parts.map((part) => part.trim()).filter(Boolean);
}

/** A set of things of the shop: tags, several values of an attribute. */
export const references: ValueType = {
  ...reference,
  comparisons: EQUALITY,
  read: (text, field, names) => {
    const list = namesOf(field, names);
    const ids: string[] = [];
    for (const part of partsOf(text, (name) => list.find(name) !== undefined)) {
      const read = readReference(part, list);
      if (!read.ok) return read;
      ids.push(read.value);
    }
    return good(canonicalSet(ids));
  },
  readWanted: (text, field, names) => readReference(text, namesOf(field, names)),
  show: (value, field, names) => {
    const shown = namesOfValue(value, field, names);
    return shown.join(shown.some((name) => name.includes(',')) ? ' | ' : ', ');
  },
  holds: (_comparison, value, wanted) => value.split('|').includes(wanted),
};

/** Lists of SKUs that a count was opened as. */
export const lists: ValueType = { ...references, comparisons: ['is', 'is not'] };

function readPath(path: string, names: Names): Result<string> {
  const meant = names.categories.meant(path);
  if (meant.length === 1) return good(meant[0]!);
  const near = nearest(
    path,
    names.categories.categories.map(({ id }) => names.categories.path(id)),
  );
  return bad('category-unknown', { value: path, ...(near !== undefined && { expected: near }) });
}

/** Categories by their paths, the main one first. */
export const categories: ValueType = {
  ...reference,
  comparisons: ['in', ...EQUALITY],
  usual: 'in',
  read: (text, _field, names) => {
    const ids: string[] = [];
    for (const path of text
      .split('|')
      .map((part) => part.trim())
      .filter(Boolean)) {
      const read = readPath(path, names);
      if (!read.ok) return read;
      if (!ids.includes(read.value)) ids.push(read.value);
    }
    return good(ids.join('|'));
  },
  // A name that several categories have asks for all of them.
  readWanted: (text, _field, names) => {
    const meant = names.categories.meant(text);
    return meant.length > 0 ? good(meant.join('|')) : bad('category-unknown', { value: text });
  },
  show: (value, field, names) => namesOfValue(value, field, names).join(' | '),
  known: (_field, names) => {
    const tree = names.categories;
    return tree.categories.flatMap(({ id, name, parent }) =>
      parent === null ? [tree.path(id)] : [tree.path(id), name],
    );
  },
  holds: (comparison, value, wanted, _field, names) => {
    const own = value.split('|');
    const ids = comparison === 'in' ? own.flatMap((id) => names.categories.within(id)) : own;
    return ids.includes(wanted);
  },
};
