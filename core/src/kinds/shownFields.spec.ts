import { testAsking } from '../testing/index.ts';
import { slipFields, variantFields } from './shownFields.ts';

describe('the fields that pages show', () => {
  const { register } = testAsking();

  it('stand in the slip in their places, each in one of its own', () => {
    const fields = slipFields(register);
    expect(fields.map(({ inSlip }) => inSlip)).toEqual(fields.map((_, i) => i + 1));
    expect(fields.slice(0, 5).map(({ key }) => key)).toEqual(['name', 'code', 'price', 'cost', 'margin']);
  });

  it('of variants are those that each SKU has of its own, one that is added later among them', () => {
    const keys = variantFields(register).map(({ key }) => key as string);
    expect(keys.slice(0, 4)).toEqual(['price', 'cost', 'stock', 'weight']);
    expect(
      keys.filter((key) => ['code', 'name', 'margin', 'setLess', 'own:1'].includes(key) || key.includes('@')),
    ).toEqual([]);
    const later = { ...register.get('weight'), key: 'shelfLife' as 'weight' };
    expect(variantFields({ goods: [...register.goods, later] }).at(-1)).toBe(later);
  });
});
