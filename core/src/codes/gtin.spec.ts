import { isValid } from 'gtin';
import fc from 'fast-check';
import { gtinCheckDigit, isGtinForOutlets, readGtin } from './gtin.ts';

describe('GTINs', () => {
  // 6291041500213 is the worked example of GS1's check digit calculation; the others are published test numbers.
  const VALID = [
    '6291041500213',
    '4006381333931',
    '9506000134352',
    '036000291452',
    '614141000036',
    '73513537',
    '96385074',
    '10614141000415',
    '15400141288763',
    '9783161484100',
  ];

  it('are valid when published as valid', () => {
    for (const gtin of VALID) expect(readGtin(gtin)).withContext(gtin).toEqual({ ok: true, value: gtin });
  });

  it('may be written with hyphens, as an ISBN is', () => {
    expect(readGtin('978-0-306-40615-7')).toEqual({ ok: true, value: '9780306406157' });
  });

  it('say what the last digit would be', () => {
    const read = readGtin('6291041500214');
    expect(read.ok ? undefined : read.problem).toEqual({
      code: 'gtin-check-digit',
      value: '6291041500214',
      expected: '6291041500213',
    });
    expect(readGtin('12345').ok).toBeFalse();
    expect(readGtin('n/a').ok).toBeFalse();
  });

  it('are refused as shortened when a spreadsheet wrote them as a large number', () => {
    for (const value of ['9.50600E+12', '9,506e12', '4E+12'])
      expect(readGtin(value)).toEqual({ ok: false, problem: { code: 'gtin-shortened', value } });
    for (const value of ['n/a', 'E12', '12E+12'])
      expect(readGtin(value)).toEqual({ ok: false, problem: { code: 'gtin-not-digits', value } });
  });

  it('agree with the package gtin on every body', () => {
    fc.assert(
      fc.property(fc.constantFrom(7, 11, 12, 13), fc.bigInt(1n, 10n ** 13n - 1n), (length, number) => {
        const body = number.toString().padStart(length, '0').slice(-length);
        if (/^0+$/.test(body)) return;
        const digit = gtinCheckDigit(body);
        expect(isValid(`${body}${digit}`)).toBeTrue();
        expect(readGtin(`${body}${(digit + 1) % 10}`).ok).toBeFalse();
      }),
    );
  });

  it('for use inside a company or as coupons are not for outlets (GS1 General Specifications, from memory)', () => {
    for (const gtin of ['0200000000000', '2012345678900', '0412345678903', '9912345678901', '9800000000004']) {
      expect(isGtinForOutlets(gtin)).withContext(gtin).toBeFalse();
    }
    expect(isGtinForOutlets('6291041500213')).toBeTrue();
  });
});
