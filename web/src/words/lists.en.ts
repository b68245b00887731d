import { KINDS, type KindKey, type ListKind } from '@ivory/core';

/** Things of a kind that name another. */
interface UsedBy {
  readonly kind: KindKey;
  readonly things: number;
}

/** What else of the shop names a thing: other kinds than goods. */
function namedBy(things: readonly UsedBy[]): string {
  const sums = new Map<KindKey, number>();
  for (const { kind, things: many } of things) sums.set(kind, (sums.get(kind) ?? 0) + many);
  const told = [...sums].map(([kind, many]) => `${many} ${many === 1 ? KINDS[kind].one : KINDS[kind].many}`);
  return `Named by ${told.join(', ')}.`;
}

/** The goods that have things which go, and what becomes of them. */
const hasThem = (products: string, count: number, then: string): string =>
  `${products} products have ${count === 1 ? 'it' : 'them'}: ${then}.`;

/** Words of the page of lists. */
export const listWords = {
  title: 'Lists',
  open: 'Lists',
  values: 'Values of',
  valuesOf: (field: string) => `values of ${field}`,
  search: 'Find in this list',
  newOne: (one: string) => `New ${one}`,
  pasteHint: (many: string) => `Several ${many} at once: paste a column of names`,
  tooMany: (names: string) => `These are ${names} names. Paste at most 1,000 at once.`,
  withBelow: (count: string, isWith: boolean) => (isWith ? `Without the ${count} below` : `With the ${count} below`),
  type: 'What its values are',
  unit: 'unit',
  make: 'Make it',
  used: 'products',
  new: 'new',
  gone: 'goes',
  delete: 'Delete',
  merge: 'Merge',
  mergeInto: 'Merge into …',
  into: 'Into which',
  changeType: 'Change it',
  typeFits: (fits: string, lost: string) =>
    lost === '0' ? `All ${fits} values fit.` : `${fits} values fit. ${lost} do not, and would be lost:`,
  keep: 'Keep',
  itself: 'The shop itself',
  page: 'Open its page',
  up: 'Move up',
  down: 'Move down',
  choose: 'choose',
  made: 'Proposed, and made when the proof lands.',
  goes: 'Goes when the proof lands.',
  usedBy: (products: string) => (products === '1' ? '1 product has it' : `${products} products have it`),
  unused: 'No product has it.',
  level: (name: string, number: number) => (name === '' ? `Level ${number}` : `Level ${number}: ${name}`),
  none: (many: string) => `There are no ${many} yet.`,
  noneFound: 'Nothing in this list has that in its name.',
  usedByThings: namedBy,
  deleteAsks: (what: string, count: number, products: string, then: string, things: readonly UsedBy[]) =>
    [
      `${what} ${count === 1 ? 'goes' : 'go'}.`,
      products === '' ? `No product has ${count === 1 ? 'it' : 'them'}.` : hasThem(products, count, then),
      ...(things.length === 0 ? [] : [namedBy(things)]),
    ].join(' '),
  thenHave: {
    brand: 'they will have no brand',
    supplier: 'they will have no supplier',
    tag: 'it is taken from them',
    category: 'they go to what it lies in',
    option: 'its values are taken from them',
    attribute: 'its values are taken from them',
    choice: 'they will have none',
    badge: 'it is taken from them',
    unit: 'they will have none',
    taxClass: 'they keep the rate that they have today',
    customerGroup: 'sales for it are for everybody',
    shippingProfile: 'they ship as the shop does',
    stockPlace: 'what lies there is in no place',
    sale: 'they are in it no more, and cost what they do without it',
    assortment: 'they are gathered no more; the goods themselves stay',
    priceFormula: 'outlets ask what the shop asks of them',
    countryGroup: 'nothing is shipped there by its rates',
  } satisfies Record<ListKind, string>,
  about: {
    brand: 'Who makes the goods. Type a name above to make one; two that are the same are merged.',
    supplier: 'Who the goods come from.',
    tag: 'Words that goods are gathered by. A product may have several.',
    category: 'Where goods lie in the shop. “Lies in” moves one, with all that lies in it.',
    option: 'What variants of a product differ by, such as colour and size. Their values stand at the left.',
    attribute:
      'What is known of goods of some categories. Where one is needed, goods without it have a gap. Used and needed hold for all that lies below a category.',
    choice: 'The values to choose from, in their order. One may be shown by a colour.',
    badge: 'Words on the picture of goods, between two days where they are given.',
    unit: 'What goods are sold by: a piece, a metre, 100 ml.',
    taxClass:
      'Goods of a class have its rate. A rate that changes is one more row with its day: on that day the goods get it by themselves.',
    customerGroup: 'Who prices are made for: trade, schools, friends of the house.',
    stockPlace:
      'Where stock lies, in levels: a place, its bays, their shelves. What your levels are called stands with the shop itself.',
    sale: 'What costs less between two days. Goods are put in by the column “price in …” of the sheet: an amount, or “as the sale”, which follows what the sale takes off. Days begin and end at midnight in the shop’s zone, where no time is said.',
    priceFormula:
      'What outlets make of your prices: “10 % more, to .99”, “1.50 less”, or by bands, “below 10.00: 20 % more; else 5 % more”. Try and give one to an outlet on the Outlets desk.',
    countryGroup: 'Countries that cost the same to ship to, such as a union or a zone of your carrier, divided by |.',
    shippingProfile:
      'What shipping costs, destination by destination: the first piece, each further one, up to a weight, free from a sum. Give one to goods by their “shipping profile”, or to all on the page of the shop. No rate means that it is not shipped there.',
    assortment:
      'Goods gathered for a purpose: by a rule, by hand, or both. Each is shown where its page says: in the menu, on the front page, at the head of a category.',
  } satisfies Record<ListKind, string>,
} as const;

/** Words of values that are small tables. */
export const tableWords = {
  columns: {
    line: 'text',
    rate: 'rate',
    from: 'from',
    to: 'to',
    maker: 'maker',
    model: 'model',
    note: 'note',
    code: 'code',
    times: 'how many',
    destination: 'to',
    upTo: 'up to, g or kg',
    first: 'first piece',
    further: 'each further',
    freeFrom: 'free from',
  } as Record<string, string>,
  hints: {
    line: 'one in each row',
    rate: '20 %',
    from: '2027-01-01',
    maker: 'Harrowgill',
    model: '40',
    code: 'code of an SKU',
  } as Record<string, string>,
  year: '2015',
  cell: (column: string, row: number) => `${column}, row ${row}`,
  take: (row: number) => `Take row ${row} out`,
} as const;

/** Words for one step that is done to all of the working set. */
export const oneStepWords = {
  open: 'Change all of these',
  verb: 'What to do to all of these',
  name: 'Change all of these',
  choose: 'Say what, and what it does is told here before it is proposed.',
  effect: (of: string, changes: string, stays: string, failed: string) =>
    `${changes} ${of} change, ${stays} are so already${failed === '' ? '' : `, ${failed} cannot`}.`,
  nothing: 'There is nothing in the set.',
  onTop: (many: number, shown: string) =>
    `${shown} of these ${many === 1 ? 'is' : 'are'} proposed to change already; this comes on top.`,
  propose: 'Propose',
  close: 'Close',
} as const;
