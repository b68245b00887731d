import { NameList } from './names.ts';

describe('the names of things of a kind', () => {
  const list = new NameList(
    new Map([
      ['1', 'Stone'],
      ['2', 'Sea'],
      ['3', 'Sand'],
    ]),
    new Map([
      ['1', ['Pebble', 'Sea']],
      ['2', ['Water', 'Shore']],
      ['3', ['Shore']],
    ]),
  );

  it('find a thing by its name, and by what else it is called where none has that name', () => {
    expect(['stone', 'PEBBLE', 'Sea', 'nobody'].map((name) => list.find(name))).toEqual(['1', '1', '2', undefined]);
  });

  it('find nothing by what several things are called otherwise', () => {
    expect(list.find('Shore')).toBeUndefined();
  });

  it('stay with things that get other names', () => {
    const renamed = list.withNames(new Map([['1', 'Rock']]));
    expect(['Rock', 'Pebble', 'Stone'].map((name) => renamed.find(name))).toEqual(['1', '1', undefined]);
  });
});
