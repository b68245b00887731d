import {
  type Asking,
  byHand,
  conditions,
  leavingOut,
  printQuestion,
  puttingIn,
  quote,
  readQuestion,
  EVERYTHING,
  type WithHand,
} from '@ivory/core';

/** SKUs that were put in or left out by hand, by their codes. */
type ByHand = Pick<WithHand, 'putIn' | 'leftOut'>;

/** The content of the question line: conditions, and rows pinned or excluded by hand. */
export interface Said {
  readonly conditions: readonly string[];
  readonly hand: ByHand;
}

export const NOTHING_BY_HAND: ByHand = { putIn: [], leftOut: [] };

/** The conditions of a question and its pinned and excluded rows; undefined where there are none. */
export function handIn(text: string, asking: Asking): Said | undefined {
  const read = readQuestion(text, asking);
  if (!read.ok) return undefined;
  const { rest, ...hand } = byHand(read.value.question);
  if (hand.putIn.length + hand.leftOut.length === 0) return undefined;
  const printed = conditions(rest).map((part) => {
    const words = printQuestion(part, asking);
    return part.kind === 'any' ? `(${words})` : words;
  });
  return { conditions: printed, hand };
}

const list = (codes: readonly string[]) => `code is ${codes.map(quote).join(', ')}`;

/** The question of conditions with pinned and excluded rows. */
export function textOf(asked: string, { putIn, leftOut }: ByHand): string {
  const inner = asked !== '' && putIn.length > 0 ? `(${asked}) or ${list(putIn)}` : asked;
  if (leftOut.length === 0) return inner;
  return `${inner === '' || putIn.length === 0 ? inner : `(${inner})`} not ${list(leftOut)}`.trim();
}

/** What `+ CODE` or `- CODE, CODE` does when it is typed; undefined for anything else. */
export function withTyped(hand: ByHand, typed: string): ByHand | undefined {
  const [, sign, codes] = /^([+−-])\s*(\S.*)$/u.exec(typed) ?? [];
  if (!sign || !codes) return undefined;
  const named = codes
    .split(',')
    .map((code) => code.trim())
    .filter(Boolean);
  const set = { rest: EVERYTHING, ...hand };
  const { putIn, leftOut } = sign === '+' ? puttingIn(set, named) : leavingOut(set, named);
  return { putIn, leftOut };
}
