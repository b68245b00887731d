import { type Result, good } from '../problems/problem.ts';
import { type Currency } from './currency.ts';
import { type Money, readMoney } from './money.ts';
import { type Percent, readPercent } from './percent.ts';

/** What a person typed behind "raise by": an amount of money or a percentage, never one for the other. */
export type AmountOrPercent =
  { readonly kind: 'amount'; readonly amount: Money } | { readonly kind: 'percent'; readonly percent: Percent };

const IN_WORDS = /\bper ?cent\s*$/i;

/** `20` is twenty pounds, `20 %` is a fifth: only a per-cent sign makes a percentage, or the word for it. */
export function readAmountOrPercent(text: string, currency: Currency): Result<AmountOrPercent> {
  if (text.includes('%') || IN_WORDS.test(text)) {
    const read = readPercent(text.replace(IN_WORDS, '%'));
    return read.ok ? good({ kind: 'percent', percent: read.value }) : read;
  }
  const read = readMoney(text, currency);
  return read.ok ? good({ kind: 'amount', amount: read.value }) : read;
}
