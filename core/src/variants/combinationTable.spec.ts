import fc from 'fast-check';
import { combinationTable, keysHaving } from './combinationTable.ts';
import { type Combination, combinationKey, growGrid } from './grid.ts';

const of = (combination: Record<string, string>): Combination => new Map(Object.entries(combination));

describe('combinations as a table', () => {
  const options = ['nib', 'colour'];
  const present = [of({ nib: 'F', colour: 'Blue' }), of({ nib: 'M', colour: 'Blue' })];
  const { made } = growGrid(present, [
    { option: 'nib', values: ['B'] },
    { option: 'colour', values: ['Red'] },
  ]);

  it('have the last option across and say which are there', () => {
    const { columns, rows } = combinationTable(present, made, options);
    expect(columns).toEqual(['Blue', 'Red']);
    expect(rows.map(({ values, cells }) => [...values, ...cells.map(({ state }) => state)])).toEqual([
      ['F', 'there', 'made'],
      ['M', 'there', 'made'],
      ['B', 'made', 'made'],
    ]);
  });

  it('leave out rows in which nothing is made', () => {
    const one = combinationTable(present, [of({ nib: 'B', colour: 'Blue' })], options);
    expect(one.rows.map(({ values }) => values)).toEqual([['B']]);
    expect(combinationTable([], [], [])).toEqual({ columns: [], rows: [] });
  });

  it('are one row where there is one option', () => {
    const { columns, rows } = combinationTable([], [of({ size: 'S' }), of({ size: 'L' })], ['size']);
    expect(columns).toEqual(['S', 'L']);
    expect(rows).toEqual([
      {
        values: [],
        cells: [
          { key: 's', state: 'made' },
          { key: 'l', state: 'made' },
        ],
      },
    ]);
  });

  it('are named by some of their values', () => {
    expect([...keysHaving(made, options, of({ colour: 'red' }))]).toEqual(['f|red', 'm|red', 'b|red']);
    expect([...keysHaving(made, options, of({ colour: 'red', nib: 'b' }))]).toEqual(['b|red']);
  });

  it('have each that is made in one cell, whatever is added', () => {
    const values = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1 });
    fc.assert(
      fc.property(values, values, values, (a, b, c) => {
        const grown = growGrid(
          [],
          [a, b, c].map((list, i) => ({ option: `o${i}`, values: list })),
        ).made;
        const axes = ['o0', 'o1', 'o2'];
        const { rows } = combinationTable([], grown, axes);
        const keys = rows.flatMap(({ cells }) => cells.map(({ key }) => key));
        expect(keys.sort()).toEqual(grown.map((one) => combinationKey(one, axes)).sort());
      }),
    );
  });
});
