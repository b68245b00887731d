import { type Answer, type Pending, type ProofSummary, type SheetRow, type Work } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { TEST_FIELDS } from '@ivory/core/testing';
import { type AskedRows } from '../sheet/rows/goodsRows.ts';
import { askingOf, type Shop } from '../state/session.ts';

/** Small builders for the specs of the web. */
export const shop: Shop = {
  name: 'Tarn & Teasel',
  currency: 'GBP',
  timeZone: 'Europe/London',
  person: 'Ada Teasel',
  floorMargin: 2500,
  largeChange: 3000,
  storefront: 'http://127.0.0.1:1',
  version: '1',
  fields: TEST_FIELDS.map((field) => ({ ...field, usedIn: [...field.usedIn], neededIn: [...field.neededIn] })),
  outDefault: 'show it as sold out',
  gapNeeds: { measuredIn: [], shipped: false },
  placeLevels: ['place', 'bay'],
  rules: [],
  unplaced: ['1'],
  outlets: [{ id: '1', name: 'Lamplight Finder' }],
  lists: {
    brand: [
      { id: '1', name: 'Moss Lane' },
      { id: '2', name: 'Harrow & Pine' },
    ],
    supplier: [{ id: '1', name: 'Northgate Trade' }],
    tag: [{ id: '1', name: 'Gift' }],
    customerGroup: [{ id: '4', name: 'Trade' }],
    assortment: [{ id: '1', name: 'Autumn' }],
    'choice 1': [
      { id: '10', name: 'Blue' },
      { id: '11', name: 'Black' },
    ],
  },
  categories: [
    { id: '1', parent: null, name: 'Ink', place: 0 },
    { id: '2', parent: '1', name: 'Bottled', place: 1 },
    { id: '3', parent: null, name: 'Paper', place: 2 },
  ],
};

/** What questions and values of that shop are read and shown with. */
export const asking = askingOf(shop);
export const { names, register } = asking;
/** The fields of its rows, as the server gives them. */
export const columns: FieldKey[] = register.goods.filter(({ notInRows }) => !notInRows).map(({ key }) => key);

/** A row as the server gives it. */
export function wireRow(id: string, values: Partial<Record<FieldKey, string>> = {}, product = '1'): SheetRow {
  return [id, product, null, ...columns.map((key) => values[key] ?? null)];
}

/** Rows of SKUs that are asked for by name, with every field. */
export const askedRows = (more: Partial<AskedRows> = {}): AskedRows => ({
  question: '',
  sort: { field: 'name', down: false },
  of: 'SKUs',
  columns,
  ...more,
});

export const answer = (more: Partial<Answer> = {}): Answer => ({
  turned: [],
  question: '',
  conditions: [],
  counts: { products: 1, skus: 2, stockAtCost: '123456' },
  of: 'SKUs',
  columns,
  several: [],
  register: '1',
  rows: [wireRow('1', { name: 'Ink', code: 'IG-1', price: '1000' }), wireRow('2', { name: 'Ink', code: 'IG-2' })],
  pending: [],
  ...more,
});

export const pending = (more: Partial<Pending> = {}): Pending => ({
  kind: 'sku',
  id: '1',
  field: 'price',
  after: '1200',
  called: null,
  warnings: [],
  ...more,
});

export const proof = (more: Partial<ProofSummary> = {}): ProofSummary => ({
  id: '9',
  title: '',
  kind: 'hand',
  note: '',
  state: 'open',
  at: '2026-11-24T12:00:00Z',
  lines: 2,
  skus: 2,
  newSkus: 0,
  products: 0,
  leftOut: 0,
  marginBefore: 4120,
  marginAfter: 3980,
  warnings: [],
  fields: [{ kind: 'sku', field: 'price', called: 'regular price', lines: 2 }],
  sources: [{ title: 'Cells', lines: 2 }],
  importId: null,
  makes: [],
  ...more,
});

export const work = (more: Partial<Work> = {}): Work => ({
  id: '5',
  kind: 'import',
  title: 'Reading list.csv',
  state: 'running',
  done: 10,
  total: 100,
  note: null,
  result: null,
  ...more,
});
