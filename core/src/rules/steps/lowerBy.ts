import { money } from '../../money/money.ts';
import { percent, raiseByPercent } from '../../money/percent.ts';
import { type Apply } from '../step.ts';

/** Lowers by an amount, or by a percentage of the price. More than the whole price leaves none. */
export const lowerBy: Apply<'lower by'> = (price, { by }) => {
  const after = by.kind === 'percent' ? raiseByPercent(price, percent(-by.percent)) : money(price - by.amount);
  return after < 0n ? undefined : after;
};
