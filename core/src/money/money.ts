import { bad, good, type Result } from '../problems/problem.ts';
import { ANY_SIGN, type Currency, isCurrency, signOf, standsFor } from './currency.ts';
import { type NumberStyle, POINT, readDigits } from './digits.ts';

declare const moneyBrand: unique symbol;
/** An amount in whole minor units (pence, cents) of the shop's currency. */
export type Money = bigint & { readonly [moneyBrand]: true };

export const money = (minorUnits: bigint): Money => minorUnits as Money;

/** No price in a shop of this size is larger; and that times the largest stock is still a number of 64 bits. */
export const LARGEST_AMOUNT = 10n ** 11n;

/** An amount, with its currency before or behind it as a sign or as three letters. */
const AMOUNT = new RegExp(`^(${ANY_SIGN}|[a-z]{3}(?![a-z]))?\\s*(.*?)\\s*(${ANY_SIGN}|(?<![a-z])[a-z]{3})?$`, 'is');
const LETTERS_LIKE_DIGITS: Readonly<Record<string, string>> = { O: '0', o: '0', l: '1', I: '1', S: '5', B: '8' };

/**
 * Reads an amount as a person or a supplier writes it: `12.50`, `£12.50`, `1,234.50`, `12,50 EUR` (decimal comma).
 * Refuses, never guesses: letters for digits, exponents, negative amounts, other currencies, more decimals than the
 * currency has.
 */
export function readMoney(text: string, currency: Currency, style: NumberStyle = POINT): Result<Money> {
  const value = text.trim();
  const [, before, bare = '', behind] = AMOUNT.exec(value)!;
  const unreadable = () => bad('money-unreadable', { value, expected: asMeant(bare, style) });
  if (bare === '') return unreadable();
  if (/^[-−(]/.test(bare)) return bad('money-negative', { value });
  const other = [before, behind].find((written) => written !== undefined && !standsFor(written, currency));
  if (other !== undefined && isCurrency(other)) return bad('money-currency', { value, expected: currency.code });
  if (other !== undefined) return unreadable();
  if (/^\d+(?:[.,]\d+)?e[+-]?\d+$/i.test(bare)) return bad('money-exponent', { value });

  const digits = readDigits(bare, style);
  if (!digits) {
    const corrected = bare.replace(/[OolISB]/g, (letter) => LETTERS_LIKE_DIGITS[letter] ?? letter);
    return corrected !== bare && readDigits(corrected, style)
      ? bad('money-letter-for-digit', { value, expected: corrected })
      : unreadable();
  }
  const { whole, decimals } = digits;
  if (decimals.length > currency.exponent)
    return bad('money-too-precise', { value, expected: String(currency.exponent) });
  const minor = BigInt(whole + decimals.padEnd(currency.exponent, '0'));
  if (minor > LARGEST_AMOUNT) return bad('money-too-large', { value });
  return good(money(minor));
}

/** What an amount would be with the other decimal sign, or else an example. */
function asMeant(written: string, { decimalSign }: NumberStyle): string {
  const other: NumberStyle = { decimalSign: decimalSign === '.' ? ',' : '.' };
  const digits = readDigits(written, other);
  if (!digits) return decimalSign === '.' ? '12.50' : '12,50';
  return digits.decimals === '' ? digits.whole : `${digits.whole}${decimalSign}${digits.decimals}`;
}

/** The amount as plain decimal text, `1250` → `12.50`; no grouping, no sign of the currency. */
export function plainMoney(amount: bigint, currency: Currency): string {
  const digits = (amount < 0n ? -amount : amount).toString().padStart(currency.exponent + 1, '0');
  const whole = digits.slice(0, digits.length - currency.exponent);
  const decimals = digits.slice(digits.length - currency.exponent);
  return (amount < 0n ? '-' : '') + whole + (currency.exponent > 0 ? '.' + decimals : '');
}

/** The amount for reading, `125000` → `£1,250.00`. */
export function showMoney(amount: bigint, currency: Currency): string {
  const plain = plainMoney(amount < 0n ? -amount : amount, currency);
  const [whole = '', decimals] = plain.split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  return (amount < 0n ? '−' : '') + signOf(currency) + grouped + (decimals === undefined ? '' : '.' + decimals);
}
