import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { currencyOf } from './currency.ts';
import { divideRounded } from './divideRounded.ts';
import { LARGEST_AMOUNT, plainMoney, readMoney, showMoney } from './money.ts';
import { changeInPercent, percent, raiseByPercent, readPercent } from './percent.ts';
import { money } from './money.ts';

const GBP = currencyOf('GBP');
const reading = (text: string, sign: '.' | ',' = '.', currency = GBP) => {
  const read = readMoney(text, currency, { decimalSign: sign });
  return read.ok ? read.value : read.problem.code;
};

describe('reading an amount', () => {
  it('takes what people and suppliers write', () => {
    expect(reading('12.50')).toBe(money(1250n));
    expect(reading(' £1,234.50 ')).toBe(money(123450n));
    expect(reading('£ 14')).toBe(money(1400n));
    expect(reading('GBP 3.5')).toBe(money(350n));
    expect(reading('.99')).toBe(money(99n));
    expect(reading('9.')).toBe(money(900n));
    expect(reading('12.50gbp')).toBe(money(1250n));
    expect(reading('1.234,50 EUR', ',', currencyOf('EUR'))).toBe(money(123450n));
    expect(reading('$12', '.', currencyOf('AUD'))).toBe(money(1200n));
    expect(reading('£\u00a01\u202f234.50')).toBe(money(123450n));
    expect(reading('0')).toBe(money(0n));
  });

  it('refuses what cannot be a price, and says what is wrong', () => {
    expect(reading('1O.50')).toBe('money-letter-for-digit');
    expect(reading('-3')).toBe('money-negative');
    expect(reading('(4.20)')).toBe('money-negative');
    expect(reading('1e9')).toBe('money-exponent');
    expect(reading('12.505')).toBe('money-too-precise');
    expect(reading('99999999999999')).toBe('money-too-large');
    expect(reading('12,50')).toBe('money-unreadable');
    expect(reading('0,250')).toBe('money-unreadable');
    expect(reading('0.250', ',')).toBe('money-unreadable');
    expect(reading('TBC')).toBe('money-unreadable');
    expect(reading('')).toBe('money-unreadable');
  });

  it('refuses amounts of another currency, and numbers that stand apart', () => {
    for (const text of ['€9.50', '9.50 EUR', 'USD 9.50', '£9.50 EUR', '9.50 chf'])
      expect(reading(text)).withContext(text).toBe('money-currency');
    expect(reading('£9.50', '.', currencyOf('EUR'))).toBe('money-currency');
    expect(reading('12 50')).toBe('money-unreadable');
    expect(reading('9.50 12')).toBe('money-unreadable');
    expect(reading('9.50 NET')).toBe('money-unreadable');
    expect(reading('10 off')).toBe('money-unreadable');
    expect(reading('.')).toBe('money-unreadable');
    expect(reading('€')).toBe('money-unreadable');
  });

  it('offers the digits for letters that look like them', () => {
    const read = readMoney('£1O.5S', GBP);
    expect(read.ok ? undefined : read.problem.expected).toBe('10.55');
  });

  it('reads back what it shows', () => {
    fc.assert(
      fc.property(fc.bigInt(0n, LARGEST_AMOUNT), fc.constantFrom('GBP', 'JPY', 'KWD'), (minor, code) => {
        const currency = currencyOf(code);
        for (const shown of [plainMoney(minor, currency), showMoney(minor, currency)]) {
          const read = readMoney(shown, currency);
          expect(read.ok && read.value).toBe(money(minor));
        }
      }),
    );
  });
});

describe('rounding', () => {
  it('goes half away from zero, as decimal.js does', () => {
    fc.assert(
      fc.property(fc.bigInt(-(10n ** 15n), 10n ** 15n), fc.bigInt(1n, 10n ** 9n), (n, d) => {
        // 40 digits hold every quotient of these sizes exactly enough to tell a tie.
        const Exact = Decimal.clone({ precision: 60, rounding: Decimal.ROUND_HALF_UP });
        const oracle = new Exact(n.toString()).div(d.toString()).toDecimalPlaces(0, Decimal.ROUND_HALF_UP);
        expect(divideRounded(n, d).toString()).toBe(oracle.toFixed().replace(/^-0$/, '0'));
      }),
    );
  });

  it('gives the values of decimal arithmetic handbooks: 1.005 is 1.01, −1.005 is −1.01, 2.675 is 2.68', () => {
    expect(divideRounded(1005n, 10n)).toBe(101n);
    expect(divideRounded(-1005n, 10n)).toBe(-101n);
    expect(divideRounded(2675n, 10n)).toBe(268n);
  });
});

describe('percentages', () => {
  it('raise by multiplying (common practice): 10 % up and 10 % down is not the start', () => {
    const up = raiseByPercent(money(1000n), percent(100_000n));
    expect(up).toBe(money(1100n));
    expect(raiseByPercent(up, percent(-100_000n))).toBe(money(990n));
  });

  it('compound as in the handbook: 200 less 20 % less 10 % is 144', () => {
    const once = raiseByPercent(money(20000n), percent(-200_000n));
    expect(raiseByPercent(once, percent(-100_000n))).toBe(money(14400n));
  });

  it('agree with decimal.js on every price and percentage', () => {
    fc.assert(
      fc.property(fc.bigInt(0n, 10n ** 9n), fc.bigInt(-1_000_000n, 10_000_000n), (price, by) => {
        const oracle = new Decimal(price.toString())
          .times(new Decimal(by.toString()).div(1_000_000).plus(1))
          .toDecimalPlaces(0, Decimal.ROUND_HALF_UP);
        expect(raiseByPercent(money(price), percent(by)).toString()).toBe(oracle.toFixed().replace(/^-0$/, '0'));
      }),
    );
  });

  it('are read to four places and not further', () => {
    expect(readPercent('7.5 %')).toEqual({ ok: true, value: percent(75_000n) });
    expect(readPercent('0.0001')).toEqual({ ok: true, value: percent(1n) });
    expect(readPercent('0.00001').ok).toBeFalse();
    expect(readPercent('ten').ok).toBeFalse();
  });

  it('measure a change from what was before, and from nothing there is none', () => {
    expect(changeInPercent(money(1000n), money(1300n))).toBe(percent(300_000n));
    expect(changeInPercent(money(0n), money(1300n))).toBeUndefined();
  });
});
