import { field, type FieldKey, isFieldKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

/** How a value's canonical text becomes the type of its column. */
export function castOf(key: FieldKey): RawBuilder<unknown> {
  const { type } = field(key);
  if (type === 'money' || type === 'reference') return sql`bigint`;
  return type === 'percent' || type === 'count' || type === 'grams' ? sql`int` : sql`text`;
}

/** What stands in the shop now for a line `l`, in canonical text. */
export function currentValue(level: string, key: string): RawBuilder<string | null> {
  if (key === 'exists') return existing(level);
  if (!isFieldKey(key) || (level !== 'sku' && level !== 'product')) {
    return sql<string | null>`(select t.name from ${sql.table(level)} t where t.id = l.id)`;
  }
  if (key === 'description') return sql<string | null>`(select p.description from product p where p.id = l.id)`;
  const column = sql.ref(`s.${field(key).column}`);
  const own = sql.ref(level === 'sku' ? 's.sku_id' : 's.product_id');
  return sql<string | null>`(select ${column}::text from shelf s where ${own} = l.id limit 1)`;
}

function existing(level: string): RawBuilder<string | null> {
  const value = { product: sql`t.slug`, sku: sql`t.product_id::text`, category: sql`coalesce(t.parent_id::text, '')` }[
    level
  ];
  return sql<string | null>`(select ${value ?? sql`'shop'`} from ${sql.table(level)} t where t.id = l.id)`;
}
