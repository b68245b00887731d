/** A currency by its ISO 4217 code, with the number of digits of its minor unit. */
export interface Currency {
  readonly code: string;
  readonly exponent: number;
}

// ISO 4217 list one: currencies whose minor unit has not two digits.
const UNUSUAL_EXPONENTS: ReadonlyMap<string, number> = new Map([
  ...'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'.split(' ').map((code) => [code, 0] as const),
  ...'BHD IQD JOD KWD LYD OMR TND'.split(' ').map((code) => [code, 3] as const),
  ...'CLF UYW'.split(' ').map((code) => [code, 4] as const),
]);

/** The currency of an ISO 4217 code, e.g. `currencyOf('GBP')` has exponent 2, `JPY` 0, `KWD` 3. */
export function currencyOf(code: string): Currency {
  return { code, exponent: UNUSUAL_EXPONENTS.get(code) ?? 2 };
}

/** Signs of currencies, and the codes that each may stand for; what has the first of them is shown with the sign. */
const SIGNS: ReadonlyMap<string, readonly string[]> = new Map([
  ['£', ['GBP']],
  ['€', ['EUR']],
  ['$', ['USD', 'AUD', 'CAD', 'HKD', 'NZD', 'SGD']],
  ['¥', ['JPY', 'CNY']],
]);

/** What stands before an amount of a currency: its sign, or its code where no sign is its own. */
export const signOf = ({ code }: Currency): string => [...SIGNS].find(([, [own]]) => own === code)?.[0] ?? `${code} `;

/** Any one sign, for a regular expression. */
export const ANY_SIGN = `[${[...SIGNS.keys()].join('')}]`;

/** Currencies that suppliers quote often. */
const QUOTED = 'AUD CAD CHF CNY CZK DKK EUR GBP HKD INR JPY NOK NZD PLN SEK SGD USD ZAR'.split(' ');

/** A currency as it stands in a text: a sign, or the code of one that is quoted often. */
export const CURRENCY_IN_TEXT = new RegExp(`${ANY_SIGN}|\\b(?:${QUOTED.join('|')})\\b`, 'g');

/** Whether a text is a sign of a currency, or the code of one that is quoted often, in any case. */
export const isCurrency = (written: string): boolean => SIGNS.has(written) || QUOTED.includes(written.toUpperCase());

/** Whether a sign, or an ISO 4217 code in any case, stands for a currency. */
export const standsFor = (written: string, { code }: Currency): boolean =>
  written.toUpperCase() === code || (SIGNS.get(written)?.includes(code) ?? false);
