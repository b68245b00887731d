import {
  addressKey,
  type FieldKey,
  type Line,
  type Moment,
  momentOf,
  type Money,
  money,
  ownKey,
  percent,
  priceAt,
  raiseByPercent,
  VALUE_TYPES,
} from '@ivory/core';
import { type BodyOf } from './calls/call.ts';
import { type calls } from './index.ts';

/** What the compiler must refuse: each line below an expectation is an error, or the expectation is one. */
describe('types', () => {
  it('tell money, percentages, moments and numbers from one another', () => {
    const price: Money = money(100n);
    // @ts-expect-error an amount is no bare number of pence
    const bare: Money = 100n;
    // @ts-expect-error a moment is no bare number of milliseconds
    const now: Moment = 0;
    // @ts-expect-error a percentage is no amount
    const share: Money = percent(10n);
    // @ts-expect-error a price is raised by a percentage, not by an amount
    raiseByPercent(price, money(10n));
    // @ts-expect-error a price is asked for at a moment
    priceAt(price, [], 0);
    expect([bare, now, share].length).toBe(3);
    expect(priceAt(price, [], momentOf(0)).winner!.price).toBe(price);
  });

  it('want the whole address of a value', () => {
    const line: Line = { kind: 'brand', id: '42', field: 'name', scope: '0', before: 'A', after: 'B' };
    // @ts-expect-error the field without its kind says nothing
    expect(addressKey({ id: '42', field: 'name', scope: '0' })).not.toBe(addressKey(line));
    // @ts-expect-error there is no such kind
    const strange: Line = { ...line, kind: 'maker' };
    // @ts-expect-error there is no such field
    const unknown: FieldKey = 'colour';
    const own: FieldKey = ownKey('7');
    expect([strange.kind, unknown, own]).toEqual(['maker', 'colour', 'own:7'] as never);
  });

  it('have an entry for each value type', () => {
    // @ts-expect-error there is no such type
    expect(VALUE_TYPES.colour).toBeUndefined();
    expect(VALUE_TYPES.money.isNumber).toBeTrue();
  });

  it('hold the bodies of calls to the contract', () => {
    type Edits = BodyOf<typeof calls.editCells>;
    const right: Edits = {
      make: false,
      partly: false,
      question: '',
      title: '',
      edits: [{ kind: 'sku', id: '1', field: 'price', text: '1' }],
    };
    // @ts-expect-error a value is addressed by kind and id
    const wrong: Edits = { title: '', edits: [{ sku: '1', field: 'price', text: '1' }] };
    expect(right).not.toEqual(wrong);
  });
});
