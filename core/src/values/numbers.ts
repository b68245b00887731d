import { LOWEST_MARGIN } from '../money/margin.ts';
import { type NumberStyle, POINT, readDigits } from '../money/digits.ts';
import { plainMoney, readMoney, showMoney } from '../money/money.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { type Field } from '../kinds/field.ts';
import { holdsNumber, OF_NUMBERS } from './comparing.ts';
import { type ValueType } from './valueType.ts';
import { GRAMS_OF } from './weightUnits.ts';

/** As many digits as the largest amount has. */
const LONGEST_END = 12;
const LARGEST_COUNT = 10_000_000;

const numeric: Pick<ValueType, 'isNumber' | 'isNamed' | 'comparisons' | 'usual' | 'holds'> = {
  isNumber: true,
  isNamed: false,
  comparisons: OF_NUMBERS,
  usual: 'is',
  holds: (comparison, value, wanted) => holdsNumber(comparison, value, wanted),
};

/** The digits at the end of an amount, with its decimal sign where that is among them: `.99`, `9.99`, `9`. */
const END = /^(\d*)(?:[.,](\d+))?$/;

/** An amount of money, in minor units of the shop's currency. How it ends is asked by the digits of these minor units. */
export const money: ValueType = {
  ...numeric,
  comparisons: [...OF_NUMBERS, 'ends with'],
  holds: (comparison, value, wanted) =>
    comparison === 'ends with'
      ? value.padStart(wanted.length, '0').endsWith(wanted)
      : holdsNumber(comparison, value, wanted),
  readEnd: (text, _field, { names: { currency } }) => {
    const [, whole = '', part = ''] = END.exec(text.trim()) ?? [];
    if (whole + part === '' || part.length > currency.exponent || whole.length + part.length > LONGEST_END)
      return bad('money-unreadable', { value: text, expected: showEnd('99', currency.exponent) });
    return good(part === '' ? whole : whole + part.padEnd(currency.exponent, '0'));
  },
  showEnd: (end, { names: { currency } }) => showEnd(end, currency.exponent),
  read: (text, _field, { names: { currency, numberStyle } }) => {
    const read = readMoney(text, currency, numberStyle);
    return read.ok ? good(read.value.toString()) : read;
  },
  show: (value, _field, { names: { currency } }) => showMoney(BigInt(value), currency),
  edit: (value, _field, { names: { currency } }) => plainMoney(BigInt(value), currency),
};

const showEnd = (end: string, exponent: number): string =>
  exponent === 0 || end.length < exponent ? end : `${end.slice(0, -exponent)}.${end.slice(-exponent)}`;

/** Basis points as a person reads them: `3750` → `37.5 %`; without the sign when `plain`. */
export function showBasisPoints(value: string | number, plain = false): string {
  const points = Number(value);
  // No number says how far below cost it is to give something away.
  if (points <= LOWEST_MARGIN) return '−∞';
  const decimals = Math.abs(points) % 100;
  const whole = Math.trunc(Math.abs(points) / 100);
  const text = `${whole}${decimals ? '.' + String(decimals).padStart(2, '0').replace(/0$/, '') : ''}`;
  return (points < 0 ? '−' : '') + text + (plain ? '' : ' %');
}

/** A percentage, in basis points. */
export const percent: ValueType = {
  ...numeric,
  read: (text, { range }) => readBasisPoints(text, range),
  show: (value) => showBasisPoints(value),
  edit: (value) => showBasisPoints(value, true).replace('−', '-'),
  units: () => ['%'],
};

function readBasisPoints(text: string, range?: Field['range']): Result<string> {
  const value = text.trim();
  const match = /^(-?)(\d{1,6})(?:[.,](\d{1,2}))?\s*%?$/.exec(value);
  if (!match) return bad('percent-unreadable', { value, expected: range ? '20 %' : '35 %' });
  const size = Number(match[2]! + (match[3] ?? '').padEnd(2, '0'));
  const points = match[1] && size ? -size : size;
  if (range && (points < range[0] || points > range[1])) {
    return bad('out-of-range', { value, expected: range.map((end) => showBasisPoints(end)).join(' to ') });
  }
  return good(String(points));
}

/** Whole pieces. */
export const count: ValueType = {
  ...numeric,
  read: (text, { range }, { names: { numberStyle } }) => readCount(text, numberStyle ?? POINT, range),
  show: (value) => value,
};

function readCount(text: string, style: NumberStyle, range?: Field['range']): Result<string> {
  const value = text.trim();
  const digits = readDigits(value.replace(/^-/, ''), style);
  const size = Number(digits?.whole);
  if (digits?.decimals !== '' || size > LARGEST_COUNT) return bad('count-unreadable', { value, expected: '12' });
  const pieces = value.startsWith('-') && size ? -size : size;
  if (range && (pieces < range[0] || pieces > range[1]))
    return bad('out-of-range', { value, expected: range.join(' to ') });
  return good(String(pieces));
}

/** A weight, in grams. */
export const grams: ValueType = {
  ...numeric,
  read: (text, _field, { names: { numberStyle } }) => readGrams(text, numberStyle ?? POINT),
  show: (value) => `${value} g`,
  edit: (value) => value,
  units: () => ['g', 'kg'],
};

/** A weight with its unit, in grams where none stands. The other decimal sign is taken too, where it cannot group digits. */
function readGrams(text: string, style: NumberStyle): Result<string> {
  const value = text.trim();
  const [, number, unit] = /^([\d.,]+)\s*([a-z]+)?$/i.exec(value) ?? [];
  const each = unit === undefined ? 1 : GRAMS_OF.get(unit.toLowerCase());
  const other: NumberStyle = { decimalSign: style.decimalSign === '.' ? ',' : '.' };
  const digits = number === undefined ? undefined : (readDigits(number, style) ?? readDigits(number, other));
  const grams = digits && each && Number(`${digits.whole}.${digits.decimals}`) * each;
  // Less than a gram without a unit was meant in kilograms, and would be kept as nothing.
  const isMeant = grams !== undefined && (grams === 0 || grams >= 1 || unit !== undefined);
  return isMeant && grams <= LARGEST_COUNT
    ? good(String(Math.round(grams)))
    : bad('count-unreadable', { value, expected: '250 g' });
}

const MILLION = 1_000_000n;
const MOST_DECIMALS = 6;
/** Twelve digits before the decimal sign, which a bigint of millionths holds. */
const MOST_DIGITS = 12;

/** A number with or without a unit, in millionths, so that it is exact and compared as a whole number. */
export const number: ValueType = {
  ...numeric,
  read: (text, { unit }, { names: { numberStyle } }) => readNumber(text, unit, numberStyle ?? POINT),
  show: (value, { unit }) => showNumber(value) + (unit ? ` ${unit}` : ''),
  edit: (value) => showNumber(value),
  units: ({ unit }) => (unit ? [unit] : []),
};

/** Reads a number with or without a unit, in millionths. Refuses more than twelve digits before the decimal sign or six behind it. */
export function readNumber(text: string, unit: string | undefined, style: NumberStyle): Result<string> {
  const value = text.trim();
  const expected = unit ? `0.6 ${unit}` : '0.6';
  const [, sign, digits, written] = /^([-−]?)\s*([\d.,\s]*\d)\s*(\D*)$/.exec(value) ?? [];
  if (digits === undefined) return bad('number-unreadable', { value, expected });
  if (written !== '' && written?.toLowerCase() !== unit?.toLowerCase()) return bad('unit-unknown', { value, expected });
  const read = readDigits(digits, style);
  if (!read || read.decimals.length > MOST_DECIMALS || read.whole.length > MOST_DIGITS)
    return bad('number-unreadable', { value, expected });
  const size = BigInt(read.whole + read.decimals.padEnd(MOST_DECIMALS, '0'));
  return good(String(sign ? -size : size));
}

/** Millionths as a person reads them: `600000` → `0.6`. */
export function showNumber(value: string): string {
  const size = BigInt(value);
  const digits = size < 0n ? -size : size;
  const decimals = String(digits % MILLION)
    .padStart(MOST_DECIMALS, '0')
    .replace(/0+$/, '');
  return `${size < 0n ? '-' : ''}${digits / MILLION}${decimals && `.${decimals}`}`;
}
