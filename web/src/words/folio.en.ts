import { type SectionKey } from '@ivory/core';
import { counted } from './numbers.ts';

/** Words of the folio: the page of one thing. */
export const folioWords = {
  index: 'On this page',
  sections: {
    facts: 'Facts',
    words: 'Words',
    'found by': 'Found by',
    goods: 'Goods',
    shown: 'Where it is shown',
  } satisfies Record<SectionKey, string>,
  shopSections: { goods: 'Prices and stock' } as Partial<Record<SectionKey, string>>,
  attributes: 'Attributes of its goods',
  history: 'History',
  noHistory: 'Nothing of it has changed since it is here.',
  was: (before: string) => `was ${before}`,
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
