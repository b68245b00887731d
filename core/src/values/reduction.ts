import { type Currency } from '../money/currency.ts';
import { ENDING_NAMES, type EndingDirection, type EndingName, endingOf } from '../money/endings.ts';
import { money, readMoney, showMoney } from '../money/money.ts';
import { ONE_PERCENT, percent, plainPercent, readPercent } from '../money/percent.ts';
import { type Reduction } from '../prices/reduction.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { EQUALITY } from './comparing.ts';
import { type ValueType } from './valueType.ts';

const EXPECTED = '20 % less, to .99';
const MOST = 100n * ONE_PERCENT;
/** Nothing is taken off by per cent in reductions by an amount, and the other way round. */
const NONE = '0';
const WAYS: readonly EndingDirection[] = ['nearest', 'up', 'down'];

/**
 * What a sale takes off: `20 % less, to .99`, `3.00 less`, `15 % less, down to .95`. Canonical are five whole numbers: the per cent in ten
 * thousandths, the amount in minor units, the last digits of the ending, every how many minor units they come again (0 without an ending),
 * and the way to it (0 nearest, 1 up, 2 down).
 */
export const reduction: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: EQUALITY,
  usual: 'is',
  read: (text, _field, { names: { currency, numberStyle } }) => {
    const [, said, way, ending] = /^(.+?)(?:,?\s+(?:(up|down)\s+)?to\s+(\.\d\d|9))?$/i.exec(text.trim()) ?? [];
    const off = said
      ?.replace(/^(less|lower by|-|−)\s*/i, '')
      .replace(/\s+(less|off)$/i, '')
      .trim();
    if (!off) return bad('reduction-unreadable', { value: text, expected: EXPECTED });
    const ends = readEnding(ending, way, currency);
    if (ends === undefined) return bad('reduction-unreadable', { value: text, expected: EXPECTED });
    if (!off.endsWith('%')) {
      const amount = readMoney(off, currency, numberStyle);
      if (!amount.ok) return amount;
      return amount.value > 0n ? good(`${NONE} ${amount.value} ${ends}`) : nothingOff(text);
    }
    const read = readPercent(off);
    if (!read.ok) return read;
    if (read.value > MOST) return bad('out-of-range', { value: text, expected: '0 % to 100 %' });
    return read.value > 0n ? good(`${read.value} ${NONE} ${ends}`) : nothingOff(text);
  },
  show: (value, _field, { names: { currency } }) => {
    const { percent: off, amount } = reductionOf(value);
    const less = off > 0n ? `${plainPercent(off)} %` : showMoney(amount, currency);
    return `${less} less${showEnding(reductionOf(value), currency)}`;
  },
  holds: (_comparison, value, wanted) => value === wanted,
};

const nothingOff = (value: string): Result<string> => bad('reduction-unreadable', { value, expected: EXPECTED });

/** The ending in canonical numbers, as `to .99` and `up to .99` name it; undefined where it is none that there is. */
export function readEnding(name: string | undefined, way: string | undefined, currency: Currency): string | undefined {
  if (name === undefined) return '0 0 0';
  const known = ENDING_NAMES.find((one) => one === name);
  if (known === undefined) return undefined;
  const { digits, every } = endingOf(known, currency);
  const direction = (way?.toLowerCase() ?? 'nearest') as EndingDirection;
  return `${digits} ${every} ${WAYS.indexOf(direction)}`;
}

/** The ending as it stands behind what is taken off: `, up to .99`. */
export function showEnding({ ending, direction }: Reduction, currency: Currency): string {
  if (!ending) return '';
  const isIt = (name: EndingName) => {
    const { digits, every } = endingOf(name, currency);
    return digits === ending.digits && every === ending.every;
  };
  const name = ENDING_NAMES.find(isIt);
  return `, ${direction === 'nearest' ? '' : `${direction} `}to ${name}`;
}

/** A reduction of its canonical text. */
export function reductionOf(value: string): Reduction {
  const [off, amount, digits, every, way] = value.split(' ').map(BigInt) as [bigint, bigint, bigint, bigint, bigint];
  const direction = WAYS[Number(way)]!;
  const least = { percent: percent(off), amount: money(amount), direction };
  return every === 0n ? least : { ...least, ending: { digits, every } };
}
