import { field, type FieldKey, isEditable, isNumeric } from '@ivory/core';

export type Desk = 'range' | 'prices' | 'stock';

/** What each desk shows of the same rows. */
export const DESK_COLUMNS: Readonly<Record<Desk, readonly FieldKey[]>> = {
  range: [
    'name',
    'code',
    'colour',
    'size',
    'price',
    'stock',
    'brand',
    'category',
    'stage',
    'gtin',
    'weight',
    'supplier',
    'gap',
  ],
  prices: ['name', 'code', 'cost', 'price', 'margin', 'taxRate', 'brand', 'supplier', 'category', 'stage'],
  stock: ['name', 'code', 'stock', 'cost', 'supplier', 'stage', 'weight', 'brand', 'category'],
};

const WIDTHS: Partial<Record<FieldKey, number>> = {
  name: 216,
  code: 140,
  category: 220,
  brand: 126,
  colour: 80,
  stock: 64,
  margin: 96,
  supplier: 130,
  gap: 200,
  gtin: 125,
  description: 260,
  price: 132,
  cost: 96,
};

/** Shorter names for headings, where the full one would not fit its numbers. */
const HEADINGS: Partial<Record<FieldKey, string>> = { price: 'price', weight: 'weight', taxRate: 'VAT' };

export interface SheetColumn {
  readonly key: FieldKey;
  readonly name: string;
  readonly width: number;
  readonly numeric: boolean;
  readonly editable: boolean;
}

/** A column as the sheet draws it; money names its currency here, once, and not in every cell. */
export function sheetColumn(key: FieldKey, currency: string): SheetColumn {
  const { name, type } = field(key);
  const unit = type === 'money' ? `, ${currency}` : type === 'grams' ? ', g' : type === 'percent' ? ', %' : '';
  return {
    key,
    name: (HEADINGS[key] ?? name) + unit,
    width: WIDTHS[key] ?? 92,
    numeric: isNumeric(type),
    editable: isEditable(key),
  };
}
