import { sortedBy, toggled } from './sortedBy.ts';

describe('the order of rows', () => {
  const byName = { field: 'name', down: false } as const;

  it('is by the column that is pressed, and the other way round when it is pressed again', () => {
    const once = sortedBy(byName, 'price', false);
    expect(once).toEqual({ field: 'price', down: false });
    expect(sortedBy(once, 'price', false)).toEqual({ field: 'price', down: true });
    expect(sortedBy(byName, 'price', false, true)).toEqual({ field: 'price', down: true });
  });

  it('is by further columns where those before are alike', () => {
    const two = sortedBy({ field: 'brand', down: true }, 'price', true);
    expect(two).toEqual({ field: 'brand', down: true, then: [{ field: 'price', down: false }] });
    expect(sortedBy(two, 'price', true)).toEqual({
      field: 'brand',
      down: true,
      then: [{ field: 'price', down: true }],
    });
    expect(sortedBy(two, 'brand', true)).toEqual({
      field: 'brand',
      down: false,
      then: [{ field: 'price', down: false }],
    });
    expect(sortedBy(two, 'stock', false)).toEqual({ field: 'stock', down: false });
  });

  it('is by five columns at most', () => {
    const keys = ['price', 'cost', 'stock', 'brand', 'code', 'weight'] as const;
    const many = keys.reduce<Parameters<typeof sortedBy>[0]>((sort, key) => sortedBy(sort, key, true), byName);
    expect(many.then!.map(({ field }) => field)).toEqual(['price', 'cost', 'stock', 'brand']);
  });

  it('locks a column, and unlocks it', () => {
    expect(toggled(['price'], 'cost')).toEqual(['price', 'cost']);
    expect(toggled(['price', 'cost'], 'price')).toEqual(['cost']);
  });
});
