import { testAsking } from '../testing/index.ts';
import { GoodsEffect } from './goodsEffect.ts';

const asking = testAsking({ brand: { 1: 'Larkspur' }, categories: [{ id: '1', parent: null, name: 'Ink', place: 0 }] });
const whole = {
  ...{ stage: 'On sale', whenOut: 'hide it', stock: '10', cost: '250', price: '999', brand: '1', category: '1' },
  ...{
    gallery: '7',
    weight: '100',
    gtin: '4006381333931',
    description: 'x',
    name: 'Ink',
    code: 'A',
    'own:3': '600000',
  },
};

describe('what a change does to goods', () => {
  it('counts stock at cost, and nothing where none is at hand or the cost is not known', () => {
    const effect = new GoodsEffect(asking);
    effect.add(whole, { ...whole, cost: '300' });
    effect.add({ ...whole, stock: '-2' }, { ...whole, stock: '3' });
    effect.add({ ...whole, cost: null }, { ...whole, cost: null });
    expect([effect.stockBefore, effect.stockAfter]).toEqual([2500n, 3000n + 750n]);
  });

  it('tells the gaps that change, the largest change first', () => {
    const effect = new GoodsEffect(asking);
    const bare = { ...whole, gallery: null, weight: null };
    effect.add(bare, whole);
    effect.add(bare, { ...whole, weight: null });
    effect.add({ ...whole, gtin: null }, { ...whole, gtin: null });
    expect(effect.gaps).toEqual([
      { gap: 'no picture', before: 2, after: 0 },
      { gap: 'no weight', before: 2, after: 1 },
    ]);
  });

  it('tells how many an outlet would take: offered, and without what it refuses', () => {
    const effect = new GoodsEffect(asking);
    effect.add({ ...whole, gallery: null }, whole);
    effect.add(whole, { ...whole, stage: 'Resting' });
    effect.add(whole, { ...whole, stock: '0' });
    expect(effect.ready).toEqual({ before: 2, after: 1 });
  });

  it('reads what it needs and nothing that is worked out from it', () => {
    const { fields } = new GoodsEffect(asking);
    expect(fields).toContain('gallery');
    expect(fields).toContain('own:3');
    expect(fields).not.toContain('gap');
  });
});
