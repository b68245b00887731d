import { type Names, namesOf } from '../fields/names.ts';
import { type Field } from '../fields/register.ts';

/** The values of a field that the shop has names for: choices, brands, suppliers, category paths, lists. */
export function knownValues(field: Field, names: Names): string[] {
  if (field.choices) return [...field.choices];
  if (field.type === 'reference' || field.type === 'lists') return namesOf(field, names).names();
  if (field.type !== 'categories') return [];
  const tree = names.categories;
  return tree.categories.flatMap(({ id, name, parent }) => (parent === null ? [tree.path(id)] : [tree.path(id), name]));
}
