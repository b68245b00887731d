import { type AmountOrPercent } from '../money/amountOrPercent.ts';
import { type Currency } from '../money/currency.ts';
import { type EndingDirection, type EndingName } from '../money/endings.ts';
import { type Money } from '../money/money.ts';

/** One thing that a rule does to a price, in plain verbs. */
export type PriceStep =
  | { readonly do: 'raise by'; readonly by: AmountOrPercent }
  | { readonly do: 'lower by'; readonly by: AmountOrPercent }
  | { readonly do: 'set'; readonly to: Money }
  | { readonly do: 'round to'; readonly ending: EndingName; readonly direction: EndingDirection };

/** What a step does: the price after it, or undefined where it leaves no price that can be (below nothing). */
export type Apply<Verb extends PriceStep['do']> = (
  price: Money,
  step: Extract<PriceStep, { do: Verb }>,
  currency: Currency,
) => Money | undefined;
