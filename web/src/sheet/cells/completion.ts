import { type Asking, type Field, fold, knownValues, typeOf } from '@ivory/core';

/** What divides the values of a field that holds several, where they are typed. */
const DIVIDERS = /[|,]/;

/**
 * What is missing of a name that the shop has behind what was typed: of the first that begins so, of the last part where a field holds
 * several. Undefined where nothing is to be added: the field has no names, none begins so, or one is just that.
 */
export function completion(typed: string, field: Field, asking: Asking): string | undefined {
  if (!typeOf(field).isNamed && field.type !== 'yesNo') return undefined;
  const part = typeOf(field).entriesOf ? lastPart(typed) : typed;
  const beginning = fold(part);
  if (beginning === '' || part.endsWith(' ')) return undefined;
  let rest: string | undefined;
  for (const name of knownValues(field, asking)) {
    const key = fold(name);
    if (key === beginning) return undefined;
    // Letters that are folded to more than one would be divided elsewhere.
    if (rest === undefined && key.startsWith(beginning) && fold(name.slice(0, part.length)) === beginning)
      rest = name.slice(part.length);
  }
  return rest;
}

const lastPart = (typed: string): string => typed.split(DIVIDERS).at(-1)!.trimStart();

/** Adds what is missing of a name behind the caret, chosen, so that what is typed next takes its place. */
export function complete(input: HTMLInputElement, field: Field, asking: Asking): void {
  const { value, selectionStart } = input;
  if (selectionStart !== value.length) return;
  const rest = completion(value, field, asking);
  if (rest === undefined) return;
  input.value = value + rest;
  input.setSelectionRange(value.length, input.value.length);
}
