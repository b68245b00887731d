import { momentOf } from '../moments/moment.ts';
import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { currencyOf } from '../money/currency.ts';
import { money } from '../money/money.ts';
import { priceAt } from '../prices/priceAt.ts';
import { type FeedItem } from './item.ts';
import {
  FEED_FIELD_KEYS,
  FEED_WORD_KEYS,
  PRODUCT_FEED,
  REFUSING_GAPS,
  SCHEMA_ORG,
  SCHEMA_ORG_WORDS,
} from './profile.ts';
import { cutAtWord, type FeedSettings, RSS_TAIL, rssHead, rssWriter, xmlText } from './rss.ts';

const GBP = currencyOf('GBP');
const MOMENT = momentOf(Date.parse('2026-11-24T12:00Z'));
const sale = {
  name: 'Advent',
  price: money(850n),
  start: momentOf(Date.parse('2026-11-20T00:00Z')),
  end: momentOf(Date.parse('2026-12-24T00:00Z')),
  above: false,
  group: null,
  least: null,
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
  properties: [
    { property: 'color', isOption: true, value: 'Blue' },
    { property: 'size', isOption: true, value: '50 ml' },
    { property: 'material', isOption: false, value: 'Glass' },
  ],
  categoryPath: 'Ink > Bottled > Iron gall',
  weightGrams: 180,
  shipping: [
    { country: 'GB', charge: money(395n) },
    { country: 'IE', charge: money(0n) },
  ],
  price: priceAt(money(1000n), [sale], MOMENT),
  struck: money(950n),
  unitPrice: { price: money(1_700n), per: '100 ml' },
  availability: { seen: true, state: 'in stock' },
  condition: null,
};
const settings: FeedSettings = {
  title: 'Tarn & Teasel',
  link: 'http://127.0.0.1:4301',
  prefix: 's',
  namespace: SCHEMA_ORG,
  ...SCHEMA_ORG_WORDS,
};

/** What an independent parser reads of one item. */
function readBack(one: FeedItem, by = settings): Record<string, string> {
  const xml = rssHead(by) + rssWriter(by, GBP)(one) + RSS_TAIL;
  const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, trimValues: false });
  return (parser.parse(xml) as { rss: { channel: { item: Record<string, string> } } }).rss.channel.item;
}

describe('a feed item', () => {
  it('has fields and words of schema.org (properties of Product, Offer, ItemAvailability, OfferItemCondition)', () => {
    expect(readBack(item)).toEqual({
      's:sku': 'IG-0001-BLU',
      's:name': 'Larkspur Iron Gall Ink, Blue, 50 ml',
      description: item.description,
      's:url': item.link,
      's:image': item.imageLink!,
      's:availability': 'InStock',
      's:price': '8.50',
      's:priceCurrency': 'GBP',
      's:priceSpecification': '9.50',
      's:StrikethroughPrice': '9.50',
      's:UnitPriceSpecification': '17.00 per 100 ml',
      's:validFrom': '2026-11-20T00:00:00Z',
      's:priceValidUntil': '2026-12-24T00:00:00Z',
      's:brand': 'Harrow & Pine',
      's:gtin': '9506000134352',
      's:itemCondition': 'NewCondition',
      's:inProductGroupWithID': '7',
      's:variesBy': 'color, size',
      's:color': 'Blue',
      's:size': '50 ml',
      's:material': 'Glass',
      's:category': 'Ink > Bottled > Iron gall',
      's:weight': '180 g',
      's:shippingDetails': 'GB 3.95, IE 0.00',
    });
  });

  it('is called what the outlet calls it, in its words; a field without a name is left out', () => {
    const names = { ...settings.names, sku: 'ref', name: 'title', color: '', availability: 'shelf' };
    const own = { ...settings, prefix: 'own', names, values: { ...settings.values, InStock: 'on the shelf' } };
    const read = readBack(item, own);
    expect([read['own:ref'], read['title'], read['own:shelf']]).toEqual([
      'IG-0001-BLU',
      'Larkspur Iron Gall Ink, Blue, 50 ml',
      'on the shelf',
    ]);
    expect(Object.keys(read).filter((name) => name.endsWith('color'))).toEqual([]);
  });

  it('has its description in one line', () => {
    const said = (description: string) => readBack({ ...item, description })['description'];
    expect(said('  One \n\n two\tthree  four five\u00a0six\n')).toBe('One two three four five six');
  });

  it('says of each item what is its own, whatever the one before said', () => {
    const write = rssWriter(settings, GBP);
    const next: FeedItem = {
      ...item,
      code: 'IG-0001-GRN',
      properties: [{ property: 'color', isOption: true, value: 'Green & grey' }],
      weightGrams: null,
    };
    const alone = rssWriter(settings, GBP)(next);
    write(item);
    expect(write(next)).toBe(alone);
    expect(write(item)).toBe(rssWriter(settings, GBP)(item));
    const other = { ...item, productId: '8', brand: 'Fell Paper', categoryPath: null };
    expect(write(other)).toBe(rssWriter(settings, GBP)(other));
  });

  it('leaves out what it has not', () => {
    const bare: FeedItem = { ...item, properties: [], weightGrams: null, categoryPath: null, variants: 1 };
    const fields = readBack({ ...bare, struck: null, price: priceAt(money(1000n), [], MOMENT) });
    const absents = ['color', 'size', 'weight', 'category', 'inProductGroupWithID', 'variesBy', 'priceSpecification'];
    absents.push('StrikethroughPrice');
    for (const absent of absents) expect(fields[`s:${absent}`]).withContext(absent).toBeUndefined();
    expect(fields['s:name']).toBe('Larkspur Iron Gall Ink');
  });

  it('does not say an option twice that the name has already', () => {
    expect(readBack({ ...item, name: 'Blue Ink', properties: item.properties.slice(0, 1) })['s:name']).toBe('Blue Ink');
  });

  it('says sold out and back-order in the words of schema.org', () => {
    const available = (availability: FeedItem['availability']) => readBack({ ...item, availability })['s:availability'];
    expect(available({ seen: true, state: 'sold out', why: 'no stock' })).toBe('SoldOut');
    expect(available({ seen: true, state: 'back-order' })).toBe('BackOrder');
  });

  it('says what can be ordered before its day, with the day (schema.org PreOrder and availabilityStarts)', () => {
    const soon = readBack({ ...item, availability: { seen: true, state: 'not yet', why: 'not yet', from: 20_820 } });
    expect([soon['s:availability'], soon['s:availabilityStarts']]).toEqual(['PreOrder', '2027-01-02']);
    const some = readBack({ ...item, availability: { seen: true, state: 'not yet', why: 'not yet', from: null } });
    expect([some['s:availability'], some['s:availabilityStarts']]).toEqual(['SoldOut', undefined]);
    expect(readBack(item)['s:availabilityStarts']).toBeUndefined();
  });

  it('says the condition of goods, and that they are new where nothing is said (schema.org OfferItemCondition)', () => {
    const conditions = [null, 'new', 'used', 'refurbished', 'damaged'] as const;
    expect(conditions.map((condition) => readBack({ ...item, condition })['s:itemCondition'])).toEqual([
      'NewCondition',
      'NewCondition',
      'UsedCondition',
      'RefurbishedCondition',
      'DamagedCondition',
    ]);
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
    expect(readBack({ ...item, name: 'long '.repeat(60).trim() })['s:name']!.length).toBeLessThanOrEqual(150);
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
    expect(PRODUCT_FEED.map(({ key }) => key).sort()).toEqual([...FEED_FIELD_KEYS].sort());
    expect(Object.values(SCHEMA_ORG_WORDS.values)).toEqual([...FEED_WORD_KEYS]);
  });
});
