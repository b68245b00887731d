import fc from 'fast-check';
import { showCategoryPath } from './path.ts';
import { readPathList } from './pathList.ts';

const paths = (text: string) => readPathList(text).paths;

describe('a list of category paths', () => {
  it('is read from paths, from columns and from an outline alike', () => {
    const asked = ['Ink', 'Ink > Bottled', 'Ink > Bottled > Iron gall', 'Paper'];
    expect(paths('Ink\nInk > Bottled\nInk>Bottled>Iron gall\nPaper')).toEqual(asked);
    expect(paths('Ink\t\t\r\nInk\tBottled\t\r\nInk\tBottled\tIron gall\r\nPaper\t\t\r\n')).toEqual(asked);
    expect(paths('Ink\n\tBottled\n\t\tIron gall\nPaper')).toEqual(asked);
  });

  it('leaves out blank lines, what comes again in another case, and a heading', () => {
    expect(paths('\nInk\n\n  \nink\nPaper')).toEqual(['Ink', 'Paper']);
    expect(readPathList('Category 1\tCategory 2\nInk\tBottled', ['category']).paths).toEqual(['Ink > Bottled']);
    expect(readPathList('Category\nInk', ['category']).paths).toEqual(['Ink']);
  });

  it('says of which line no path can be made', () => {
    const { problems } = readPathList('Ink\n\t\tIron gall\nInk > > Dye\nA>B>C>D>E>F>G>H>I');
    expect(problems.map(({ code, row }) => [code, row])).toEqual([
      ['category-empty-step', '2'],
      ['category-empty-step', '3'],
      ['category-too-deep', '4'],
    ]);
  });

  it('gives the paths that were written', () => {
    const step = fc.stringMatching(/^[a-zé>]{1,6}$/);
    const list = fc.uniqueArray(fc.array(step, { minLength: 1, maxLength: 8 }).map(showCategoryPath), { minLength: 1 });
    fc.assert(fc.property(list, (written) => expect(paths(written.join('\n'))).toEqual(written)));
  });
});
