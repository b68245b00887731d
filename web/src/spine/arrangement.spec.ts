import { Arrangement, type HandLine } from './arrangement.ts';
import { dropPlace, stepPlace, zoneOf } from './dropPlace.ts';

const categories = [
  { id: '1', parent: null, name: 'Ink', place: 0 },
  { id: '2', parent: '1', name: 'Bottled', place: 1 },
  { id: '3', parent: '2', name: 'Iron gall', place: 2 },
  { id: '4', parent: '1', name: 'Cartridges', place: 3 },
  { id: '5', parent: null, name: 'Paper', place: 4, inMenu: false },
];
const tree = (...lines: HandLine[]) => new Arrangement(categories, lines);
const names = (arrangement: Arrangement, id: string | null) => arrangement.childrenOf(id).map(({ name }) => name);

describe('the arrangement of categories', () => {
  it('is as it stands, in its order', () => {
    expect(names(tree(), null)).toEqual(['Ink', 'Paper']);
    expect(names(tree(), '1')).toEqual(['Bottled', 'Cartridges']);
    expect(tree().countBelow('1')).toBe(3);
    expect(tree().above('3')).toEqual(['3', '2', '1']);
    expect(tree().get('5')!.inMenu).toBeFalse();
  });

  it('has in its place what is proposed: moved, renamed, new, and gone', () => {
    const proposed = tree(
      { id: '2', field: 'parent', after: '5' },
      { id: '3', field: 'name', after: 'Iron gall inks' },
      { id: '9', field: 'exists', after: '2' },
      { id: '9', field: 'name', after: 'Samplers' },
      { id: '4', field: 'exists', after: null },
      { id: '5', field: 'inMenu', after: 'yes' },
    );
    expect(names(proposed, '5')).toEqual(['Bottled']);
    expect(names(proposed, '2')).toEqual(['Iron gall inks', 'Samplers']);
    expect(proposed.get('4')!.proposed).toBe('goes');
    expect([proposed.get('9')!.proposed, proposed.get('1')!.proposed]).toEqual(['new', undefined]);
    expect(proposed.get('5')!.inMenu).toBeTrue();
  });

  it('finds by any part of a name, whatever the case, and opens only what leads there', () => {
    const finding = tree().finding('IRON')!;
    expect([[...finding.found], [...finding.shown], [...finding.open]]).toEqual([['3'], ['3', '2', '1'], ['2', '1']]);
    expect(tree().finding(' ')).toBeUndefined();
  });
});

describe('where a branch is dropped', () => {
  it('is before a line, in it or behind it, by where the pointer is', () => {
    expect([zoneOf(2, 26), zoneOf(13, 26), zoneOf(24, 26)]).toEqual(['before', 'into', 'behind']);
    const moving = new Set(['5']);
    expect(dropPlace(tree(), moving, '4', 'into')).toEqual({ into: '4', before: null });
    expect(dropPlace(tree(), moving, '4', 'before')).toEqual({ into: '1', before: '4' });
    expect(dropPlace(tree(), moving, '2', 'behind')).toEqual({ into: '1', before: '4' });
    expect(dropPlace(tree(), moving, '4', 'behind')).toEqual({ into: '1', before: null });
  });

  it('is nowhere in itself', () => {
    for (const target of ['1', '2', '3']) expect(dropPlace(tree(), new Set(['1']), target, 'into')).toBeUndefined();
    expect(dropPlace(tree(), new Set(['1']), '5', 'into')).toEqual({ into: '5', before: null });
  });

  it('is a step by key: up, down, into the one above, and out', () => {
    expect(stepPlace(tree(), '4', 'up')).toEqual({ into: '1', before: '2' });
    expect(stepPlace(tree(), '2', 'down')).toEqual({ into: '1', before: null });
    expect(stepPlace(tree(), '4', 'in')).toEqual({ into: '2', before: null });
    expect(stepPlace(tree(), '3', 'out')).toEqual({ into: '1', before: '4' });
    for (const step of ['up', 'in', 'out'] as const) expect(stepPlace(tree(), '1', step)).toBeUndefined();
    expect(stepPlace(tree(), '5', 'down')).toBeUndefined();
  });

  it('takes several together past the next that stays', () => {
    const both = new Set(['1', '5']);
    expect(stepPlace(tree(), '5', 'up', both))
      .withContext('nothing stands before them')
      .toBeUndefined();
    expect(stepPlace(tree(), '2', 'out', new Set(['2', '4']))).toEqual({ into: null, before: '5' });
    const three = new Arrangement([...categories, { id: '6', parent: null, name: 'Pens', place: 5 }], []);
    expect(stepPlace(three, '5', 'up', new Set(['5', '6']))).toEqual({ into: null, before: '1' });
    expect(stepPlace(three, '1', 'down', both)).toEqual({ into: null, before: null });
  });
});
