import { type Asking, type Field, namesOf } from '@ivory/core';

/** One of the values that can be chosen for a field, and the text that says it. */
export interface Offered {
  readonly text: string;
  readonly id: string;
}

/** What can be chosen for a field of a thing; nothing where one types. */
export function offered(field: Field, { names }: Asking): readonly Offered[] {
  if (field.refersTo?.kind === 'category')
    return names.categories.categories.map(({ id }) => ({ id, text: names.categories.path(id) }));
  if (field.type === 'choice') return (field.choices ?? []).map(({ key, name }) => ({ id: key, text: name }));
  if (field.type === 'yesNo') return ['yes', 'no'].map((text) => ({ id: text, text }));
  if (field.type !== 'reference' && field.type !== 'references') return [];
  return [...namesOf(field, names).byId].map(([id, text]) => ({ id, text }));
}

/** Whether several of them can be chosen. */
export const takesSeveral = ({ type }: Field): boolean => type === 'categories' || type === 'references';

/** The text that says what was chosen. */
export function textOf(chosen: readonly string[] | string | null, all: readonly Offered[]): string {
  const ids = chosen === null ? [] : typeof chosen === 'string' ? [chosen] : chosen;
  return ids.map((id) => all.find((one) => one.id === id)?.text ?? '').join(' | ');
}
