import { STAGES } from './stages.ts';
import { availability, type Stocked } from './availability.ts';

const goods: Stocked = { stage: 'On sale', stock: 3, whenOut: 'hide it', hasPrice: true };

describe('availability', () => {
  it('is in stock while there is stock, whatever happens afterwards', () => {
    expect(availability(goods)).toEqual({ seen: true, state: 'in stock' });
  });

  it('follows what the product says for when it runs out, also below nothing', () => {
    for (const stock of [0, -2]) {
      expect(availability({ ...goods, stock })).toEqual({ seen: false, state: 'hidden', why: 'no stock' });
      expect(availability({ ...goods, stock, whenOut: 'show it as sold out' }).state).toBe('sold out');
      expect(availability({ ...goods, stock, whenOut: 'take back-orders' })).toEqual({
        seen: true,
        state: 'back-order',
      });
    }
  });

  it('is out of stock while it has not arrived, whatever the books say, and says so', () => {
    const coming = { ...goods, hasArrived: false };
    expect(availability(coming)).toEqual({ seen: false, state: 'hidden', why: 'not arrived' });
    expect(availability({ ...coming, whenOut: 'show it as sold out' })).toEqual({
      seen: true,
      state: 'sold out',
      why: 'not arrived',
    });
    expect(availability({ ...coming, whenOut: 'take back-orders' }).state).toBe('back-order');
  });

  it('hides what is not on sale or has no price, and says which', () => {
    for (const stage of STAGES.filter((stage) => stage !== 'On sale')) {
      expect(availability({ ...goods, stage })).toEqual({ seen: false, state: 'hidden', why: 'stage' });
    }
    expect(availability({ ...goods, hasPrice: false })).toEqual({ seen: false, state: 'hidden', why: 'no price' });
  });
});
