import { register } from '../testing/shop.ts';
import { type Desk, deskColumns } from './columns.ts';
import { keepLayout, keptLayout as keptIn, moved } from './layout.ts';

const keptLayout = (desk: Desk) => keptIn(desk, register);
const own = (desk: Desk) => deskColumns(desk, register);

describe('the layout of a desk', () => {
  beforeEach(() => localStorage.clear());
  afterEach(() => localStorage.clear());

  it('is the desk’s own until one is kept, and each desk has its own', () => {
    expect(keptLayout('stock')).toEqual({ keys: own('stock'), widths: {} });
    keepLayout('stock', { keys: ['code', 'stock'], widths: { code: 200 } });
    expect(keptLayout('stock')).toEqual({ keys: ['code', 'stock'], widths: { code: 200 } });
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

  it('has a column moved to the left or to the right', () => {
    expect(moved(['name', 'code', 'price', 'stock'], 3, 1)).toEqual(['name', 'stock', 'code', 'price']);
    expect(moved(['name', 'code', 'price', 'stock'], 0, 2)).toEqual(['code', 'price', 'name', 'stock']);
    expect(moved(['name', 'code'], 1, 1)).toEqual(['name', 'code']);
  });
});
