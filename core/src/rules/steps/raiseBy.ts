import { money } from '../../money/money.ts';
import { raiseByPercent } from '../../money/percent.ts';
import { type Apply } from '../step.ts';

/** Raises by an amount, or by a percentage: 10 % is × 1.1 (common practice). */
export const raiseBy: Apply<'raise by'> = (price, { by }) =>
  by.kind === 'percent' ? raiseByPercent(price, by.percent) : money(price + by.amount);
