import fc from 'fast-check';
import { momentOf } from '../moments/moment.ts';
import { money } from '../money/money.ts';
import { priceAt, type SalePrice } from './priceAt.ts';
import { pricesOver, standing } from './pricesOver.ts';

const sale = (name: string, price: bigint, start: number | null, end: number | null): SalePrice => ({
  ...{ name, price: money(price), above: false, group: null, least: null },
  start: start === null ? null : momentOf(start),
  end: end === null ? null : momentOf(end),
});
const regular = money(1_000n);

describe('what shoppers pay over time', () => {
  const over = (sales: readonly SalePrice[]) =>
    pricesOver(standing(regular), sales, momentOf(0), momentOf(100)).map(({ at, winner }) => [
      at as number,
      winner!.price,
      winner!.name,
    ]);

  it('is a step where a sale begins, where a lower one takes over, and where it is over', () => {
    expect(over([sale('Autumn', 800n, 10, 50), sale('Days', 700n, 20, 30)])).toEqual([
      [0, regular, undefined],
      [10, money(800n), 'Autumn'],
      [20, money(700n), 'Days'],
      [30, money(800n), 'Autumn'],
      [50, regular, undefined],
    ]);
  });

  it('is no step where a sale changes nothing, or lies outside', () => {
    expect(over([sale('Low', 500n, null, null), sale('Higher', 900n, 10, 20), sale('Past', 100n, -20, -10)])).toEqual([
      [0, money(500n), 'Low'],
    ]);
  });

  it('is at every moment what the price at that moment is', () => {
    const edge = fc.option(fc.integer({ min: -10, max: 110 }));
    const sales = fc.array(fc.tuple(fc.bigInt(1n, 1_200n), edge, edge), { maxLength: 8 });
    fc.assert(
      fc.property(sales, fc.integer({ min: 0, max: 99 }), (all, moment) => {
        const some = all.map(([price, start, end], i) => sale(`Sale ${i}`, price, start, end));
        const steps = pricesOver(standing(regular), some, momentOf(0), momentOf(100));
        const step = steps.findLast(({ at }) => at <= moment);
        const { winner } = priceAt(regular, some, momentOf(moment));
        expect([step!.winner!.price, step!.winner!.name]).toEqual([winner!.price, winner!.name]);
      }),
    );
  });
});
