import { type Desk } from '@ivory/contract';
import { type SheetRow } from '../rows/sheetRows.ts';
import { type Field, type FieldKey, isEditable, inThePast, type Register, typeOf } from '@ivory/core';
import { words } from '../../words/en.ts';

/** Where the options of the shop stand among the columns of a desk. */
const OPTIONS = 'options';

/** What each desk shows of the same rows. */
const DESK_COLUMNS: Readonly<Record<Desk, readonly (FieldKey | typeof OPTIONS)[]>> = {
  range: [
    ...(['name', 'code', OPTIONS, 'price', 'stock', 'brand', 'category', 'tags', 'stage', 'gtin', 'weight'] as const),
    ...(['supplier', 'gap'] as const),
  ],
  prices: [
    ...(['name', 'code', 'price', 'current', 'sale', 'reducedBy', 'cost', 'margin', 'currentMargin'] as const),
    ...(['taxRate', 'brand', 'supplier', 'category', 'stage'] as const),
  ],
  stock: ['name', 'code', 'stock', 'cost', 'supplier', 'stage', 'weight', 'brand', 'category'],
};

/** The columns of a desk in a shop, with the options that it has. */
export const deskColumns = (desk: Desk, register: Register): FieldKey[] => {
  const options = register.goods.filter(({ own }) => own?.of === 'option').map(({ key }) => key);
  return DESK_COLUMNS[desk].flatMap((key) => (key === OPTIONS ? options : [key]));
};

const WIDTHS: Partial<Record<FieldKey, number>> = {
  name: 200,
  code: 156,
  category: 220,
  brand: 126,
  stock: 64,
  margin: 96,
  supplier: 130,
  gap: 200,
  gtin: 125,
  description: 260,
  price: 132,
  current: 110,
  sale: 108,
  reducedBy: 106,
  currentMargin: 110,
  cost: 96,
  tags: 120,
  usedIn: 170,
  fromTime: 80,
  untilTime: 80,
  reduction: 150,
  above: 150,
  neededIn: 150,
  alsoCalled: 220,
  parent: 160,
  type: 110,
  unit: 64,
  shopperSees: 112,
  inMenu: 116,
  rule: 260,
  slug: 140,
  pageTitle: 160,
  pageDescription: 200,
  contact: 160,
  theirName: 130,
  leadTime: 110,
  note: 220,
  frontRow: 150,
  headOf: 150,
  ownPage: 110,
};

/** Shorter names for headings, where the full one would not fit its numbers. */
const HEADINGS: Partial<Record<FieldKey, string>> = {
  price: 'price',
  weight: 'weight',
  taxRate: 'VAT',
  current: 'current',
  reducedBy: 'lower by',
  currentMargin: 'margin then',
};

export interface SheetColumn {
  readonly key: FieldKey;
  readonly field: Field;
  readonly name: string;
  readonly width: number;
  readonly numeric: boolean;
  readonly editable: boolean;
  /** A person locked it against edits. */
  readonly locked?: boolean;
  /** It stays in sight while the others are scrolled; such columns stand first. */
  readonly stays?: boolean;
  /** Draws the cell, where it is not simply the value of the field. */
  readonly draw?: (h: H, row: SheetRow) => unknown;
}

/** Makes an element of a cell, as the grid package wants it. */
export type H = (tag: string, props?: Record<string, unknown> | null, children?: unknown) => unknown;

/** What a heading says of a field at a past moment. */
function saidOfThePast(field: Field): string {
  const stood = inThePast(field);
  return stood === 'known' ? '' : ` (${stood === 'today' ? words.moment.today : words.moment.notOnRecord})`;
}

/**
 * A column as the sheet draws it; money names its currency here, once, and not in every cell. At a past moment, nothing is edited, and
 * what is not on record says that it is of today.
 */
export function sheetColumn(field: Field, currency: string, isPast = false): SheetColumn {
  const { key, name, type, unit } = field;
  const shown = { money: currency, grams: 'g', percent: '%' }[type as string] ?? (type === 'number' ? unit : undefined);
  return {
    key,
    field,
    name: (HEADINGS[key] ?? name) + (shown ? `, ${shown}` : '') + (isPast ? saidOfThePast(field) : ''),
    width: WIDTHS[key] ?? 92,
    numeric: typeOf(field).isNumber && type !== 'date' && type !== 'timeOfDay',
    editable: isEditable(field) && !isPast,
  };
}
