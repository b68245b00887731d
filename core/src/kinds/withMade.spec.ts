import { testAsking } from '../testing/testAsking.ts';
import { type Made, withMade } from './withMade.ts';

const made = (one: Partial<Made> & Pick<Made, 'kind' | 'id' | 'name'>): Made => ({
  of: null,
  type: null,
  unit: null,
  ...one,
});

const shop = testAsking();

describe('the shop with what a proof makes', () => {
  it('is the shop itself where it makes nothing', () => {
    expect(withMade(shop, [])).toBe(shop);
  });

  it('knows names of things, and keeps those that it has', () => {
    const { names } = withMade(shop, [made({ kind: 'brand', id: '900', name: 'Varnholt', of: 'shop' })]);
    const list = names.lists.get('brand')!;
    expect(list.byId.get('900')).toBe('Varnholt');
    expect(list.byId.size).toBe((shop.names.lists.get('brand')?.byId.size ?? 0) + 1);
  });

  it('has categories below those that it has, and below one another', () => {
    const { names } = withMade(shop, [
      made({ kind: 'category', id: '900', name: 'Wax', of: '' }),
      made({ kind: 'category', id: '901', name: 'Seals', of: '900' }),
    ]);
    expect(names.categories.path('901')).toBe('Wax > Seals');
  });

  it('has a field for each new option, attribute and sale, whose values can be read', () => {
    const { register, names } = withMade(shop, [
      made({ kind: 'option', id: '900', name: 'nib cut', of: 'option' }),
      made({ kind: 'choice', id: '901', name: 'Oblique', of: '900' }),
      made({ kind: 'attribute', id: '902', name: 'sheet size', of: 'attribute', type: 'number', unit: 'mm' }),
      made({ kind: 'sale', id: '903', name: 'Term', of: 'shop' }),
    ]);
    expect(register.find('own:900')).toEqual(
      jasmine.objectContaining({ kind: 'sku', name: 'nib cut', store: { in: 'proposed' } }),
    );
    expect(names.lists.get('choice 900')?.find('oblique')).toBe('901');
    expect(register.find('own:902')).toEqual(jasmine.objectContaining({ kind: 'product', type: 'number', unit: 'mm' }));
    expect(register.find('salePrice@903')?.name).toContain('Term');
  });

  it('leaves a field as it is that only has another name', () => {
    const [own] = shop.register.goods.flatMap((field) => (field.own ? [field] : []));
    const { register } = withMade(shop, [made({ kind: 'option', id: own!.own!.id, name: 'other' })]);
    expect(register.find(own!.key)).toBe(own);
  });
});
