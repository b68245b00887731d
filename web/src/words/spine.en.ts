import { counted } from './numbers.ts';

const products = (count: string): string => counted(count, 'product', 'products');

/** Words of the spine: where goods lie, what they are gathered in, what is missing. */
export const spineWords = {
  label: 'Where',
  everything: 'The whole range',
  categories: 'Categories',
  noCategories: 'There are no categories yet. Goods are found by where they lie.',
  assortments: 'Assortments',
  noAssortments: 'None yet. One gathers goods for a purpose: a season, a gift table.',
  toAssortments: 'Lay out assortments',
  unplaced: 'Nothing in the shop leads to it.',
  sets: 'Kept sets',
  noSets: 'None yet. A question that you ask often can be kept here under a name.',
  keepThis: 'Keep this set …',
  renameSet: 'Rename',
  forgetSet: 'Forget',
  setName: 'Name of the set',
  setUnread: 'It asks for what is not in the shop any more.',
  gaps: 'Gaps',
  noGaps: 'Nothing is missing in this set.',
  shift: 'Shift adds a second one',
  search: 'Find a category',
  noneFound: 'No category has that in its name.',
  menu: (name: string) => `What to do with ${name}`,
  newCategory: 'New category',
  newName: 'Name of the new category',
  name: (was: string) => `Name of ${was}`,
  hidden: 'not in the menu',
  proposed: { new: 'new, proposed', changed: 'changed, proposed', goes: 'goes, proposed' },
  verbs: {
    beside: 'New beside it',
    below: 'New in it',
    rename: 'Rename',
    hide: 'Take out of the menu',
    show: 'Show in the menu',
    merge: 'Merge into …',
    delete: 'Delete …',
    open: 'Open its page',
  },
  goes: (what: string, goods: string) =>
    `${what} goes. ${goods === '0' ? 'No product lies in it.' : `${products(goods)} in it, and what lies below, go to:`}`,
  merges: (what: string) => `${what} is merged. Its goods and what lies below go to:`,
  upward: 'what it lies in',
  keep: 'Keep',
  delete: 'Delete',
  merge: 'Merge',
  into: 'Where they go',
  several: (count: number) => `${count} categories`,
  /** What a drop would do, said before it. */
  drop: {
    none: 'A category cannot lie in itself.',
    what: (name: string, below: number) =>
      below === 0 ? name : `${name} and ${below === 1 ? 'the one' : `the ${below}`} below`,
    under: (what: string, into: string) => `${what}: into ${into}`,
    top: (what: string) => `${what}: to the top`,
    before: (what: string, other: string) => `${what}: before ${other}`,
    last: (what: string) => `${what}: to the end`,
    path: (count: string) => `${products(count)} ${count === '1' ? 'gets' : 'get'} another path.`,
    add: (changes: string, already: string, into: string) =>
      `Adds ${into} to ${products(changes)}${already === '0' ? '' : `; ${already} have it already`}. With Shift: move.`,
    move: (changes: string, from: string, into: string) => `Moves ${products(changes)} from ${from} to ${into}.`,
    nowhere: 'To move goods, ask for the category first that they move from.',
    putIn: (changes: string, already: string, into: string) =>
      `Puts ${products(changes)} into ${into}${already === '0' ? '' : `; ${already} were put in already`}.`,
    reading: 'Counting …',
  },
} as const;
