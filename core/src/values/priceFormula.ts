import { type KeptFormula } from '../kinds/field.ts';
import { type Currency } from '../money/currency.ts';
import { type NumberStyle } from '../money/digits.ts';
import { money, readMoney, showMoney } from '../money/money.ts';
import { ONE_PERCENT, plainPercent, readPercent, percent } from '../money/percent.ts';
import { type FormulaBand, type OutletPricing, type PriceFormula } from '../prices/outletPrice.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { EQUALITY } from './comparing.ts';
import { readEnding, reductionOf, showEnding } from './reduction.ts';
import { type ValueType } from './valueType.ts';

const EXPECTED = '10 % more, to .99; 1.50 less; always 12.00; below 10.00: 20 % more; else 5 % more';
const WHOLE = 100n * ONE_PERCENT;
/** A hundred times as much. */
const MOST = 100n * WHOLE;
const MOST_BANDS = 20;
/** Stands before the band of all prices that no other has. */
export const ALL_OTHERS = '*';

/**
 * What becomes of a price on an outlet: `10 % more, 0.30 more, up to .99`, `1.50 less`, `always 12.00`, `as it is`, and several by what the
 * price is, as `below 10.00: 20 % more; else 5 % more`. Canonical is a band in each part between `;`: below which price it is for (`*` for
 * all others), and the five numbers of a reduction, those of more below zero.
 */
export const priceFormula: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: EQUALITY,
  usual: 'is',
  read: (text, _field, { names: { currency, numberStyle } }) => {
    const parts = text
      .split(';')
      .map((part) => part.trim())
      .filter(Boolean);
    if (parts.length === 0 || parts.length > MOST_BANDS) return unreadable(text);
    const bands: string[] = [];
    let least = -1n;
    for (const [i, part] of parts.entries()) {
      const [, limit, said] = /^below\s+([^:]+):\s*(.+)$/i.exec(part) ?? [];
      const change = readChange(said ?? part.replace(/^(else|all others):?\s+/i, ''), currency, numberStyle);
      if (!change.ok) return change;
      if (limit === undefined) {
        if (i < parts.length - 1) return bad('formula-bands', { value: part });
        bands.push(`${ALL_OTHERS} ${change.value}`);
        continue;
      }
      const below = readMoney(limit, currency, numberStyle);
      if (!below.ok) return below;
      if (below.value <= least) return bad('formula-bands', { value: part });
      least = below.value;
      bands.push(`${below.value} ${change.value}`);
    }
    return good(bands.join(';'));
  },
  show: (value, _field, { names: { currency } }) => {
    const bands = formulaOf(value);
    return bands
      .map((band) => {
        const change = showChange(band, currency);
        if (band.below !== null) return `below ${showMoney(band.below, currency)}: ${change}`;
        return bands.length > 1 ? `else ${change}` : change;
      })
      .join('; ');
  },
  holds: (_comparison, value, wanted) => value === wanted,
};

const unreadable = (value: string) => bad('formula-unreadable', { value, expected: EXPECTED });

/** One change of a price, as the five numbers of a reduction. */
function readChange(text: string, currency: Currency, style: NumberStyle | undefined): Result<string> {
  const [, said, way, ending] = /^(.+?)(?:,?\s+(?:(up|down)\s+)?to\s+(\.\d\d|9))?$/i.exec(text.trim()) ?? [];
  const ends = readEnding(ending, way, currency);
  if (said === undefined || ends === undefined) return unreadable(text);
  if (/^(as it is|as in the shop|the same)$/i.test(said)) return good(`0 0 ${ends}`);
  const [, fixed] = /^(?:always|fixed|at)\s+(.+)$/i.exec(said) ?? [];
  if (fixed !== undefined || !/%|more|less|[-−+]|raise|lower/i.test(said)) {
    const amount = readMoney(fixed ?? said, currency, style);
    if (!amount.ok) return fixed === undefined ? unreadable(text) : amount;
    return amount.value < 0n ? unreadable(text) : good(`${WHOLE} ${-amount.value} ${ends}`);
  }
  let [off, amount] = [0n, 0n];
  for (const term of said.split(/,\s+|\s+and\s+|\s+(?=[-−+]\s*[\d.])/i)) {
    const read = readTerm(term, currency, style);
    if (!read.ok) return read;
    if (read.value.isPercent) off -= read.value.more;
    else amount -= read.value.more;
  }
  if (off >= WHOLE || off < -MOST)
    return bad('out-of-range', { value: said, expected: '99.99 % less to 10,000 % more' });
  return good(`${off} ${amount} ${ends}`);
}

/** `10 % more`, `+10 %`, `raise by 10 %`, and the same of amounts and of less. */
function readTerm(
  text: string,
  currency: Currency,
  style: NumberStyle | undefined,
): Result<{ isPercent: boolean; more: bigint }> {
  const [, sign, verb, digits, behind] =
    /^(?:([-−+])|(raise|lower)(?:\s+by)?)?\s*(.+?)\s*(more|less|up|down|off)?$/i.exec(text.trim()) ?? [];
  const isLess = sign === '-' || sign === '−' || /lower/i.test(verb ?? '') || /less|down|off/i.test(behind ?? '');
  if (digits === undefined || [sign, verb, behind].every((one) => one === undefined)) return unreadable(text);
  const isPercent = digits.endsWith('%');
  const read = isPercent ? readPercent(digits) : readMoney(digits, currency, style);
  if (!read.ok) return read;
  if (read.value <= 0n) return unreadable(text);
  return good({ isPercent, more: isLess ? -read.value : read.value });
}

function showChange(band: FormulaBand, currency: Currency): string {
  const ending = showEnding(band, currency);
  if (band.percent === WHOLE) return `always ${showMoney(money(-band.amount), currency)}${ending}`;
  const terms = [
    ...(band.percent === 0n ? [] : [`${plainPercent(percent(magnitude(band.percent)))} % ${moreOrLess(band.percent)}`]),
    ...(band.amount === 0n ? [] : [`${showMoney(money(magnitude(band.amount)), currency)} ${moreOrLess(band.amount)}`]),
  ];
  return `${terms.join(', ') || 'as it is'}${ending}`;
}

const magnitude = (off: bigint): bigint => (off < 0n ? -off : off);
const moreOrLess = (off: bigint): string => (off < 0n ? 'more' : 'less');

/** A formula of its canonical text. */
export const formulaOf = (value: string): PriceFormula =>
  value.split(';').map((band) => {
    const [, below, change] = /^(\S+) (.+)$/.exec(band)!;
    return { below: below === ALL_OTHERS ? null : money(BigInt(below!)), ...reductionOf(change!) };
  });

/**
 * How an outlet comes to the price of an SKU on a day: by the formula of the SKU's own there, or else by the outlet's where that holds on
 * that day; undefined where its price is that of the shop.
 */
export function outletPricing(kept: KeptFormula | null, day: number, own: string | null): OutletPricing | undefined {
  const holds = kept !== null && (kept.from ?? day) <= day && (kept.until ?? day) >= day;
  const formula = own ?? (holds ? kept.formula : undefined);
  if (formula === undefined) return undefined;
  return { basedOn: holds ? kept.basedOn : 'current price', formula: formulaOf(formula) };
}
