import { counted } from './numbers.ts';

const products = (count: string): string => counted(count, 'product', 'products');

/** Words of the spine: where goods lie, what they are gathered in, what is missing. */
export const spineWords = {
  label: 'Where',
  everything: 'The whole range',
  categories: 'Categories',
  noCategories:
    'There are no categories yet. Goods are found by where they lie. Press +, and type a name or paste paths, a line each.',
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
  newName: 'Name, or paths pasted a line each',
  newNameLabel: 'Name of the new category',
  tooManyPaths: (lines: string) => `These are ${lines} categories. Paste at most 2,000 at once.`,
  unreadPaths: (lines: number) =>
    `${counted(String(lines), 'line is', 'lines are')} no path of categories. Nothing was taken in.`,
  name: (was: string) => `Name of ${was}`,
  hidden: 'not in the menu',
  proposed: { new: 'new, proposed', changed: 'changed, proposed', goes: 'goes, proposed' },
  verbs: {
    beside: 'New beside it',
    below: 'New in it',
    choose: 'Choose with all below',
    rename: 'Rename',
    hide: 'Take out of the menu',
    show: 'Show in the menu',
    merge: 'Merge into …',
    delete: 'Delete …',
    open: 'Open its page',
  },
  goes: (what: string, count: number, goods: string) => {
    const [go, them] = count === 1 ? ['goes', 'it'] : ['go', 'them'];
    return `${what} ${go}. ${goods === '0' ? `No product lies in ${them}.` : `${products(goods)} in ${them}, and what lies below, go to:`}`;
  },
  merges: (what: string, count: number) =>
    `${what} ${count === 1 ? 'is merged. Its' : 'are merged. Their'} goods and what lies below go to:`,
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
