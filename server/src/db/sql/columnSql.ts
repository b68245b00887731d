import { type Store, type ValueTypeKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

type Sql = RawBuilder<unknown>;
type Text = RawBuilder<string | null>;

/** How a value type stands in a column. */
interface ColumnType {
  /** The column's value as canonical text. */
  readonly toText: (column: Sql) => Text;
  /** Canonical text as the column's value; null stays null. */
  readonly fromText: (text: Sql) => Sql;
}

const cast = (type: string): ColumnType => ({
  toText: (column) => sql<string | null>`${column}::text`,
  fromText: (text) => sql`(${text})::${sql.raw(type)}`,
});
const TEXT: ColumnType = { toText: (column) => column as Text, fromText: (text) => text };
const IDS: ColumnType = {
  toText: (column) => sql<string | null>`nullif(array_to_string(${column}, '|'), '')`,
  fromText: (text) => sql`string_to_array(nullif(${text}, ''), '|')::bigint[]`,
};

/** Every value type as a column. */
export const COLUMN_TYPES: Readonly<Record<ValueTypeKey, ColumnType>> = {
  text: TEXT,
  longText: TEXT,
  code: TEXT,
  gtin: TEXT,
  gtinPrefix: TEXT,
  template: TEXT,
  choice: TEXT,
  gaps: TEXT,
  money: cast('bigint'),
  number: cast('bigint'),
  reference: cast('bigint'),
  percent: cast('int'),
  count: cast('int'),
  grams: cast('int'),
  date: cast('int'),
  timeOfDay: cast('int'),
  yesNo: {
    toText: (column) => sql<string | null>`case when ${column} then 'yes' when not ${column} then 'no' end`,
    fromText: (text) => sql`(${text} = 'yes')`,
  },
  references: IDS,
  categories: IDS,
  lists: IDS,
  assortments: IDS,
  products: IDS,
  rule: TEXT,
  slug: TEXT,
  webAddress: TEXT,
  country: TEXT,
  customsCode: TEXT,
  currency: TEXT,
  timeZone: TEXT,
  swatch: TEXT,
  content: TEXT,
  textList: TEXT,
  files: TEXT,
  rates: TEXT,
  fits: TEXT,
  parts: TEXT,
  pictures: IDS,
  picture: cast('bigint'),
  richText: TEXT,
  reduction: TEXT,
  salePrice: TEXT,
  priceFormula: TEXT,
  countries: TEXT,
  shippingRates: TEXT,
  titles: TEXT,
};

/** A list that is kept in a table of its own. */
export type KeptList = Extract<Store, { in: 'list' }>;

/** An entry as it stands in the value: an id, with how many of it behind `*` where the list counts and it is not one. */
const entrySql = ({ column, times }: KeptList): Sql =>
  times === undefined
    ? sql`${sql.ref(`x.${column}`)}::text`
    : sql`${sql.ref(`x.${column}`)}::text || case when ${sql.ref(`x.${times}`)} > 1 then '*' || ${sql.ref(`x.${times}`)} else '' end`;

/** The list that stands, in canonical text, of the thing whose id an expression gives. */
export const listSql = (store: KeptList, id: Sql): Text => sql<string | null>`(
  select string_agg(${entrySql(store)}, '|' order by x.place) from ${sql.table(store.table)} x where ${sql.ref(`x.${store.key}`)} = ${id})`;

/** The letter of the slots in which a type of the shop's own fields is kept, and the type of their columns. */
export const SLOTS: Readonly<Partial<Record<ValueTypeKey, { readonly letter: string; readonly type: string }>>> = {
  reference: { letter: 'c', type: 'int' },
  yesNo: { letter: 'b', type: 'boolean' },
  number: { letter: 'n', type: 'bigint' },
  date: { letter: 'd', type: 'int' },
  references: { letter: 'm', type: 'bigint[]' },
  text: { letter: 't', type: 'text' },
  longText: { letter: 't', type: 'text' },
  webAddress: { letter: 't', type: 'text' },
};
