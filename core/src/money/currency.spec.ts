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
