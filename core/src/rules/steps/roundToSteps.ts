import { isEditable } from '../../kinds/field.ts';
import { bad } from '../../problems/problem.ts';
import { isAmount, onAmount } from '../parts/amounts.ts';
import { direction, type Slot, value } from '../slots.ts';
import { stepKind } from '../step.ts';

const size: Slot = {
  ...value,
  example: '0.05',
  read: (text, target, asking) => {
    const read = value.read(text, target, asking);
    return read.ok && BigInt(read.value) <= 0n
      ? bad('out-of-range', { value: text, expected: 'more than nothing' })
      : read;
  },
};

/** The multiple of a step that is nearest, next above or next below; a tie goes away from nothing. */
function toMultiple(amount: bigint, step: bigint, way: string): bigint {
  const rest = ((amount % step) + step) % step;
  const below = amount - rest;
  if (rest === 0n) return amount;
  if (way === 'down') return below;
  if (way === 'up') return below + step;
  const isHalf = 2n * rest === step;
  return 2n * rest > step || (isHalf && amount > 0n) ? below + step : below;
}

/** Rounds an amount to whole steps: to 0.05, to 10 g. */
export const roundToSteps = stepKind({
  sentence: 'round {field} {direction} to steps of {size}',
  slots: { direction, size },
  takes: (field) => isEditable(field) && isAmount(field),
  prepare: (field, slots) => {
    const step = BigInt(slots.size);
    return onAmount(field, (amount) => toMultiple(amount, step, slots.direction));
  },
});
