import { Decimal } from 'decimal.js';
import fc from 'fast-check';
import { type Row } from '../question/row.ts';
import { ruleOn } from '../testing/ruleOn.ts';
import { testAsking } from '../testing/testAsking.ts';

const asking = testAsking({
  brand: { '1': 'Larkspur', '2': "Harrow & Pine's" },
  tag: { '1': 'Gift', '2': 'New', '3': 'Winter' },
  categories: [
    { id: '1', name: 'Ink', parent: null, place: 1 },
    { id: '2', name: 'Paper', parent: null, place: 1 },
  ],
});

/** What a step makes of a value: what comes out, `stays`, or why not. */
function made(step: string, row: Row): string | null {
  const outcome = ruleOn(step, row, asking);
  if (outcome.kind === 'changes') return outcome.changes[0]!.after;
  return outcome.kind === 'failed' ? outcome.why : outcome.kind;
}

describe('steps on amounts', () => {
  it('raise and lower by a share or an amount, which are never taken for one another', () => {
    expect(made('raise regular price by 10 %', { price: '1200' })).toBe('1320');
    expect(made('raise regular price by 20', { price: '1200' })).toBe('3200');
    expect(made('lower regular price by 1.50', { price: '1200' })).toBe('1050');
    expect(made('lower regular price by 12.01', { price: '1200' })).toBe('below nothing');
    expect(made('lower regular price by 110 %', { price: '1200' })).toBe('below nothing');
    expect(made('raise regular price by 10 %', { price: null })).toBe('nothing there');
    expect(made('raise regular price by 1', { price: '100000000000' })).toBe('above the largest');
    expect(made('raise stock by 3', { stock: '4' })).toBe('7');
    expect(made('lower weight by 10 %', { weight: '250' })).toBe('225');
    expect(made('raise nib width by 0.1', {})).toBe('nothing there');
    expect(made('raise nib width by 0.1', { 'own:3': '500000' })).toBe('600000');
  });

  it('agree with decimal.js on shares', () => {
    fc.assert(
      fc.property(fc.bigInt(0n, 10_000_000n), fc.integer({ min: 0, max: 9_999_999 }), (price, share) => {
        const written = (share / 10_000).toFixed(4);
        const oracle = new Decimal(price.toString()).times(new Decimal(written).div(100).plus(1));
        const wanted = oracle.toDecimalPlaces(0, Decimal.ROUND_HALF_UP).toFixed();
        const found = made(`raise regular price by ${written} %`, { price: price.toString() });
        expect(found === 'stays' ? price.toString() : found).toBe(wanted);
      }),
    );
  });

  it('work out from another field times a factor, plus an amount', () => {
    expect(made('work out regular price from cost times 2.4 plus 0.50', { cost: '500', price: '1' })).toBe('1250');
    expect(made('work out regular price from cost times 2', { cost: '333', price: null })).toBe('666');
    expect(made('work out regular price from cost times 2 plus -1', { cost: '40', price: '5' })).toBe('below nothing');
    expect(made('work out regular price from cost times 2', { cost: null, price: '5' })).toBe('source empty');
    expect(made('work out weight from stock times 12.5', { stock: '3', weight: '1' })).toBe('38');
  });

  it('work out for a margin and a markup', () => {
    // Handbook values: cost 50, price 80 is a margin of 37.5 % and a markup of 60 %.
    expect(made('work out regular price from cost for a margin of 37.5 %', { cost: '5000', taxRate: '0' })).toBe(
      '8000',
    );
    expect(made('work out regular price from cost for a markup of 60 %', { cost: '5000', taxRate: '0' })).toBe('8000');
    // A markup of 66.67 % is a margin of 40 %; 119.00 with VAT of 19 % is 100.00 net.
    expect(made('work out regular price from cost for a margin of 40 %', { cost: '6000', taxRate: '1900' })).toBe(
      '11900',
    );
    expect(made('work out regular price from cost for a markup of 50 %', { cost: null })).toBe('source empty');
  });

  it('round to endings and to steps, a tie up', () => {
    // The worked cases of the trade: 12.34 to the nearest .99 is 11.99, 12.49 lies half way and goes up.
    expect(made('round regular price to .99', { price: '1234' })).toBe('1199');
    expect(made('round regular price nearest to .99', { price: '1249' })).toBe('1299');
    expect(made('round regular price up to .95', { price: '1196' })).toBe('1295');
    expect(made('round regular price nearest to steps of 0.05', { price: '1233' })).toBe('1235');
    expect(made('round regular price down to steps of 0.05', { price: '1234' })).toBe('1230');
    expect(made('round weight up to steps of 10', { weight: '101' })).toBe('110');
  });

  it('keep between, copy, set and clear', () => {
    expect(made('keep regular price between 5 and 10', { price: '400' })).toBe('500');
    expect(made('keep regular price between 10 and 5', { price: '1100' })).toBe('1000');
    expect(made('keep regular price between 5 and 10', { price: '700' })).toBe('stays');
    expect(made('copy cost into regular price', { cost: '350', price: '1' })).toBe('350');
    expect(made('set regular price to 9.99', { price: null })).toBe('999');
    expect(made('clear GTIN', { gtin: '73513537' })).toBeNull();
    expect(() => made('clear regular price', { price: '1' })).toThrowError(/step-unreadable/);
  });

  it('move dates by days', () => {
    expect(made('move batch date by 7 days', { 'own:7': '20000' })).toBe('20007');
    expect(made('move batch date by -30 days', { 'own:7': '20000' })).toBe('19970');
    expect(made('move batch date by 1 days', { 'own:7': '2932896' })).toBe('out of range');
  });
});

describe('steps on texts', () => {
  const name = (text: string, more: Row = {}): Row => ({ name: text, ...more });

  it('replace and remove in any spelling, and tidy up', () => {
    expect(made('replace "inkwell" by "ink bottle" in name', name('Blue INKWELL, inkwell'))).toBe(
      'Blue ink bottle, ink bottle',
    );
    expect(made('remove "new" from name as whole words', name('NEW - Newly pressed paper'))).toBe(
      'Newly pressed paper',
    );
    expect(made('remove "nib" from name', name('Nib'))).toBe('comes out empty');
    expect(made('replace "a" by "b" in name exactly as written', name('A a'))).toBe('A b');
    expect(made('remove "x" from name', name('Ink'))).toBe('stays');
  });

  it('remove what another field says, however it is spelt', () => {
    expect(made('remove the brand from name', name('LARKSPUR Iron Gall', { brand: '1' }))).toBe('Iron Gall');
    expect(made('remove the brand from name', name('Harrow & Pine’s Ink – Blue', { brand: '2' }))).toBe('Ink – Blue');
    expect(made('remove the brand from name', name('Ink by harrow and pines | 50 ml', { brand: '2' }))).toBe(
      'Ink | 50 ml',
    );
    expect(made('remove the brand from name', name('Larkspurs', { brand: '1' }))).toBe('stays');
    expect(made('remove the brand from name', name('Ink'))).toBe('stays');
  });

  it('put before and behind, once', () => {
    expect(made('put "Set: " before name', name('Three nibs'))).toBe('Set: Three nibs');
    expect(made('put "Set: " before name', name('set: Three nibs'))).toBe('stays');
    expect(made('put " (3)" after name', name('Nibs'))).toBe('Nibs (3)');
  });

  it('write from a template, and skip what would be empty', () => {
    expect(made('write name from "{brand} {finish|\\"plain\\"} pen"', name('x', { brand: '1' }))).toBe(
      'Larkspur plain pen',
    );
    expect(made('write finish from "{brand}"', {})).toBe('comes out empty');
  });

  it('change letters, leaving what is written so on purpose', () => {
    expect(made('change name to title case', name('the book of iron and A5 McEwan paper'))).toBe(
      'The Book of Iron and A5 McEwan Paper',
    );
    expect(made('change name to sentence case', name('IRON GALL INK A5'))).toBe('Iron gall ink A5');
    expect(made('change name to capitals', name('straße'))).toBe('STRASSE');
    expect(made('change name to small letters', name('Émile'))).toBe('émile');
  });

  it('tidy, and cut at a word', () => {
    expect(made('tidy name', name('Ink  ( ) - Blue -'))).toBe('Ink - Blue');
    expect(made('cut name at 12 characters', name('Iron gall ink, blue'))).toBe('Iron gall');
    expect(made('cut name at 13 characters', name('Iron gall ink, blue'))).toBe('Iron gall');
    expect(made('cut name at 14 characters', name('Iron gall ink, blue'))).toBe('Iron gall ink');
    expect(made('cut name at 4 characters', name('Blotting'))).toBe('Blot');
  });

  it('replace patterns in a time that grows with the text alone', () => {
    expect(made('replace pattern "(\\\\d+) ?ml" by "$1 millilitres" in name', name('Ink 50ML'))).toBe(
      'Ink 50 millilitres',
    );
    // It takes others longer than the universe has been there.
    expect(made('replace pattern "(a+)+$" by "" in name', name(`${'a'.repeat(150)}!`))).toBe('stays');
    expect(() => made('replace pattern "(" by "" in name', name('x'))).toThrowError();
  });

  it('change the words of descriptions and not their tags, and each text of a list', () => {
    const html = '<p>Strong <strong>strong</strong> ink</p>';
    expect(made('replace "strong" by "fine" in description', { description: html })).toBe(
      '<p>fine <strong>fine</strong> ink</p>',
    );
    expect(made('remove "very" from selling points', { points: 'very fine\nvery' })).toBe('fine');
  });
});

describe('steps on several values', () => {
  const tags = (value: string | null): Row => ({ tags: value });

  it('add, take, move, keep only and replace all are different verbs', () => {
    expect(made('add Gift to tags', tags('2'))).toBe('1|2');
    expect(made('add Gift to tags', tags('1|2'))).toBe('stays');
    expect(made('take Gift, New from tags', tags('1|2'))).toBeNull();
    expect(made('move New to Gift in tags', tags('2|3'))).toBe('1|3');
    expect(made('move New to Gift in tags', tags('3'))).toBe('stays');
    expect(made('keep only Gift in tags', tags('1|2|3'))).toBe('1');
    expect(made('set tags to Winter', tags('1'))).toBe('3');
  });

  it('keep the order of categories, of which the first is the main one', () => {
    expect(made('add Paper to category', { category: '1' })).toBe('1|2');
    expect(made('put Paper first in category', { category: '1|2' })).toBe('2|1');
    expect(made('put Paper first in category', { category: '1' })).toBe('stays');
  });
});

describe('conditions and tables of steps', () => {
  it('a step with a condition is done where it holds', () => {
    expect(made('raise regular price by 1 where brand is Larkspur', { price: '100', brand: '1' })).toBe('200');
    expect(made('raise regular price by 1 where brand is Larkspur', { price: '100', brand: '2' })).toBe('stays');
    expect(made('put "x where y" before name where regular price < 5', { name: 'Ink', price: '100' })).toBe(
      'x where yInk',
    );
  });
});
