import { type FieldKey } from '../../kinds/keys.ts';
import { divideRounded } from '../../money/divideRounded.ts';
import { amountIn, hasAmount, isAmount, wholeOf } from '../parts/amounts.ts';
import { factor, otherField, signedAmount } from '../slots.ts';
import { failed, stepKind } from '../step.ts';

const MILLION = 1_000_000n;

/** Works an amount out from another: times a factor and plus an amount, rounded once. */
export const workOut = stepKind({
  sentence: 'work out {field} from {from} times {factor} plus {plus}',
  slots: { from: otherField(isAmount, 'cost'), factor, plus: signedAmount },
  takes: hasAmount,
  prepare: (field, { from, factor: times, plus }, asking) => {
    const source = asking.register.get(from as FieldKey);
    const multiplied = BigInt(times) * wholeOf(field, asking);
    const divided = MILLION * wholeOf(source, asking);
    const added = BigInt(plus);
    return (_value, row) => {
      const found = row[source.key] ?? null;
      if (found === null) return failed('source empty');
      return amountIn(field, divideRounded(BigInt(found) * multiplied, divided) + added);
    };
  },
});
