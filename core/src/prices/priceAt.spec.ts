import fc from 'fast-check';
import { momentOf } from '../moments/moment.ts';
import { money } from '../money/money.ts';
import { ANYBODY, answerWith, priceAt, quantityPrices, saleThatCounts, type SalePrice, winnerAt } from './priceAt.ts';

const at = (text: string) => momentOf(Date.parse(text));
const sale = (price: bigint, start: string | null, end: string | null, name = 'Sale'): SalePrice => ({
  name,
  price: money(price),
  start: start === null ? null : at(start),
  end: end === null ? null : at(end),
  above: false,
  least: null,
  group: null,
});
const regular = money(1000n);

describe('the price at a moment', () => {
  const november = sale(800n, '2026-11-01T00:00Z', '2026-12-01T00:00Z', 'November');

  it('is the regular price without a sale', () => {
    expect(priceAt(regular, [], momentOf(0)).winner).toEqual(
      jasmine.objectContaining({ source: 'regular', price: regular }),
    );
  });

  it('is the sale price within its half-open window, and over at its end', () => {
    const paid = (moment: string) => priceAt(regular, [november], at(moment)).winner!.price;
    expect(paid('2026-10-31T23:59:59.999Z')).toBe(regular);
    expect(paid('2026-11-01T00:00Z')).toBe(money(800n));
    expect(paid('2026-11-30T23:59:59.999Z')).toBe(money(800n));
    expect(paid('2026-12-01T00:00Z')).toBe(regular);
  });

  it('is the lowest of several; nothing stacks (common practice)', () => {
    const deeper = sale(700n, '2026-11-20T00:00Z', null, 'Clearance');
    expect(priceAt(regular, [november, deeper], at('2026-11-25T00:00Z')).winner!.name).toBe('Clearance');
    expect(priceAt(regular, [november, deeper], at('2026-11-10T00:00Z')).winner!.name).toBe('November');
  });

  it('is, of two that are alike, the one that started last', () => {
    const later = sale(800n, '2026-11-15T00:00Z', null, 'Later');
    expect(priceAt(regular, [later, november], at('2026-11-20T00:00Z')).winner!.name).toBe('Later');
    expect(priceAt(regular, [november, later], at('2026-11-20T00:00Z')).winner!.name).toBe('Later');
  });

  it('says of every candidate why it counts or not', () => {
    const answer = priceAt(
      regular,
      [november, sale(1000n, null, null, 'No sale'), sale(500n, '2027-01-01T00:00Z', null, 'January')],
      at('2026-12-05T00:00Z'),
    );
    expect(answer.candidates.map(({ name, why }) => [name, why])).toEqual([
      [undefined, 'counts'],
      ['November', 'over'],
      ['No sale', 'not below the regular price'],
      ['January', 'not begun'],
    ]);
    expect(answer.winner!.source).toBe('regular');
  });

  it('is that of a sale that stands above others, even where another is lower', () => {
    const above = { ...sale(900n, null, null, 'Above'), above: true };
    const answer = priceAt(regular, [november, above], at('2026-11-10T00:00Z'));
    expect(answer.winner!.name).toBe('Above');
    expect(answer.candidates.map(({ why }) => why)).toEqual(['another stands above', 'another stands above', 'counts']);
    // One that does not count stands above nothing.
    const dear = { ...above, price: money(1200n) };
    expect(priceAt(regular, [november, dear], at('2026-11-10T00:00Z')).winner!.name).toBe('November');
  });

  it('is for a customer group where a sale is, and for nobody else', () => {
    const trade = { ...sale(600n, null, null, 'Trade terms'), group: 'Trade' };
    const answer = priceAt(regular, [trade], at('2026-11-10T00:00Z'));
    expect([answer.winner!.source, answer.candidates[1]!.why]).toEqual(['regular', 'for another group']);
    expect(priceAt(regular, [trade], at('2026-11-10T00:00Z'), { group: 'Trade', pieces: 1 }).winner!.name).toBe(
      'Trade terms',
    );
  });

  it('is lower for who takes several pieces, in steps of which each is cheaper than the one before', () => {
    const at10 = at('2026-11-10T00:00Z');
    const many = (price: bigint, least: number) => ({ ...sale(price, null, null, `From ${least}`), least });
    // 6 to 11 pieces cost no less than 3 to 5: that is no step.
    const sales = [many(900n, 3), many(900n, 6), many(700n, 12)];
    const [, ...others] = priceAt(regular, sales, at10).candidates;
    expect(others.every(({ why }) => why === 'for more pieces')).toBeTrue();
    expect(priceAt(regular, sales, at10, { group: null, pieces: 12 }).winner!.name).toBe('From 12');
    expect(quantityPrices(regular, sales, at10)).toEqual([
      { from: 1, price: regular },
      { from: 3, price: money(900n) },
      { from: 12, price: money(700n) },
    ]);
  });

  it('does not exist without a price', () => {
    expect(priceAt(null, [], momentOf(0))).toEqual({ winner: undefined, candidates: [] });
  });

  it('is never above any candidate that counts, and is one of them', () => {
    const window = fc.option(fc.integer({ min: 0, max: 100 }).map(momentOf), { nil: null });
    const sales = fc.array(
      fc.record({
        name: fc.constant('s'),
        price: fc.bigInt(0n, 2000n).map(money),
        start: window,
        end: window,
        above: fc.constant(false),
        group: fc.constant(null),
        least: fc.option(fc.integer({ min: 2, max: 5 }), { nil: null }),
      }),
    );
    fc.assert(
      fc.property(sales, fc.integer({ min: -1, max: 101 }).map(momentOf), (all, moment) => {
        const { winner, candidates } = priceAt(regular, all, moment);
        expect(winnerAt(regular, all, moment)).toEqual(winner);
        expect(candidates).toHaveSize(all.length + 1);
        const known = answerWith(saleThatCounts(regular, all, moment, ANYBODY), regular);
        expect(known.winner).withContext('where it is known which counts').toEqual(winner);
        expect(known.candidates.map(({ source }) => source)).toContain('regular');
        for (const one of candidates.filter(({ why }) => why === 'counts'))
          expect(winner!.price <= one.price).toBeTrue();
        expect(candidates).toContain(winner!);
      }),
    );
  });
});
