import { type FieldKey } from '../../kinds/keys.ts';
import { converted, isAmount, wholeOf } from '../amounts.ts';
import { guardKind } from '../guard.ts';
import { amountFields, otherField } from '../slots.ts';

/** An amount does not fall below another field of its row. */
export const notBelow = guardKind({
  sentence: '{field} never below {other}',
  slots: { other: otherField((other, target) => amountFields(other) && other.key !== target.key, 'cost') },
  takes: isAmount,
  trims: true,
  prepare: (field, { other }, asking) => {
    const source = asking.register.get(other as FieldKey);
    const [from, to] = [wholeOf(source, asking), wholeOf(field, asking)];
    return (_before, after, row) => {
      if (after === null) return undefined;
      const found = row[source.key] ?? null;
      if (found === null) return 'unknown';
      const limit = converted(BigInt(found), from, to);
      return BigInt(after) >= limit ? undefined : { limit: limit.toString() };
    };
  },
});
