import { type Currency } from '../../money/currency.ts';
import { type Money } from '../../money/money.ts';
import { type Apply, type PriceStep } from '../step.ts';
import { lowerBy } from './lowerBy.ts';
import { raiseBy } from './raiseBy.ts';
import { roundTo } from './roundTo.ts';
import { setTo } from './setTo.ts';

/** Every step, by its verb. A new step is a file beside these and a line here. */
const STEPS: { readonly [Verb in PriceStep['do']]: Apply<Verb> } = {
  'raise by': raiseBy,
  'lower by': lowerBy,
  set: setTo,
  'round to': roundTo,
};

/** The price after the step; undefined where it would fall below nothing. */
export function applyStep(price: Money, step: PriceStep, currency: Currency): Money | undefined {
  return (STEPS[step.do] as Apply<PriceStep['do']>)(price, step, currency);
}
