import { field, type FieldKey, isFieldKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';

/** How a value's canonical text becomes the type of its column. */
export function castOf(key: FieldKey): RawBuilder<unknown> {
  const { type } = field(key);
  if (type === 'money' || type === 'reference') return sql`bigint`;
  return type === 'percent' || type === 'count' || type === 'grams' ? sql`int` : sql`text`;
}

/** What stands in the shop now for a line `l`, in canonical text: what to join, and the value then. */
export interface Standing {
  readonly join: RawBuilder<unknown>;
  readonly value: RawBuilder<string | null>;
}

export function standingValue(level: string, key: string): Standing {
  if (key === 'exists') return { join: byId(level), value: existing(level) };
  if (!isFieldKey(key) || (level !== 'sku' && level !== 'product')) {
    return { join: byId(level), value: sql<string | null>`t.name` };
  }
  if (key === 'description') return { join: byId('product'), value: sql<string | null>`t.description` };
  const value = sql<string | null>`${sql.ref(`t.${field(key).column}`)}::text`;
  if (level === 'sku') return { join: sql`left join shelf t on t.sku_id = l.id`, value };
  // Any SKU of a product says what its product says.
  const any = sql`(select min(f.sku_id) from shelf_facts f where f.product_id = l.id)`;
  return { join: sql`left join shelf t on t.sku_id = ${any}`, value };
}

const byId = (level: string) => sql`left join ${sql.table(level)} t on t.id = l.id`;

function existing(level: string): RawBuilder<string | null> {
  if (level === 'product') return sql<string | null>`t.slug`;
  if (level === 'sku') return sql<string | null>`t.product_id::text`;
  if (level === 'category')
    return sql<string | null>`case when t.id is not null then coalesce(t.parent_id::text, '') end`;
  return sql<string | null>`case when t.id is not null then 'shop' end`;
}
