import { type EndingDirection, type EndingName, endingOf, toEnding } from '../../money/endings.ts';
import { money } from '../../money/money.ts';
import { hasMoney, onAmount } from '../parts/amounts.ts';
import { direction, ending } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Takes an amount of money to an ending such as .99; a tie between two goes up. */
export const round = stepKind({
  sentence: 'round {field} {direction} to {ending}',
  slots: { direction, ending },
  takes: hasMoney,
  prepare: (field, slots, { names: { currency } }) => {
    const ends = endingOf(slots.ending as EndingName, currency);
    const way = slots.direction as EndingDirection;
    return onAmount(field, (amount) => toEnding(money(amount), ends, way));
  },
});
