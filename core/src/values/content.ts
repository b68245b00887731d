import { POINT } from '../money/digits.ts';
import { contentOf, type ContentUnit } from '../prices/unitPrice.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { EQUALITY } from './comparing.ts';
import { readNumber, showNumber } from './numbers.ts';
import { type ValueType } from './valueType.ts';

/** What units are called, with how many of the unit that is kept they are, in thousandths. */
const UNITS: Readonly<Record<string, readonly [unit: ContentUnit, thousandths: bigint]>> = {
  ...{ ml: ['ml', 1_000n], cl: ['ml', 10_000n], l: ['ml', 1_000_000n] },
  ...{ g: ['g', 1_000n], kg: ['g', 1_000_000n] },
  ...{ mm: ['m', 1n], cm: ['m', 10n], m: ['m', 1_000n] },
  ...{ piece: ['piece', 1_000n], pieces: ['piece', 1_000n], pcs: ['piece', 1_000n], pc: ['piece', 1_000n] },
};
/** A hundred thousand tons. */
const MOST = 10n ** 17n;
const EXPECTED = '50 ml, 0.5 kg, 2 m or 12 pieces';

/** How much there is in one, with its unit: `50 ml`. Canonical are whole millionths of millilitres, grams, metres or pieces, as `50000000 ml`. */
export const content: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: EQUALITY,
  usual: 'is',
  read: (text, _field, { names: { numberStyle } }) => {
    const [, amount, unit] = /^(.*?)\s*(\p{L}+)$/u.exec(text.trim()) ?? [];
    const known = UNITS[unit?.toLowerCase() ?? ''];
    if (!amount || !known) return unreadable(text);
    const read = readNumber(amount, undefined, numberStyle ?? POINT);
    if (!read.ok) return unreadable(text);
    const kept = (BigInt(read.value) * known[1]) / 1_000n;
    return kept > 0n && kept < MOST ? good(`${kept} ${known[0]}`) : unreadable(text);
  },
  show: (value) => {
    const { amount, unit } = contentOf(value);
    return `${showNumber(String(amount))} ${unit === 'piece' && amount !== 1_000_000n ? 'pieces' : unit}`;
  },
  holds: (_comparison, value, wanted) => value === wanted,
};

const unreadable = (value: string): Result<string> => bad('content-unreadable', { value, expected: EXPECTED });
