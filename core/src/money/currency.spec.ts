import { code as listed, codes } from 'currency-codes';
import { currencyOf } from './currency.ts';

// ISO 4217 list one, the exponents that are not 2, and a sample of those that are.
const PUBLISHED: Readonly<Record<string, number>> = {
  JPY: 0,
  KRW: 0,
  ISK: 0,
  CLP: 0,
  VND: 0,
  KWD: 3,
  BHD: 3,
  TND: 3,
  CLF: 4,
  UYW: 4,
  GBP: 2,
  EUR: 2,
  HUF: 2,
  IDR: 2,
};

describe('currencies', () => {
  it('have the minor units of ISO 4217', () => {
    for (const [code, exponent] of Object.entries(PUBLISHED))
      expect(currencyOf(code).exponent).withContext(code).toBe(exponent);
  });
});

describe('the exponents of every currency', () => {
  // currency-codes carries the ISO 4217 list of mid 2024; funds and metals, which have no minor unit, say 0 there.
  const NO_MONEY = /^(XAU|XAG|XPD|XPT|XDR|XSU|XUA|XBA|XBB|XBC|XBD|XTS|XXX)$/;

  it('are those of the published list', () => {
    expect(codes().length).toBeGreaterThan(150);
    for (const code of codes().filter((code) => !NO_MONEY.test(code)))
      expect(currencyOf(code).exponent).withContext(code).toBe(listed(code)!.digits);
  });
});
