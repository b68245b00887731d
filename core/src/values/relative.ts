import { type NumberStyle, POINT, readDigits } from '../money/digits.ts';
import { divideRounded } from '../money/divideRounded.ts';
import { readPercent } from '../money/percent.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import type { Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { showNumber } from './numbers.ts';
import { placeOf, readValue } from './values.ts';
import { type FieldValue } from './valueType.ts';

const PERCENT = /^([+\-−])\s*(.+?)\s*%$/;
const TIMES = /^[*×]\s*(\d.*)$/;
const MORE = /^\+\s*(.+)$/;

/**
 * Reads what a person types over a number to change it by: `+10%`, `-5 %`, `*1.1`, `+10`. Undefined for whatever is a value
 * and no change; `-10` is one of stock and none of a price. Percentages have no such changes: `+5 %` is a rate.
 * Refuses a change of nothing (an empty cell), and what it gives is read and refused as the value that it is.
 */
export function readRelative(
  field: Field,
  text: string,
  before: FieldValue,
  asking: Asking,
): Result<FieldValue> | undefined {
  if (!['money', 'count', 'grams', 'number'].includes(field.type)) return undefined;
  const value = text.trim();
  const change = factorOf(value, asking.names.numberStyle ?? POINT) ?? amountOf(field, value, asking);
  if (change === undefined) return undefined;
  if (!change.ok) return change;
  if (before === null) return bad('nothing-to-change', { ...placeOf(field), value });
  const after = change.value(BigInt(before));
  return after < 0n && field.type !== 'count' && field.type !== 'number'
    ? bad('money-negative', { ...placeOf(field), value })
    : readCanonical(field, after, asking);
}

type Change = (before: bigint) => bigint;

/** Millionths, by which factors and percentages are exact. */
const ONE = 1_000_000n;

function factorOf(value: string, style: NumberStyle): Result<Change> | undefined {
  const [, sign, share] = PERCENT.exec(value) ?? [];
  if (share !== undefined) {
    const read = readPercent(share);
    if (!read.ok) return read;
    // A percentage is in ten-thousandths of a per cent: millionths of the whole.
    const factor = sign === '+' ? ONE + read.value : ONE - read.value;
    return good((before) => divideRounded(before * factor, ONE));
  }
  const [, times] = TIMES.exec(value) ?? [];
  if (times === undefined) return undefined;
  const digits = readDigits(times, style);
  if (!digits || digits.decimals.length > 6) return bad('factor-unreadable', { value });
  const factor = BigInt(digits.whole + digits.decimals.padEnd(6, '0'));
  return good((before) => divideRounded(before * factor, ONE));
}

function amountOf(field: Field, value: string, asking: Asking): Result<Change> | undefined {
  const [, more] = MORE.exec(value) ?? [];
  if (more === undefined) return undefined;
  const read = readValue(field, more, asking);
  if (!read.ok) return read;
  return good((before) => before + BigInt(read.value ?? 0));
}

const withPoint = (asking: Asking): Asking => ({ ...asking, names: { ...asking.names, numberStyle: POINT } });

/** The number as one would type it, so that its limits are those of any value of the field. */
function readCanonical(field: Field, after: bigint, asking: Asking): Result<FieldValue> {
  const { exponent } = asking.names.currency;
  if (field.type === 'number') return readValue(field, showNumber(String(after)), withPoint(asking));
  if (field.type !== 'money') return readValue(field, String(after), withPoint(asking));
  const digits = after.toString().padStart(exponent + 1, '0');
  const at = digits.length - exponent;
  const text = exponent === 0 ? digits : `${digits.slice(0, at)}.${digits.slice(at)}`;
  return readValue(field, text, withPoint(asking));
}
