import { readGtin } from '../codes/gtin.ts';
import { readSkuCode } from '../codes/skuCode.ts';
import { gapsFromBits } from '../gaps/gaps.ts';
import { type NumberStyle, POINT, readDigits } from '../money/digits.ts';
import { plainMoney, readMoney, showMoney } from '../money/money.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { nearest } from '../words/nearest.ts';
import { markedUnseen, unseenCharacter } from '../words/unseen.ts';
import { type Names, type NameList, namesOf } from './names.ts';
import { type Field } from './register.ts';
import { GRAMS_OF } from './weightUnits.ts';

/**
 * A value in canonical text, the one form in which values travel and are kept in lines: minor units for money,
 * basis points for percentages, pieces, grams, an id for a reference, ids joined by `|` for lists and categories
 * (the main one first), the bit set for gaps. `null` is empty.
 */
export type FieldValue = string | null;

const LARGEST_COUNT = 10_000_000;

function readCount(text: string, style: NumberStyle): Result<string> {
  const value = text.trim();
  const digits = readDigits(value.replace(/^-/, ''), style);
  const size = Number(digits?.whole);
  if (digits?.decimals !== '' || size > LARGEST_COUNT) return bad('count-unreadable', { value, expected: '12' });
  return good(String(value.startsWith('-') && size ? -size : size));
}

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

function readChoice(text: string, choices: readonly string[]): Result<string> {
  const found = choices.find((choice) => fold(choice) === fold(text));
  return found ? good(found) : bad('choice-unknown', { value: text.trim(), expected: choices.join(', ') });
}

function readReference(text: string, names: NameList): Result<string> {
  const id = names.find(text);
  if (id !== undefined) return good(id);
  const near = nearest(text, names.names());
  return bad('reference-unknown', { value: text.trim(), ...(near !== undefined && { expected: near }) });
}

function readCategories(text: string, names: Names): Result<string> {
  const ids: string[] = [];
  for (const path of text
    .split('|')
    .map((part) => part.trim())
    .filter(Boolean)) {
    const meant = names.categories.meant(path);
    if (meant.length !== 1) {
      const near = nearest(
        path,
        names.categories.categories.map(({ id }) => names.categories.path(id)),
      );
      return bad('category-unknown', { value: path, ...(near !== undefined && { expected: near }) });
    }
    if (!ids.includes(meant[0]!)) ids.push(meant[0]!);
  }
  return good(ids.join('|'));
}

/** The longest name of a brand, a supplier, a step of a category path, and of whatever says nothing else. */
export const LONGEST_NAME = 200;

/** Reads a text, without white space around it. Refuses what is too long, and characters that cannot be seen. */
export function readText(text: string, longest = LONGEST_NAME): Result<string> {
  const value = text.trim();
  const unseen = unseenCharacter(value);
  if (unseen !== undefined) return bad('text-unseen', { value: markedUnseen(value.slice(0, 60)), expected: unseen });
  return value.length > longest
    ? bad('text-too-long', { value: value.slice(0, 40) + '…', expected: String(longest) })
    : good(value);
}

/**
 * Reads what a person or a file wrote into the field's canonical text; blank text is empty (`null`).
 * A problem carries the field's key.
 */
export function readValue(field: Field, text: string, names: Names): Result<FieldValue> {
  if (text.trim() === '') return field.needed ? bad('required', { field: field.key }) : good(null);
  const read = readFilled(field, text, names);
  return read.ok ? read : { ok: false, problem: { ...read.problem, field: field.key } };
}

function readFilled(field: Field, text: string, names: Names): Result<FieldValue> {
  switch (field.type) {
    case 'money': {
      const read = readMoney(text, names.currency, names.numberStyle);
      return read.ok ? good(read.value.toString()) : read;
    }
    case 'percent':
      return readBasisPoints(text, field.range);
    case 'count':
      return readCount(text, names.numberStyle ?? POINT);
    case 'grams':
      return readGrams(text, names.numberStyle ?? POINT);
    case 'code':
      return readSkuCode(text);
    case 'gtin':
      return readGtin(text);
    case 'choice':
    case 'choices':
      return readChoice(text, field.choices!);
    case 'reference':
    case 'lists':
      return readReference(text, namesOf(field, names));
    case 'categories':
      return readCategories(text, names);
    case 'text':
      return readText(text.replace(/\s+/g, ' '), field.longest);
    case 'longText':
      return readText(text, field.longest);
  }
}

/** Basis points as a person reads them: `3750` → `37.5 %`; without the sign when `plain`. */
export function showBasisPoints(value: string | number, plain = false): string {
  const points = Number(value);
  const decimals = Math.abs(points) % 100;
  const whole = Math.trunc(Math.abs(points) / 100);
  const text = `${whole}${decimals ? '.' + String(decimals).padStart(2, '0').replace(/0$/, '') : ''}`;
  return (points < 0 ? '−' : '') + text + (plain ? '' : ' %');
}

/** The value as shown in the sheet and the proof; what `readValue` reads back. Empty is an empty text. */
export function showValue(field: Field, value: FieldValue, names: Names): string {
  if (value === null) return '';
  switch (field.type) {
    case 'money':
      return showMoney(BigInt(value), names.currency);
    case 'percent':
      return showBasisPoints(value);
    case 'grams':
      return `${value} g`;
    case 'reference':
      return namesOf(field, names).byId.get(value) ?? '';
    case 'lists':
      return value
        .split('|')
        .map((id) => names.lists.byId.get(id) ?? '')
        .join(', ');
    case 'categories':
      return value
        .split('|')
        .map((id) => names.categories.path(id))
        .join(' | ');
    case 'choices':
      return gapsFromBits(Number(value)).join(', ');
    default:
      return value;
  }
}

/** The value for typing over: as shown, without the currency's sign, the unit or grouping. */
export function editValue(field: Field, value: FieldValue, names: Names): string {
  if (value === null) return '';
  if (field.type === 'money') return plainMoney(BigInt(value), names.currency);
  if (field.type === 'percent') return showBasisPoints(value, true).replace('−', '-');
  if (field.type === 'grams') return value;
  return showValue(field, value, names);
}
