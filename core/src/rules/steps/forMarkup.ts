import { type FieldKey } from '../../kinds/keys.ts';
import { isEditable } from '../../kinds/field.ts';
import { divideRounded } from '../../money/divideRounded.ts';
import { amountIn } from '../parts/amounts.ts';
import { isMoney, otherMoney, percent } from '../slots.ts';
import { failed, stepKind } from '../step.ts';
import { taxOf } from '../parts/taxOf.ts';

const WHOLE = 1_000_000n;

/** The price at a markup on a cost: net = cost × (1 + markup), with tax where the price is shown with it. */
export const forMarkup = stepKind({
  sentence: 'work out {field} from {from} for a markup of {markup}',
  slots: { from: otherMoney, markup: percent },
  takes: (field) => isEditable(field) && isMoney(field),
  needs: () => ['taxRate'],
  prepare: (field, { from, markup }) => {
    const share = WHOLE + BigInt(markup);
    const tax = taxOf(field);
    return (_value, row) => {
      const cost = row[from as FieldKey] ?? null;
      if (cost === null) return failed('source empty');
      return amountIn(field, divideRounded(BigInt(cost) * share * (10_000n + tax(row)), WHOLE * 10_000n));
    };
  },
});
