import { register } from '../../testing/shop.ts';
import { type Desk } from '@ivory/contract';
import { deskColumns } from './columns.ts';
import { keepLayout, keptLayout as keptIn, type Layout, moved, readLayout, withoutColumn } from './layout.ts';

const keptLayout = (desk: Desk) => keptIn(desk, register);
const plain = (layout: Partial<Layout>): Layout => ({
  keys: [],
  widths: {},
  locked: [],
  staying: 0,
  wraps: false,
  ...layout,
});
const own = (desk: Desk) => deskColumns(desk, register);

describe('the layout of a desk', () => {
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  it('is the desk’s own until one is kept, and each desk has its own', () => {
    expect(keptLayout('stock')).toEqual(plain({ keys: own('stock') }));
    keepLayout(
      'stock',
      plain({ keys: ['code', 'stock'], widths: { code: 200 }, locked: ['stock'], staying: 1, wraps: true }),
    );
    expect(keptLayout('stock')).toEqual({
      keys: ['code', 'stock'],
      widths: { code: 200 },
      locked: ['stock'],
      staying: 1,
      wraps: true,
    });
    expect(keptLayout('range').keys).toEqual(own('range'));
  });

  it('has the options of the shop, and leaves out a field that was deleted since', () => {
    expect(own('range').slice(1, 5)).toEqual(['code', 'own:1', 'own:2', 'price']);
    localStorage.setItem('ivory.layout.range', '{"keys":["code","own:99"]}');
    expect(keptLayout('range').keys).toEqual(['code']);
  });

  it('is the desk’s own again when what was kept does not read, or names no field that there is', () => {
    for (const broken of ['{', '[]', 'null', '{"keys":["colour of money"]}', '{"keys":[]}']) {
      localStorage.setItem('ivory.layout.range', broken);
      expect(keptLayout('range').keys).withContext(broken).toEqual(own('range'));
    }
  });

  it('that was kept is without fields that were deleted since', () => {
    const kept = plain({ keys: ['brand', 'own:99'], locked: ['own:99'] });
    expect(readLayout(kept, register)).toEqual(plain({ keys: ['brand'] }));
    expect(readLayout(plain({ keys: ['own:99'] }), register)).toBeUndefined();
  });

  it('always leaves a column that scrolls, and keeps one less in sight where one of them is taken out', () => {
    keepLayout('stock', plain({ keys: ['code', 'stock'], staying: 5 }));
    expect(keptLayout('stock').staying).toBe(1);
    const three = plain({ keys: ['name', 'code', 'stock'], staying: 2 });
    expect(withoutColumn(three, 'code')).toEqual(plain({ keys: ['name', 'stock'], staying: 1 }));
    expect(withoutColumn(three, 'stock')).toEqual(plain({ keys: ['name', 'code'], staying: 2 }));
    expect(withoutColumn(three, 'price')).toBe(three);
  });

  it('has a column moved to the left or to the right', () => {
    expect(moved(['name', 'code', 'price', 'stock'], 3, 1)).toEqual(['name', 'stock', 'code', 'price']);
    expect(moved(['name', 'code', 'price', 'stock'], 0, 2)).toEqual(['code', 'price', 'name', 'stock']);
    expect(moved(['name', 'code'], 1, 1)).toEqual(['name', 'code']);
  });
});
