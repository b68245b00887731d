import { Temporal } from 'temporal-polyfill';
import fc from 'fast-check';
import { namedNextYear, nextYear } from './nextYear.ts';

const day = (iso: string): number => Date.parse(iso) / 86_400_000;

describe('a day a year later', () => {
  it('is the same day of the calendar, and of 29 February the last of the month', () => {
    expect(nextYear(day('2026-11-20'))).toBe(day('2027-11-20'));
    expect(nextYear(day('2028-02-29'))).toBe(day('2029-02-28'));
    expect(nextYear(day('2027-02-28'))).toBe(day('2028-02-28'));
  });

  it('is what Temporal says of every day', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 80_000 }), (days) => {
        const there = Temporal.PlainDate.from('1970-01-01').add({ days }).add({ years: 1 });
        expect(nextYear(days)).toBe(day(there.toString()));
      }),
    );
  });

  it('is in the name of what happens again', () => {
    expect(namedNextYear('Advent sale', 2027)).toBe('Advent sale 2027');
    expect(namedNextYear('Spring 2026', 2027)).toBe('Spring 2027');
    expect(namedNextYear('2026', 2027)).toBe('2027');
  });
});
