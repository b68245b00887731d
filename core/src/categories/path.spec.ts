import fc from 'fast-check';
import { CategoryTree, DEEPEST_CATEGORY, readCategoryPath, showCategoryPath } from './path.ts';

const steps = (text: string) => {
  const read = readCategoryPath(text);
  return read.ok ? read.value : read.problem.code;
};

describe('a category path', () => {
  it('is written with > with or without spaces (common practice)', () => {
    expect(steps('Ink > Bottled > Iron gall')).toEqual(['Ink', 'Bottled', 'Iron gall']);
    expect(steps('Ink>Bottled>Iron  gall ')).toEqual(['Ink', 'Bottled', 'Iron gall']);
  });

  it('may hold a > in a name, written \\>', () => {
    expect(steps('Paper > A5 \\> A4')).toEqual(['Paper', 'A5 > A4']);
  });

  it('has no empty step and goes no deeper than a range does', () => {
    expect(steps('Ink > > Dye')).toBe('category-empty-step');
    expect(steps('> Ink')).toBe('category-empty-step');
    expect(steps(Array.from({ length: DEEPEST_CATEGORY }, (_, i) => `C${i}`).join('>'))).toHaveSize(DEEPEST_CATEGORY);
    expect(steps(Array.from({ length: 12 }, (_, i) => `C${i}`).join('>'))).toBe('category-too-deep');
  });

  it('shown and read again is the same', () => {
    const name = fc.stringMatching(/^[a-zé>][a-zé> ]{0,8}[a-zé>]$/).map((text) => text.replace(/\s+/g, ' '));
    fc.assert(
      fc.property(fc.array(name, { minLength: 1, maxLength: DEEPEST_CATEGORY }), (names) => {
        expect(steps(showCategoryPath(names))).toEqual(names);
      }),
    );
  });
});

describe('the category tree', () => {
  const tree = new CategoryTree([
    { id: '1', parent: null, name: 'Ink', place: 0 },
    { id: '2', parent: '1', name: 'Bottled', place: 1 },
    { id: '3', parent: '2', name: 'Café', place: 2 },
    { id: '4', parent: null, name: 'Gifts', place: 3 },
    { id: '5', parent: '4', name: 'Bottled', place: 4 },
  ]);

  it('finds a path without regard to case and accents', () => {
    expect(tree.findPath(['INK', 'bottled', 'cafe'])).toBe('3');
    expect(tree.findPath(['Ink', 'Cafe'])).toBeUndefined();
  });

  it('finds a path through what categories were called before, at any of its steps, and of what was merged elsewhere', () => {
    const named = (id: string, parent: string | null, name: string, alsoCalled: string[] = []) => ({
      ...{ id, parent, name, place: 0 },
      alsoCalled,
    });
    const renamed = new CategoryTree([
      named('1', null, 'Ink', ['Inks']),
      named('2', '1', 'Bottled', ['In bottles', 'Dyes > Old bottles']),
      named('3', '2', 'Iron gall', ['Oak gall']),
      named('4', '1', 'Inks'),
    ]);
    const find = (path: string) => {
      const steps = readCategoryPath(path);
      return steps.ok ? renamed.findPath(steps.value) : undefined;
    };
    expect(['Inks', 'inks > in bottles', 'Inks > Bottled > oak gall', 'Dyes > Old bottles'].map(find)).toEqual([
      ...['1', '2', '3', '2'],
    ]);
    // A path of merged goods leads on to what lies below; a name that a category has wins; what was never so called is not found.
    expect(['Dyes > Old bottles > Iron gall', 'Ink > Inks', 'Ink > Dyes', 'Bottled'].map(find)).toEqual([
      ...['3', '4'],
      ...[undefined, undefined],
    ]);
  });

  it('takes the end of a path for every category it is the end of', () => {
    expect(tree.meant('Bottled')).toEqual(['2', '5']);
    expect(tree.meant('Gifts > Bottled')).toEqual(['5']);
    expect(tree.meant('Bottle')).toEqual([]);
    expect(tree.meant('> ')).toEqual([]);
  });

  it('knows what lies above and how a path is written', () => {
    expect(tree.within('3')).toEqual(['3', '2', '1']);
    expect(tree.path('3')).toBe('Ink > Bottled > Café');
    expect(tree.path('99')).toBe('');
  });
});
