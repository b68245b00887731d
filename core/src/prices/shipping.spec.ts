import { money } from '../money/money.ts';
import { readingOf, testAsking } from '../testing/index.ts';
import { showValue, typeOf } from '../values/values.ts';
import { shippingRatesOf } from '../values/shippingRates.ts';
import { type ShippedLine, shippingOf } from './shipping.ts';

const base = testAsking();
const asking = {
  ...base,
  names: {
    ...base.names,
    lists: new Map([...base.names.lists, ['countryGroup', base.names.lists.get('sale')!] as const]),
  },
};
const field = asking.register.at('shippingProfile', 'rates')!;
const { read, refusal } = readingOf(field, asking);
let ids = 0;
const profile = (rates: string) => ({ id: String(++ids), name: `profile ${ids}`, rates: shippingRatesOf(read(rates)) });
const line = (more: Partial<ShippedLine>): ShippedLine => ({
  pieces: 1,
  weight: 100,
  alone: false,
  none: false,
  profile: null,
  ...more,
});
const charge = (lines: readonly ShippedLine[], country = 'IE', goods = 1_000n) => {
  const answer = shippingOf(lines, country, ['1'], money(goods));
  return 'problem' in answer ? answer.problem : answer.charge;
};

describe('what shipping costs', () => {
  it('is the first piece and each further one: 5.00 and 2.00, two cost 7.00 (common practice)', () => {
    const ireland = profile('Ireland: 5.00; each further 2.00');
    expect(charge([line({ profile: ireland })])).toBe(money(500n));
    expect(charge([line({ profile: ireland, pieces: 2 })])).toBe(money(700n));
    expect(charge([line({ profile: ireland, pieces: 1 }), line({ profile: ireland, pieces: 2 })])).toBe(money(900n));
    expect(charge([line({ profile: profile('Ireland: 5.00'), pieces: 3 })])).toBe(money(1500n));
  });

  it('is that of the country, or else of its group, or else of the rest of the world; no rate is never free', () => {
    const all = profile('rest of the world: 9.00 | Autumn ink: 7.00 | Ireland: 5.00');
    expect(charge([line({ profile: all })])).toBe(money(500n));
    expect(charge([line({ profile: all })], 'FR')).toBe(money(700n));
    const answer = shippingOf([line({ profile: all })], 'FR', [], money(1_000n));
    expect('charge' in answer && answer.charge).toBe(money(900n));
    expect(charge([line({ profile: profile('Ireland: 5.00') })], 'FR')).toBe('not shipped there');
    expect(charge([line({})])).toBe('no profile');
  });

  it('goes by the weight of all its pieces, where the rates do', () => {
    const bands = profile(
      'Ireland up to 10 kg: 8.00; each further 0.00 | Ireland up to 500 g: 3.00; each further 1.00',
    );
    expect(charge([line({ profile: bands, pieces: 5 })])).toBe(money(700n));
    expect(charge([line({ profile: bands, pieces: 6 })])).toBe(money(800n));
    expect(charge([line({ profile: bands, pieces: 101 })])).toBe('too heavy');
    expect(charge([line({ profile: bands, weight: null })])).toBe('no weight');
    const heavier = profile('Ireland up to 1 kg: 3.00; each further 1.00 | Ireland: 9.00');
    expect(charge([line({ profile: heavier, weight: 1_001 })])).toBe(money(900n));
    expect(charge([line({ profile: profile('Ireland: 5.00'), weight: null })])).toBe(money(500n));
  });

  it('is nothing from a sum of goods on, and for what needs no shipping', () => {
    const free = profile('Ireland: 5.00; free from 60');
    expect(charge([line({ profile: free })], 'IE', 5_999n)).toBe(money(500n));
    expect(charge([line({ profile: free })], 'IE', 6_000n)).toBe(money(0n));
    expect(charge([line({ none: true })])).toBe(money(0n));
  });

  it('of several profiles has one first piece, the dearest; what ships alone is a parcel each', () => {
    const letter = profile('Ireland: 2.00; each further 0.50');
    const parcel = profile('Ireland: 5.00; each further 1.00');
    expect(charge([line({ profile: letter, pieces: 2 }), line({ profile: parcel, pieces: 2 })])).toBe(money(700n));
    expect(charge([line({ profile: parcel, pieces: 2, alone: true }), line({ profile: letter })])).toBe(money(1200n));
  });
});

describe('the rates of a shipping profile', () => {
  it('are read as they are shown, and as a table of them is written', () => {
    for (const text of [
      'Ireland: 5.00; each further 2.00',
      'Autumn ink up to 2000 g: 9.00; free from 60.00 | rest of the world: 18.00; each further 0.00',
      'Caribbean Netherlands: 5.00',
    ]) {
      expect(showValue(field, read(text), asking)).toBe(text);
      const table = typeOf(field).table!;
      expect(read(table.textOf(table.rowsOf(text)))).toBe(read(text));
    }
    expect(showValue(field, read('ie: free'), asking)).toBe('Ireland: 0.00');
    expect(showValue(field, read('elsewhere up to 2 kg: £1,250.00'), asking)).toBe(
      'rest of the world up to 2000 g: 1250.00',
    );
  });

  it('that cannot be are refused', () => {
    expect(refusal('Atlantis: 5.00')).toBe('destination-unknown');
    expect(refusal('Ireland: five')).toBe('shipping-unreadable');
    expect(refusal('Ireland: -5.00')).toBe('shipping-unreadable');
    expect(refusal('Ireland')).toBe('shipping-unreadable');
    expect(refusal('Ireland up to much: 5.00')).toBe('count-unreadable');
    expect(refusal('Ireland: 5.00 | IE: 6.00')).toBe('rate-twice');
  });
});
