import { type Field, isEditable } from '../../kinds/field.ts';
import { amountIn, converted, isAmount, wholeOf } from '../parts/amounts.ts';
import { otherField, saysSomething } from '../slots.ts';
import { showValue } from '../../values/values.ts';
import { failed, stepKind } from '../step.ts';
import { isText, textIn } from '../parts/text.ts';

const refersAlike = (one: Field, other: Field): boolean =>
  one.type === other.type && one.refersTo?.kind === other.refersTo?.kind && one.refersTo?.of === other.refersTo?.of;

/** Whether what one field says can be copied into another: of the same kind, amounts into amounts, anything into a text. */
const canBeCopied = (from: Field, to: Field): boolean =>
  from.key !== to.key &&
  (isText(to)
    ? saysSomething(from)
    : isAmount(to)
      ? isAmount(from)
      : refersAlike(from, to) && to.choices === from.choices);

/** Copies what another field has; where that is empty, the step fails. */
export const copy = stepKind({
  sentence: 'copy {from} into {field}',
  slots: { from: otherField(canBeCopied, 'supplier’s code') },
  takes: (field) => isEditable(field) && field.type !== 'slug',
  prepare: (field, { from }, asking) => {
    const source = asking.register.get(from as Field['key']);
    const asAmount = isAmount(field);
    const [of, to] = [asAmount ? wholeOf(source, asking) : 1n, asAmount ? wholeOf(field, asking) : 1n];
    return (_value, row) => {
      const found = row[source.key] ?? null;
      if (found === null) return failed('source empty');
      if (asAmount) return amountIn(field, converted(BigInt(found), of, to));
      return isText(field) ? textIn(field, showValue(source, found, asking), asking) : found;
    };
  },
});
