import { type Asking } from '../../kinds/asking.ts';
import { type Field } from '../../kinds/field.ts';
import { type FieldKey } from '../../kinds/keys.ts';
import { converted, isAmount, wholeOf } from './amounts.ts';
import { guardKind, type GuardKind } from '../guard.ts';
import { otherField } from '../slots.ts';

/** A guard that holds an amount against another field of its row, whose value is its limit; empty, it is not known. */
export const againstField = (
  sentence: string,
  example: string,
  isWithin: (amount: bigint, limit: bigint) => boolean,
): GuardKind =>
  guardKind({
    sentence,
    slots: { other: otherField((other, target) => isAmount(other) && other.key !== target.key, example) },
    takes: isAmount,
    trims: true,
    prepare: (field: Field, { other }, asking: Asking) => {
      const source = asking.register.get(other as FieldKey);
      const [from, to] = [wholeOf(source, asking), wholeOf(field, asking)];
      return (_before, after, row) => {
        if (after === null) return undefined;
        const found = row[source.key] ?? null;
        if (found === null) return 'unknown';
        const limit = converted(BigInt(found), from, to);
        return isWithin(BigInt(after), limit) ? undefined : { limit: limit.toString() };
      };
    },
  });
