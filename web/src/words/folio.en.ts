import { type SectionKey } from '@ivory/core';
import { counted } from './numbers.ts';

/** Words of the folio: the page of one thing. */
export const folioWords = {
  proposedElsewhere: (text: string) => `Proposed meanwhile in another window: ${text}. What you type takes its place.`,
  prices: {
    title: 'Prices in sales',
    sale: 'Sale',
    days: 'Days',
    for: 'For',
    price: 'Price',
    comesTo: 'Comes to',
    span: (lowest: string, highest: string) => `${lowest} – ${highest}`,
    always: 'always',
    anybody: 'anybody',
    fromPieces: (pieces: number) => `from ${pieces} pieces`,
    differ: 'differ',
    priceIn: (sale: string) => `Price in ${sale}`,
    priceOf: (code: string, sale: string) => `Price of ${code} in ${sale}`,
    each: (variants: string) => `each of ${variants} variants`,
    together: 'together',
    inNone: 'It is in no sale that is not over.',
    putIn: 'Put it into a sale',
    byQuantity: 'Prices by quantity',
    pieces: 'From pieces',
    each1: 'Price each',
    piecesOf: (row: number) => `Pieces of row ${row}`,
    priceFrom: (row: number) => `Price of row ${row}`,
    drop: (row: number) => `Take row ${row} out`,
    quantitiesDiffer:
      'Variants have different prices by quantity: fill in one price for all of them, or change them in the sheet.',
    propose: 'Propose these prices by quantity',
    notPast: 'What it cost in sales then stands beside each SKU, and in their history.',
    notYet: 'A product that is only proposed has no prices in sales yet.',
  },
  handOn: 'Copy to others',
  handOnWhat: 'The products of the working set get its',
  parts: {
    attributes: 'attributes',
    parcel: 'weight and parcel',
    shipping: 'way of shipping',
    customs: 'tax and customs',
    selling: 'way of selling',
    variants: 'variants',
  },
  handOnEffect: (changes: number, already: number, otherwise: number, question: string) =>
    `${changes === 0 ? 'Changes nothing' : `Changes ${counted(String(changes), 'product', 'products')}`}${already === 0 ? '' : `; ${already} ${already === 1 ? 'has' : 'have'} it already`}${otherwise === 0 ? '' : `; ${counted(String(otherwise), 'product varies', 'products vary')} by other options and get${otherwise === 1 ? 's' : ''} no variants`}${question === '' ? ', of the whole range' : `, of ${question}`}.`,
  handOnPropose: 'Propose',
  byPattern: 'By the pattern of its category:',
  index: 'On this page',
  shipping: {
    title: 'To ship',
    pieces: 'How many pieces',
    which: 'Of which SKU',
    to: 'to',
    country: 'Which country',
    none: 'It needs no shipping.',
    free: (profile: string, rate: string) => `${profile}, nothing: the goods cost that much. ${rate}`,
    how: (
      {
        profile,
        rate,
        pieces,
        firsts,
        weight,
      }: {
        readonly profile: string;
        readonly rate: string;
        readonly pieces: number;
        readonly firsts: number;
        readonly weight: number | null;
      },
      first: string,
      further: string,
    ) =>
      `${profile}: ${[
        ...(firsts > 0 ? [`${firsts === 1 ? 'the first' : `${firsts} first pieces`} at ${first}`] : []),
        ...(pieces > firsts ? [`${pieces - firsts} further at ${further}`] : []),
      ].join(
        ', ',
      )}${weight === null ? '' : `; ${weight} g ${firsts > 1 ? 'each, as each is a parcel of its own' : 'together'}`}. By “${rate}”.`,
    problems: {
      'no profile': () =>
        'Nobody said what shipping costs: it has no shipping profile, and the shop has none for all. Choose one above, or one for all on the page of the shop.',
      'not shipped there': (country: string, profile: string) =>
        `It is not shipped to ${country}: “${profile}” has no rate for it, nor for a group that it is in or the rest of the world. Rates stand in the shipping profiles of the lists.`,
      'no weight': (_: string, profile: string) =>
        `Nobody can tell: the rates of “${profile}” go by weight, and its packed weight is not known. Enter that among its variants.`,
      'too heavy': (country: string, profile: string, weight: number) =>
        `It is not shipped to ${country}: ${weight} g is more than the heaviest rate of “${profile}” for it.`,
    },
  },
  sections: {
    facts: 'Facts',
    words: 'Words',
    'found by': 'Found by',
    goods: 'Goods',
    shown: 'Where it is shown',
    selling: 'Selling',
    variants: 'Variants',
    prices: 'Prices',
    pictures: 'Pictures',
    parcel: 'Parcel',
    relations: 'Relations',
    proofs: 'What stops a landing',
  } satisfies Record<SectionKey, string>,
  shopSections: { goods: 'Prices and stock', pictures: 'Sizes of pictures in the shop' } as Partial<
    Record<SectionKey, string>
  >,
  attributes: 'Attributes of its goods',
  history: 'History',
  changedElsewhere: 'Changed meanwhile, by somebody else or in another window:',
  changedFromTo: (was: string, now: string) => `${was} → ${now}`,
  changedEmpty: 'empty',
  changedInHand: 'You are changing it too.',
  changedSeen: 'Seen',
  was: (before: string) => `was ${before}`,
  stoodEmpty: 'nothing',
  wasEmpty: 'was empty',
  back: 'Back',
  opens: (products: string) => counted(products, 'product', 'products'),
  made: 'Proposed, and made when the proof lands.',
  goes: 'Goes when the proof lands.',
  ruleHint: 'A question, as in the question line: in Ink stage is "On sale"',
  ruleUnread:
    'Its rule asks for something that is not in the shop any more, so that it gathers by hand alone. Write the rule anew.',
  firstAdd: 'Code of a product',
  firstNone: 'None by hand: all stand in the order above.',
  add: 'Add',
  up: (name: string) => `${name} up`,
  down: (name: string) => `${name} down`,
  take: (name: string) => `Take ${name} out`,
  hidden: 'Shoppers never see it',
  missing: 'Missing:',
  missingOn: (name: string, skus: number, all: number) => (skus === all ? name : `${name} (${skus} of ${all})`),
  ownAttributes: 'Attributes',
  needsIt: 'needed',
  noneUsed: 'Its categories have no attributes.',
  setting: 'In assortments',
  inNone: 'In none.',
  previous: 'Previous',
  next: 'Next',
  placeOf: (place: string, total: string) => `${place} of ${total}`,
  seeInShop: 'See it in the shop',
  noPicture: 'no picture',
  noPrice: 'no price',
  canDo: 'What shoppers can do now',
  ofSkus: (codes: readonly string[]) => codes.join(', '),
  lengths: (title: number, description: number) =>
    `Title ${title} characters, about 60 are shown; description ${description}, 120 to 160 are.`,
  count: (text: string) => {
    const found = text.trim() === '' ? 0 : text.trim().split(/\s+/).length;
    return `${counted(String(found), 'word', 'words')}, ${counted(String(text.length), 'character', 'characters')}`;
  },
  newProduct: 'New product',
  name: 'name',
  price: 'regular price',
  cost: 'cost',
  code: 'code',
  address: 'address',
  orNext: (code: string) => `${code}, or the next that is free`,
  newHint: 'All the rest stands on its page, which opens next. Nothing is in the shop before the proof lands.',
  makeIt: 'Make it',
  copy: 'Copy',
  copyOf: (name: string) => `${name}, copy`,
  view: 'As shoppers read it',
  result: 'As a search shows it',
  noHead: 'No words at its head yet.',
  used: 'goods have it',
  needed: 'needed',
  from: (path: string) => `from ${path}`,
  here: 'here',
  noAttributes: 'The shop has no attributes yet.',
  heads: 'Assortments at its head',
  noHeads: 'None. An assortment says on its own page at the head of which categories it stands.',
} as const;

/** Words of a text that is marked up. */
export const richWords = {
  strip: (field: string) => `What to do with the ${field}`,
  verbs: {
    bold: 'bold',
    italic: 'italic',
    heading: 'heading',
    list: 'list',
    numbers: 'numbered list',
    quote: 'quotation',
  },
  signs: { bold: 'B', italic: 'I', heading: 'H', list: '•', numbers: '1.', quote: '“' },
  link: 'Link',
  setLink: 'Set',
  address: 'Where the link leads',
  put: (place: number) => `Put picture ${place} in at the cursor`,
} as const;

/** Words of the archive: goods that are in no list and no shop. */
export const clearedWords = {
  title: 'Archive',
  about: 'These goods are in no question, no count and no shop. They keep all that they have, and come back from here.',
  name: 'name',
  code: 'code',
  skus: 'SKUs',
  none: 'The archive is empty.',
  bringBack: 'Bring back',
  bringOneBack: (name: string) => `Bring ${name} back`,
  comesBack: 'comes back when the proof lands',
  backTitle: 'Bring back',
  clear: 'Archive',
  clearAsks: (what: string) =>
    `${what} leaves every list and the shop. It keeps all that it has, and comes back from the archive.`,
  clearTitle: (products: string) => `Archive ${counted(products, 'product', 'products')}`,
  is: 'Archived: in no list and no shop.',
} as const;

/** Words of several new goods at once. */
export const rowWords = {
  title: 'Several at once',
  open: 'New rows',
  about:
    'A row for each. Rows of one name are variants of one product. A block from a spreadsheet can be pasted into any cell; Enter goes on to the next row.',
  of: (field: string, row: number) => `${field}, row ${row}`,
  takeOut: (row: number) => `Take row ${row} out`,
  propose: (rows: string) => `Propose ${counted(rows, 'row', 'rows')}`,
  made: (rows: string) => `${counted(rows, 'row', 'rows')} proposed.`,
  left: (rows: string) => `${counted(rows, 'row stays', 'rows stay')} here, each with what is wrong.`,
} as const;

/** Words of the grid of variants. */
export const variantWords = {
  moreOf: (option: string) => `more ${option}`,
  hint: 'Blue, Black',
  besides: (values: string) => `besides ${values}`,
  given: 'what the present ones get',
  addOption: 'Add an option',
  effect: (made: string, given: string) =>
    [
      made === '0' ? '' : `Makes ${counted(made, 'new variant', 'new variants')}.`,
      given === '' ? '' : `Those that are there get ${given}.`,
    ]
      .filter(Boolean)
      .join(' '),
  newOption: 'new option, by its name',
  makeOption: 'Make option',
  leftOut: (count: number) => `${counted(String(count), 'is', 'are')} left out.`,
  combinations: 'Combinations to be made',
  turn: (values: string) => `Leave all of ${values} out, or take them in`,
  make: (values: string) => `Make ${values}`,
  isThere: 'there',
  everyOne: 'Every one where',
  leaveOut: 'Leave out',
  takeIn: 'Take in',
  which: 'For',
  all: (count: number) => (count === 1 ? 'the only variant' : `all ${count} variants`),
  inHand: (count: number) => (count === 1 ? 'the one in hand' : `the ${count} in hand`),
  allOf: (value: string, count: number) => `all ${value} (${count})`,
  field: 'Field of the variants',
  value: 'Value for them',
  valueHint: '4.50, +10 %, +5',
  put: 'Set',
  nextGtins: 'Next GTINs',
  away: 'Take away',
  pictureOf: 'Their picture',
  usePicture: (place: number, text: string) => `Picture ${place} for them${text === '' ? '' : `: ${text}`}`,
  ownPicture: 'picture',
  goes: (count: number, stocked: number, pieces: number, moved: number) =>
    [
      `${counted(String(count), 'variant goes', 'variants go')}.`,
      stocked > 0
        ? `${stocked} of them ${stocked === 1 ? 'has' : 'have'} stock, ${counted(String(pieces), 'piece', 'pieces')} in all.`
        : '',
      moved > stocked ? `${moved - stocked} had stock before.` : '',
      'Their history stays in the journal.',
    ]
      .filter(Boolean)
      .join(' '),
  keepStocked: (count: number) => `Take the ${count} without stock`,
  takeAll: (count: number, hasStock: boolean) =>
    `Take ${count === 1 ? 'it' : `all ${count}`}${hasStock ? ', and write the stock off' : ''}`,
  givenTitle: 'Option of the present variants',
  propose: 'Propose',
} as const;

/** Words of pictures. */
export const pictureWords = {
  drop: 'Drop pictures here or paste them; the first is the face. JPEG, PNG, WebP, AVIF or GIF, up to 10 MB each.',
  dropOne: 'Drop a picture here or paste it. JPEG, PNG, WebP, AVIF or GIF, up to 10 MB.',
  choose: 'Choose files',
  address: 'or its address on the web, and Enter',
  one: (place: number, name: string) => `Picture ${place}, ${name}`,
  earlier: (place: number) => `Move picture ${place} forwards`,
  later: (place: number) => `Move picture ${place} backwards`,
  takeOut: (place: number) => `Take picture ${place} out`,
  textOf: (place: number) => `Alternative text of picture ${place}`,
  textHint: 'what it shows',
  known: (name: string) => `${name} was in the shop already: the same picture is used.`,
} as const;

/** Words of files that hang on goods. */
export const fileWords = {
  drop: 'Drop manuals and the like here: PDF, ZIP or plain text, up to 20 MB each. Shoppers can have them.',
  choose: 'Choose files',
  nameOf: (place: number) => `Name of file ${place}`,
  earlier: (name: string) => `Move ${name} up`,
  takeOut: (name: string) => `Take ${name} out`,
} as const;

/** Words of how codes are made. */
export const codeWords = {
  how: 'How codes are made',
  ways: [
    { value: 'pattern', name: 'codes by a pattern' },
    { value: 'counting', name: 'codes counting up' },
  ],
  pattern: 'The pattern of codes',
  counting: 'The code to count up from',
  hints: { pattern: '{base}-{colour:3}-{size}', counting: 'AB-123' },
  shown: (codes: string, more: string) => `${codes}${more === '' ? '' : ` and ${more} more`}`,
  skipped: (many: number, shown: string, first: string) =>
    many === 1 ? `${first} is in use, and is left out.` : `${shown} are in use, such as ${first}, and are left out.`,
} as const;
