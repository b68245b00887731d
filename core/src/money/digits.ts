/** How numbers are written in a column or a field. */
export interface NumberStyle {
  readonly decimalSign: '.' | ',';
}
export const POINT: NumberStyle = { decimalSign: '.' };

/**
 * A group has three digits, and no number is grouped from a nought on: `0,250` is no way to write 250. Groups stand apart
 * by the sign that does not divide the decimals, or by spaces.
 */
const SHAPES = {
  '.': /^(?=.*\d)([1-9]\d{0,2}(?:(?:,\d{3})+|(?:\s\d{3})+)|\d*)(?:\.(\d*))?$/,
  ',': /^(?=.*\d)([1-9]\d{0,2}(?:(?:\.\d{3})+|(?:\s\d{3})+)|\d*)(?:,(\d*))?$/,
};

/** The digits of a number that is not negative. */
export interface Digits {
  readonly whole: string;
  /** Behind the decimal sign, without noughts at the end. */
  readonly decimals: string;
}

/** Reads `1234.50`, `1,234.50`, `1 234.50`, `.50` and, where the comma is the decimal sign, `1.234,50`; undefined for anything else. */
export function readDigits(text: string, { decimalSign }: NumberStyle): Digits | undefined {
  const match = SHAPES[decimalSign].exec(text);
  return match
    ? { whole: match[1]!.replace(/[.,\s]/g, '') || '0', decimals: (match[2] ?? '').replace(/0+$/, '') }
    : undefined;
}
