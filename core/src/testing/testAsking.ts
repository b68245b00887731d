import { type Category, CategoryTree } from '../categories/path.ts';
import { type Asking } from '../kinds/asking.ts';
import { NameList } from '../kinds/names.ts';
import { buildRegister, type OwnField } from '../kinds/register.ts';
import { type Question } from '../question/tree.ts';
import { currencyOf } from '../money/currency.ts';

/** An option or attribute for a spec. */
export const ownField = (more: Partial<OwnField> & Pick<OwnField, 'id' | 'name'>): OwnField => ({
  kind: 'attribute',
  type: 'text',
  unit: null,
  slot: `t${more.id}`,
  alsoCalled: null,
  usedIn: [],
  neededIn: [],
  shopperSees: true,
  feed: null,
  ...more,
});

/** The two options that shops begin with, and an attribute of each type. */
export const TEST_FIELDS: readonly OwnField[] = [
  ownField({
    id: '1',
    kind: 'option',
    name: 'colour',
    type: 'choice',
    slot: 'c1',
    alsoCalled: 'color, shade, colour name, color name',
    feed: 'color',
  }),
  ownField({
    id: '2',
    kind: 'option',
    name: 'size',
    type: 'choice',
    slot: 'c2',
    alsoCalled: 'format, nib, nib size, volume, pack',
    feed: 'size',
  }),
  ownField({ id: '3', name: 'nib width', type: 'number', unit: 'mm', slot: 'n1', usedIn: ['1'], neededIn: ['1'] }),
  ownField({ id: '4', name: 'filling', type: 'choice', slot: 'c1' }),
  ownField({ id: '5', name: 'properties', type: 'choices', slot: 'm1' }),
  ownField({ id: '6', name: 'waterproof', type: 'yes or no', slot: 'b1' }),
  ownField({ id: '7', name: 'batch date', type: 'date', slot: 'd1' }),
  ownField({ id: '8', name: 'finish', type: 'text', slot: 't1' }),
];

/** 27 November 2026. */
export const TEST_DAY = 20_784;

type Entries = Readonly<Record<string, string>>;

interface TestShop {
  readonly brand?: Entries;
  readonly supplier?: Entries;
  readonly tag?: Entries;
  readonly list?: Entries;
  readonly sale?: Entries;
  readonly categories?: readonly Category[];
  readonly fields?: readonly OwnField[];
  /** Names of assortments, and the rules of those that have one. */
  readonly assortment?: Entries;
  readonly rules?: Readonly<Record<string, Question>>;
  /** Names of the values of options and attributes, by the id of the field. */
  readonly choices?: Readonly<Record<string, Entries>>;
}

/** What a spec reads questions, values and files with: a register and names of its own. */
export function testAsking(shop: TestShop = {}): Asking {
  const {
    brand,
    supplier,
    tag,
    list,
    sale = { 1: 'Autumn ink' },
    assortment,
    categories,
    fields,
    choices,
    rules,
  } = shop;
  const listOf = (entries: Entries = {}) => new NameList(new Map(Object.entries(entries)));
  const ofFields = Object.entries(choices ?? {}).map(([id, entries]) => [`choice ${id}`, listOf(entries)] as const);
  return {
    register: buildRegister('1', {
      fields: fields ?? TEST_FIELDS,
      outlets: [{ id: '1', name: 'Lamplight' }],
      sales: Object.entries(sale).map(([id, name]) => ({ id, name })),
    }),
    names: {
      currency: currencyOf('GBP'),
      lists: new Map([
        ['brand', listOf(brand)],
        ['supplier', listOf(supplier)],
        ['tag', listOf(tag)],
        ['list', listOf(list)],
        ['sale', listOf(sale)],
        ['assortment', listOf(assortment)],
        ...ofFields,
      ]),
      categories: new CategoryTree(categories ?? []),
    },
    rules: new Map(Object.entries(rules ?? {})),
    today: TEST_DAY,
  };
}
