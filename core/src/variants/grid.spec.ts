import fc from 'fast-check';
import { type Combination, growGrid, lackingOf } from './grid.ts';

const of = (combination: Record<string, string>): Combination => new Map(Object.entries(combination));
const plain = (combinations: readonly Combination[]) => combinations.map((one) => Object.fromEntries(one));

describe('the grid of variants', () => {
  it('makes every combination of what is new', () => {
    const { made } = growGrid(
      [],
      [
        { option: 'nib', values: ['F', 'M'] },
        { option: 'colour', values: ['Blue', 'Red', 'blue'] },
      ],
    );
    expect(plain(made)).toEqual([
      { nib: 'F', colour: 'Blue' },
      { nib: 'F', colour: 'Red' },
      { nib: 'M', colour: 'Blue' },
      { nib: 'M', colour: 'Red' },
    ]);
  });

  it('proposes only what a new value makes, and leaves out what was left out before', () => {
    // Red in M was never made.
    const present = [
      of({ nib: 'F', colour: 'Blue' }),
      of({ nib: 'F', colour: 'Red' }),
      of({ nib: 'M', colour: 'Blue' }),
    ];
    const { made, given } = growGrid(present, [{ option: 'colour', values: ['Green'] }]);
    expect(plain(made)).toEqual([
      { nib: 'F', colour: 'Green' },
      { nib: 'M', colour: 'Green' },
    ]);
    expect(given.size).toBe(0);
  });

  it('gives the variants that are there a value of an option that is new', () => {
    const { made, given } = growGrid([of({ colour: 'Blue' })], [{ option: 'size', values: ['A5', 'A4'], given: 'A4' }]);
    expect(Object.fromEntries(given)).toEqual({ size: 'A4' });
    expect(plain(made)).toEqual([{ colour: 'Blue', size: 'A5' }]);
    expect(Object.fromEntries(growGrid([of({})], [{ option: 'size', values: ['A5'] }]).given)).toEqual({ size: 'A5' });
  });

  it('never makes a combination twice, and is done when it is done', () => {
    const values = fc.uniqueArray(fc.constantFrom('A', 'B', 'C'), { maxLength: 3 });
    fc.assert(
      fc.property(values, values, values, values, (first, second, third, fourth) => {
        const start = growGrid(
          [],
          [
            { option: 'x', values: first },
            { option: 'y', values: second },
          ],
        ).made;
        const added = [
          { option: 'x', values: third },
          { option: 'y', values: fourth },
        ];
        const grown = growGrid(start, added);
        const all = [...start.map((one) => new Map([...one, ...grown.given])), ...grown.made];
        expect(new Set(plain(all).map((one) => JSON.stringify(one))).size).toBe(all.length);
        expect(growGrid(all, added).made).toEqual([]);
      }),
    );
  });
});

describe('what a product lacks of the variants of another', () => {
  const wanted = [of({ colour: 'Blue' }), of({ colour: 'Red' })];

  it('is the combinations that it has not', () => {
    const lacking = lackingOf(wanted, [of({ colour: 'red' }), of({ colour: 'Green' })])!;
    expect(plain(lacking.made)).toEqual([{ colour: 'Blue' }]);
    expect(lacking.given.size).toBe(0);
  });

  it('gives the variant of a product without options the first of them', () => {
    const lacking = lackingOf(wanted, [of({})])!;
    expect(plain(lacking.made)).toEqual([{ colour: 'Red' }]);
    expect(Object.fromEntries(lacking.given)).toEqual({ colour: 'Blue' });
  });

  it('is nothing that can be made where the product varies by other options', () => {
    expect(lackingOf(wanted, [of({ size: 'A5' })])).toBeUndefined();
    expect(lackingOf(wanted, [of({ size: 'A5', colour: 'Blue' })])).toBeUndefined();
  });
});
