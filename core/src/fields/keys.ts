/** The keys of every field; each has its entry in the register. */
export const FIELD_KEYS = [
  'name',
  'code',
  'brand',
  'supplier',
  'category',
  'colour',
  'size',
  'stage',
  'whenOut',
  'price',
  'cost',
  'margin',
  'stock',
  'weight',
  'gtin',
  'description',
  'picture',
  'taxRate',
  'gap',
  'reply',
  'list',
] as const;
export type FieldKey = (typeof FIELD_KEYS)[number];

/** What carries values of its own. Brands, suppliers and categories are what products refer to. */
export type Level = 'product' | 'sku' | 'brand' | 'supplier' | 'category';
