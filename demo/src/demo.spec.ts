import { codeKey, gapsOf, readGtin, slugOf } from '@ivory/core';
import { testAsking, tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { draw } from './draw.ts';
import { demoGoods } from './goods.ts';
import { Random } from './random.ts';
import { KINDS } from './range.ts';
import { supplierFile } from './supplierFile.ts';

describe('the made-up shop', () => {
  const skusOf = (count: number) => [...demoGoods(count)].flatMap(({ skus }) => skus);

  it('is the same every time, and as large as it is asked to be', () => {
    expect([...demoGoods(500)]).toEqual([...demoGoods(500)]);
    for (const count of [1, 7, 300, 1_200]) expect(skusOf(count)).toHaveSize(count);
  });

  it('begins, when it is larger, with the smaller one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 0, max: 400 }), (small, more) => {
        const larger = skusOf(small + more).slice(0, small);
        expect(larger.map(({ code, price }) => [code, price])).toEqual(
          skusOf(small).map(({ code, price }) => [code, price]),
        );
      }),
      { numRuns: tries(20) },
    );
  });

  it('has codes and addresses of which no two are alike', () => {
    const products = [...demoGoods(5_000)];
    const codes = products.flatMap(({ skus }) => skus.map(({ code }) => codeKey(code)));
    expect(new Set(codes).size).toBe(codes.length);
    expect(new Set(products.map(({ slug }) => slug)).size).toBe(products.length);
    for (const { slug } of products.slice(0, 200)) expect(slugOf(slug)).toBe(slug);
  });

  it('lies three levels deep, and has something of every gap to be found', () => {
    expect(KINDS.some(({ path }) => path.length === 3)).toBeTrue();
    const skus = skusOf(2_000);
    const wrong = skus.filter(({ gtin }) => gtin !== null && !readGtin(gtin).ok);
    expect(wrong.length).toBeGreaterThan(0);
    const { register, names } = testAsking();
    const gaps = new Set(
      skus.flatMap(({ grams, gtin, cost }) =>
        gapsOf({ weight: grams?.toString() ?? null, gtin, cost: cost?.toString() ?? null }, register, names),
      ),
    );
    for (const gap of ['no weight', 'no GTIN', 'wrong GTIN', 'no cost'] as const) expect(gaps).toContain(gap);
  });

  it('has prices above nothing and costs mostly below them', () => {
    const skus = skusOf(2_000);
    expect(skus.every(({ price }) => price > 0)).toBeTrue();
    const profitable = skus.filter(({ price, cost }) => cost === null || cost < price / 1.2).length;
    expect(profitable / skus.length).toBeGreaterThan(0.95);
  });
});

describe('the supplier’s file', () => {
  it('has 1,500 rows under headings that are not ours', () => {
    const lines = supplierFile().trimEnd().split('\r\n');
    expect(lines).toHaveSize(1_501);
    expect(lines[0]).toContain('Trade price');
    expect(supplierFile()).toContain('£1O.50');
  });
});

describe('numbers that look random', () => {
  it('are the same for a seed, within their bounds, and spread', () => {
    const numbers = (seed: number) => {
      const random = new Random(seed);
      return Array.from({ length: 1_000 }, () => random.whole(1, 6));
    };
    expect(numbers(7)).toEqual(numbers(7));
    expect(numbers(7)).not.toEqual(numbers(8));
    for (const side of [1, 2, 3, 4, 5, 6]) {
      expect(numbers(7).filter((number) => number === side).length).toBeGreaterThan(100);
    }
  });
});

describe('the pictures', () => {
  it('are drawn for every kind of goods, in the colour of the goods', () => {
    for (const kind of KINDS) expect(draw(kind, kind.colours[0] ?? null)).toMatch(/^<svg [^>]*viewBox="0 0 400 400"/);
    expect(draw(KINDS[0]!, 'Blue')).not.toBe(draw(KINDS[0]!, 'Black'));
  });
});
