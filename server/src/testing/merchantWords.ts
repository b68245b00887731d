import { type FieldKey, type KindKey } from '@ivory/core';

/** Kinds of things that are made, named, merged and deleted. */
export const THINGS: readonly KindKey[] = [
  ...(['tag', 'brand', 'badge', 'unit', 'supplier', 'category', 'assortment', 'choice', 'customerGroup'] as const),
  ...([
    'sale',
    'taxClass',
    'stockPlace',
    'priceFormula',
    'countryGroup',
    'shippingProfile',
    'attribute',
    'option',
  ] as const),
];

/** Values of the fields of SKUs and products, as they are typed. */
export const OF_SKUS: Readonly<Partial<Record<FieldKey, readonly string[]>>> = {
  price: ['4.99', '0.50', '120', '', '0', '+10 %', '9.99'],
  cost: ['1.20', '4.00', '', '0', '60'],
  stock: ['5', '0', '-3', '40'],
  weight: ['120', ''],
  code: ['NEW-1', 'NEW-2', 'NEW-3'],
  'own:1': ['Teal', 'Sky', ''],
};
export const OF_PRODUCTS: Readonly<Partial<Record<FieldKey, KindKey | readonly string[]>>> = {
  brand: 'brand',
  supplier: 'supplier',
  tags: 'tag',
  badges: 'badge',
  unitOfMeasure: 'unit',
  taxClass: 'taxClass',
  putIn: 'assortment',
  keptOut: 'assortment',
  shippedBy: 'shippingProfile',
  category: 'category',
  name: ['Sea glass ink', 'A name of its own', 'Field notes'],
  taxRate: ['20 %', '5 %'],
  stage: ['On sale', 'Resting', 'Retired'],
  description: ['Two lines.\n\nOf text, "quoted".', ''],
};
export const RULES: readonly string[] = [
  'raise regular price by 10 %',
  'lower regular price by 60 %',
  'round regular price up to .95',
  'set cost to 2.00',
  'add Gift to tags',
  'take Gift from tags',
  'put before name "New: "',
];
export const QUESTIONS: readonly string[] = [
  'in Ink',
  'price < 5',
  'tags is Gift',
  'brand is filled',
  'stock is 0',
  'in Pens',
];
/** Fields of things, by their kinds, beside the name. */
export const OF_THINGS: Readonly<Partial<Record<KindKey, Readonly<Record<string, readonly string[]>>>>> = {
  sale: {
    reduction: ['20 % less', '80 % less, to .99', '3.00 less'],
    from: ['2026-01-01', ''],
    until: ['2030-01-01', ''],
  },
  assortment: { rule: ['tags is Gift', 'price > 10', 'brand is filled', 'in Ink'] },
  taxClass: { rates: ['20 %', '5 %'] },
  priceFormula: { formula: ['10 % more', '90 % less'] },
  countryGroup: { countries: ['Ireland, France', 'Germany'] },
};
