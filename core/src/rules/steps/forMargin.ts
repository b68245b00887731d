import { type FieldKey } from '../../kinds/keys.ts';
import { isEditable } from '../../kinds/field.ts';
import { bad } from '../../problems/problem.ts';
import { amountIn } from '../parts/amounts.ts';
import { isMoney, otherMoney, percent, type Slot } from '../slots.ts';
import { failed, stepKind } from '../step.ts';
import { taxOf } from '../parts/taxOf.ts';

const WHOLE = 1_000_000n;
/** A margin leaves something to divide by only below 100 %. */
const margin: Slot = {
  ...percent,
  read: (text, target, asking) => {
    const read = percent.read(text, target, asking);
    return read.ok && BigInt(read.value) >= WHOLE
      ? bad('out-of-range', { value: text.trim(), expected: 'below 100 %' })
      : read;
  },
};

/**
 * The price that leaves a margin on a cost: net = cost / (1 − margin), with tax where the price is shown with it. Rounded up, so that
 * the margin holds. Cost 50 at 37.5 % is 80 (common practice).
 */
export const forMargin = stepKind({
  sentence: 'work out {field} from {from} for a margin of {margin}',
  slots: { from: otherMoney, margin },
  takes: (field) => isEditable(field) && isMoney(field),
  needs: () => ['taxRate'],
  prepare: (field, { from, margin: wanted }) => {
    const left = WHOLE - BigInt(wanted);
    const tax = taxOf(field);
    return (_value, row) => {
      const cost = row[from as FieldKey] ?? null;
      if (cost === null) return failed('source empty');
      const numerator = BigInt(cost) * WHOLE * (10_000n + tax(row));
      const denominator = left * 10_000n;
      return amountIn(field, (numerator + denominator - 1n) / denominator);
    };
  },
});
