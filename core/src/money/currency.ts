/** A currency by its ISO 4217 code, with the number of digits of its minor unit. */
export interface Currency {
  readonly code: string;
  readonly exponent: number;
}

// ISO 4217 list one: currencies whose minor unit has not two digits.
const UNUSUAL_EXPONENTS: Readonly<Record<string, number>> = Object.fromEntries([
  ...'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'.split(' ').map((code) => [code, 0] as const),
  ...'BHD IQD JOD KWD LYD OMR TND'.split(' ').map((code) => [code, 3] as const),
  ...'CLF UYW'.split(' ').map((code) => [code, 4] as const),
]);

/** The currency of an ISO 4217 code, e.g. `currencyOf('GBP')` has exponent 2, `JPY` 0, `KWD` 3. */
export function currencyOf(code: string): Currency {
  return { code, exponent: UNUSUAL_EXPONENTS[code] ?? 2 };
}
