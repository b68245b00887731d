import { type NumberStyle } from '../money/digits.ts';

type Sign = NumberStyle['decimalSign'];

/** A number that says which sign divides its decimals: three digits behind a sign are a group as often as not. */
const TELLING = /^\D{0,4}[\d.,\s]*\d([.,])(?:\d{1,2}|\d{4})\D{0,4}$/;

/** The decimal sign by which most of a file's numbers are written; the point when none of them tells. */
export function likelyDecimalSign(cells: Iterable<string>): Sign {
  let commas = 0;
  for (const cell of cells) {
    const sign = TELLING.exec(cell.trim())?.[1];
    if (sign !== undefined) commas += sign === ',' ? 1 : -1;
  }
  return commas > 0 ? ',' : '.';
}
