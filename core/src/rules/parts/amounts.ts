import { type Asking } from '../../kinds/asking.ts';
import { type Field, isEditable } from '../../kinds/field.ts';
import { divideRounded } from '../../money/divideRounded.ts';
import { LARGEST_AMOUNT } from '../../money/money.ts';
import { BY_RULE } from '../../values/salePrice.ts';
import { type FieldValue, type ValueTypeKey } from '../../values/valueType.ts';
import { type Failed, failed, type Work } from '../step.ts';

/** Types whose values are amounts: they can be raised, worked out and rounded. */
const AMOUNTS: readonly ValueTypeKey[] = ['money', 'percent', 'count', 'grams', 'number'];
export const isAmount = ({ type }: Field): boolean => AMOUNTS.includes(type);

/** Whether a field has an amount that verbs may make another: also a price in a sale, which may be one of its own. */
export const hasAmount = (field: Field): boolean =>
  isEditable(field) && (isAmount(field) || field.type === 'salePrice');
/** The same of money. */
export const hasMoney = (field: Field): boolean => isEditable(field) && IN_MONEY.includes(field.type);
const IN_MONEY: readonly ValueTypeKey[] = ['money', 'salePrice'];

const LARGEST_NUMBER = 10n ** 18n - 1n;
const LARGEST_COUNT = 10_000_000n;

/** How many decimals the canonical whole number of an amount stands for: 2 for pounds and per cent, 6 for numbers. */
export function decimalsOf({ type }: Field, { names: { currency } }: Asking): number {
  if (IN_MONEY.includes(type)) return currency.exponent;
  if (type === 'percent') return 2;
  return type === 'number' ? 6 : 0;
}

/** One whole of an amount in its canonical units. */
export const wholeOf = (field: Field, asking: Asking): bigint => 10n ** BigInt(decimalsOf(field, asking));

function limitsOf({ type, range }: Field): readonly [bigint, bigint] {
  if (range) return [BigInt(range[0]), BigInt(range[1])];
  if (IN_MONEY.includes(type)) return [0n, LARGEST_AMOUNT];
  if (type === 'number') return [-LARGEST_NUMBER, LARGEST_NUMBER];
  return [0n, LARGEST_COUNT];
}

/** Why an amount is no value of a field; undefined where it is one. */
function outside({ range }: Field, [least, greatest]: readonly [bigint, bigint], amount: bigint): Failed | undefined {
  if (amount < least) return failed(least === 0n ? 'below nothing' : 'out of range');
  if (amount > greatest) return failed(range ? 'out of range' : 'above the largest');
  return undefined;
}

/** An amount as a value of a field; fails where the field does not take it. */
export const amountIn = (field: Field, amount: bigint): FieldValue | Failed =>
  outside(field, limitsOf(field), amount) ?? amount.toString();

/** A step that changes an amount by itself, without its row. */
export type AmountWork = Work & { readonly changes: readonly ((amount: bigint) => bigint)[] };

/**
 * Changes of an amount, one behind the other; each must leave a value of the field. What is empty has nothing to start
 * from, and a price that is as its sale says follows that.
 */
export function onAmount(field: Field, ...changes: readonly ((amount: bigint) => bigint)[]): AmountWork {
  const limits = limitsOf(field);
  const work: Work = (value) => {
    if (value === null) return failed('nothing there');
    if (value === BY_RULE) return failed('follows others');
    let amount = BigInt(value);
    for (const change of changes) {
      amount = change(amount);
      const why = outside(field, limits, amount);
      if (why) return why;
    }
    return amount.toString();
  };
  return Object.assign(work, { changes });
}

export const isAmountWork = (work: Work): work is AmountWork => 'changes' in work;

/** An amount in the units of another field, rounded once, half away from zero. */
export function converted(amount: bigint, from: bigint, to: bigint): bigint {
  return from === to ? amount : divideRounded(amount * to, from);
}
