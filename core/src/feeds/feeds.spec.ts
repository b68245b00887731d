import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { currencyOf } from '../money/currency.ts';
import { money } from '../money/money.ts';
import { priceAt } from '../prices/priceAt.ts';
import { type FeedItem } from './item.ts';
import { PRODUCT_FEED, REFUSING_GAPS } from './profile.ts';
import { cutAtWord, RSS_TAIL, rssHead, rssWriter, xmlText } from './rss.ts';

const GBP = currencyOf('GBP');
const MOMENT = Date.parse('2026-11-24T12:00Z');
const sale = {
  name: 'Advent',
  price: money(850n),
  start: Date.parse('2026-11-20T00:00Z'),
  end: Date.parse('2026-12-24T00:00Z'),
};
const item: FeedItem = {
  skuId: '1',
  code: 'IG-0001-BLU',
  productId: '7',
  variants: 2,
  name: 'Larkspur Iron Gall Ink',
  description: 'A permanent ink that darkens as it dries.',
  link: 'http://127.0.0.1:4301/products/larkspur?sku=IG-0001-BLU',
  imageLink: 'http://127.0.0.1:4301/pictures/abc.webp',
  brand: 'Harrow & Pine',
  gtin: '9506000134352',
  colour: 'Blue',
  size: '50 ml',
  categoryPath: 'Ink > Bottled > Iron gall',
  weightGrams: 180,
  price: priceAt(money(1000n), [sale], MOMENT),
  availability: { seen: true, state: 'in stock' },
};
const settings = {
  title: 'Tarn & Teasel',
  link: 'http://127.0.0.1:4301',
  prefix: 'e',
  namespace: 'https://engine.example/1',
};

/** What an independent parser reads of one item. */
function readBack(one: FeedItem): Record<string, string> {
  const xml = rssHead(settings) + rssWriter('e', GBP)(one) + RSS_TAIL;
  const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, trimValues: false });
  return (parser.parse(xml) as { rss: { channel: { item: Record<string, string> } } }).rss.channel.item;
}

describe('a feed item', () => {
  it('has the usual fields of shopping feeds (common practice)', () => {
    expect(readBack(item)).toEqual({
      'e:id': 'IG-0001-BLU',
      title: 'Larkspur Iron Gall Ink, Blue, 50 ml',
      description: item.description,
      link: item.link,
      'e:image_link': item.imageLink!,
      'e:availability': 'in_stock',
      'e:price': '10.00 GBP',
      'e:sale_price': '8.50 GBP',
      'e:sale_price_effective_date': '2026-11-20T00:00:00Z/2026-12-24T00:00:00Z',
      'e:brand': 'Harrow & Pine',
      'e:gtin': '9506000134352',
      'e:condition': 'new',
      'e:item_group_id': '7',
      'e:color': 'Blue',
      'e:size': '50 ml',
      'e:product_type': 'Ink > Bottled > Iron gall',
      'e:shipping_weight': '180 g',
    });
  });

  it('has its description in one line', () => {
    const said = (description: string) => readBack({ ...item, description })['description'];
    expect(said('  One \n\n two\tthree  four five\u00a0six\n')).toBe('One two three four five six');
  });

  it('says of each item what is its own, whatever the one before said', () => {
    const write = rssWriter('e', GBP);
    const next = { ...item, code: 'IG-0001-GRN', colour: 'Green & grey', weightGrams: null };
    const alone = rssWriter('e', GBP)(next);
    write(item);
    expect(write(next)).toBe(alone);
    expect(write(item)).toBe(rssWriter('e', GBP)(item));
    const other = { ...item, productId: '8', brand: 'Fell Paper', categoryPath: null };
    expect(write(other)).toBe(rssWriter('e', GBP)(other));
  });

  it('leaves out what it has not', () => {
    const bare = { ...item, colour: null, size: null, weightGrams: null, categoryPath: null, variants: 1 };
    const fields = readBack({ ...bare, price: priceAt(money(1000n), [], MOMENT) });
    for (const absent of [
      'e:color',
      'e:size',
      'e:shipping_weight',
      'e:product_type',
      'e:item_group_id',
      'e:sale_price',
    ])
      expect(fields[absent]).withContext(absent).toBeUndefined();
    expect(fields['title']).toBe('Larkspur Iron Gall Ink');
  });

  it('does not say an option twice that the name has already', () => {
    expect(readBack({ ...item, name: 'Blue Ink', size: null })['title']).toBe('Blue Ink');
  });

  it('says sold out and back-order in the words of feeds', () => {
    const available = (availability: FeedItem['availability']) => readBack({ ...item, availability })['e:availability'];
    expect(available({ seen: true, state: 'sold out', why: 'no stock' })).toBe('out_of_stock');
    expect(available({ seen: true, state: 'back-order' })).toBe('backorder');
  });

  it('survives any text, as an independent parser reads it (XML 1.0)', () => {
    // XML cannot hold control characters; a description stands in one line.
    const fit = (text: string) =>
      text
        .replace(/\s+/g, ' ')
        .trim()
        .replace(/[\u0000-\u0008\u000e-\u001f\ufffe\uffff]/g, '');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', minLength: 1, maxLength: 40 }), (text) => {
        const wanted = fit(text);
        fc.pre(wanted.trim() !== '');
        expect(readBack({ ...item, description: text })['description']).toBe(wanted);
      }),
    );
  });

  it('cuts what is too long at a word, in whole characters', () => {
    expect(cutAtWord('one two three', 9)).toBe('one two');
    expect(cutAtWord('short', 9)).toBe('short');
    expect(cutAtWord('x'.repeat(20), 9)).toBe('x'.repeat(9));
    expect(cutAtWord('🖋🖋🖋', 2)).toBe('🖋🖋');
    expect(readBack({ ...item, name: 'long '.repeat(60).trim() })['title']!.length).toBeLessThanOrEqual(150);
  });

  it('escapes all five marks', () => {
    expect(xmlText(`<a href="x">'&'</a>`)).toBe('&lt;a href=&quot;x&quot;&gt;&apos;&amp;&apos;&lt;/a&gt;');
  });
});

describe('the profile of a feed', () => {
  it('names the gaps for which an SKU is refused', () => {
    expect(new Set(REFUSING_GAPS)).toEqual(
      new Set(['no description', 'no picture', 'no price', 'no brand', 'no GTIN', 'wrong GTIN']),
    );
  });

  it('has each field once', () => {
    const names = PRODUCT_FEED.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
  });
});
