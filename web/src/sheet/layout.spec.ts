import { DESK_COLUMNS } from './columns.ts';
import { keepLayout, keptLayout, moved } from './layout.ts';

describe('the layout of a desk', () => {
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  it('is the desk’s own until one is kept, and each desk has its own', () => {
    expect(keptLayout('stock')).toEqual({ keys: DESK_COLUMNS.stock, widths: {} });
    keepLayout('stock', { keys: ['code', 'stock'], widths: { code: 200 } });
    expect(keptLayout('stock')).toEqual({ keys: ['code', 'stock'], widths: { code: 200 } });
    expect(keptLayout('range').keys).toEqual(DESK_COLUMNS.range);
  });

  it('is the desk’s own again when what was kept does not read, or names a field that there is not', () => {
    for (const broken of ['{', '[]', 'null', '{"keys":["code","colour of money"]}', '{"keys":[]}']) {
      localStorage.setItem('ivory.layout.range', broken);
      expect(keptLayout('range').keys).withContext(broken).toEqual(DESK_COLUMNS.range);
    }
  });

  it('has a column moved to the left or to the right', () => {
    expect(moved(['name', 'code', 'price', 'stock'], 3, 1)).toEqual(['name', 'stock', 'code', 'price']);
    expect(moved(['name', 'code', 'price', 'stock'], 0, 2)).toEqual(['code', 'price', 'name', 'stock']);
    expect(moved(['name', 'code'], 1, 1)).toEqual(['name', 'code']);
  });
});
