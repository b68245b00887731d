import { good } from '../problems/problem.ts';
import { EQUALITY, holdsNumber } from './comparing.ts';
import { money } from './numbers.ts';
import { type ValueType } from './valueType.ts';

/** The canonical text of a price that follows from what the sale takes off. */
export const BY_RULE = 'rule';
const SHOWN = 'as the sale';

/** The price of an SKU in a sale: an amount of its own, or `as the sale`, which is what the sale takes off the regular price. */
export const salePrice: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: [...EQUALITY, '<', '<=', '>', '>='],
  usual: 'is',
  read: (text, field, asking) =>
    /^(as|by) (the|its) (sale|rule)$|^(sale|rule)$/i.test(text.trim())
      ? good(BY_RULE)
      : money.read(text, field, asking),
  show: (value, field, asking) => (value === BY_RULE ? SHOWN : money.show(value, field, asking)),
  edit: (value, field, asking) => (value === BY_RULE ? SHOWN : money.edit!(value, field, asking)),
  known: () => [SHOWN],
  holds: (comparison, value, wanted) => {
    if (value === BY_RULE || wanted === BY_RULE) return comparison === 'is' && value === wanted;
    return holdsNumber(comparison, value, wanted);
  },
};
