import { type DemoProduct } from './goods.ts';

/** An attribute of the made-up shop: where it is used and needed, and what a product has of it. */
export interface DemoAttribute {
  readonly name: string;
  readonly type: 'text' | 'number' | 'choice' | 'choices' | 'yes or no' | 'date';
  /** The column of the wide table that keeps it. */
  readonly slot: string;
  readonly unit?: string;
  readonly usedIn: readonly string[];
  readonly neededIn?: readonly string[];
  readonly feed?: string;
  readonly choices?: readonly string[];
  /** The value as its column has it, places in `choices` from 0; null where it is missing. */
  readonly of: (product: DemoProduct) => string | number | readonly number[] | null;
}

/** Whether a product is among so many in a hundred, always the same ones. */
const share = ({ id }: DemoProduct, salt: number, percent: number): boolean =>
  ((id * 7_919 + salt * 104_729) % 97) * 100 < percent * 97;
const pick = ({ id }: DemoProduct, salt: number, count: number): number => (id * 31 + salt * 17) % count;
const lies = ({ kind }: DemoProduct, ...path: string[]): boolean => path.every((step, i) => kind.path[i] === step);

const MILLION = 1_000_000;
/** 1 January 2026, in days since 1970. */
const NEW_YEAR = 20_454;
const RULINGS = ['Lined', 'Dotted', 'Plain'];

export const ATTRIBUTES: readonly DemoAttribute[] = [
  {
    name: 'properties',
    type: 'choices',
    slot: 'm1',
    usedIn: ['Ink'],
    choices: ['Waterproof', 'Lightfast', 'Shimmering', 'Quick to dry'],
    of: (p) => {
      const all = [0, 1, 2, 3].filter((place) => share(p, place, 35));
      return lies(p, 'Ink') && all.length > 0 ? all : null;
    },
  },
  {
    name: 'bottled on',
    type: 'date',
    slot: 'd1',
    usedIn: ['Ink > Bottled'],
    of: (p) => (lies(p, 'Ink', 'Bottled') && !share(p, 5, 12) ? NEW_YEAR + pick(p, 3, 300) : null),
  },
  {
    name: 'paper weight',
    type: 'number',
    slot: 'n1',
    unit: 'g/m²',
    usedIn: ['Paper'],
    neededIn: ['Paper'],
    of: (p) => (lies(p, 'Paper') && !share(p, 7, 9) ? [80, 90, 100, 120, 160, 240][pick(p, 1, 6)]! * MILLION : null),
  },
  {
    name: 'ruling',
    type: 'choice',
    slot: 'c1',
    usedIn: ['Paper > Notebooks'],
    choices: RULINGS,
    of: (p) => (lies(p, 'Paper', 'Notebooks') ? RULINGS.indexOf(p.kind.path[2] ?? '') : null),
  },
  {
    name: 'filling',
    type: 'choice',
    slot: 'c2',
    usedIn: ['Pens > Fountain'],
    choices: ['Converter', 'Cartridge', 'Piston'],
    of: (p) => (lies(p, 'Pens', 'Fountain') && !share(p, 11, 10) ? pick(p, 2, 3) : null),
  },
  {
    name: 'body',
    type: 'choice',
    slot: 'c3',
    usedIn: ['Pens'],
    neededIn: ['Pens'],
    feed: 'material',
    choices: ['Resin', 'Brass', 'Ebonite', 'Walnut'],
    of: (p) => (lies(p, 'Pens') && !share(p, 13, 15) ? pick(p, 4, 4) : null),
  },
  {
    name: 'refillable',
    type: 'yes or no',
    slot: 'b1',
    usedIn: ['Pens', 'Ink > Cartridges'],
    of: (p) => (lies(p, 'Pens') || lies(p, 'Ink', 'Cartridges') ? (lies(p, 'Pens') ? 't' : 'f') : null),
  },
  {
    name: 'finish',
    type: 'text',
    slot: 't1',
    usedIn: ['Pens', 'Desk'],
    of: (p) =>
      (lies(p, 'Pens') || lies(p, 'Desk')) && !share(p, 17, 30)
        ? ['Polished', 'Satin, waxed by hand', 'Matt', 'Brushed'][pick(p, 6, 4)]!
        : null,
  },
];

export const TAGS = ['Gift', 'Staff pick', 'New this season', 'Last few'] as const;

/** The tags of a product, by their places in `TAGS`. */
export const tagsOf = (product: DemoProduct): number[] =>
  TAGS.map((_, place) => place).filter((place) => share(product, 23 + place, 12));
