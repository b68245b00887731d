import { type Field } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { shelfColumn } from '../db/sql/shelfSql.ts';

/**
 * The goods that a field of a row holds, by their codes as they are typed: `INK-30 × 3 | PEN-1`; of a product the code of its first SKU. One
 * with a `|` in it stands in a line of its own, as all beside it do then.
 */
export function codesOf(field: Field): RawBuilder<string | null> {
  const codes =
    field.type === 'parts'
      ? sql`select k.code || case when x.times > 1 then ' × ' || x.times else '' end as code, x.place
          from sku_part x join sku k on k.id = x.part_id where x.sku_id = s.sku_id`
      : sql`select (select k.code from sku k where k.product_id = u.id order by k.id limit 1) as code, u.place
          from unnest(${shelfColumn(field)}) with ordinality as u (id, place)`;
  return sql<string | null>`(
    select case when bool_or(code like '%|%') then string_agg(code || chr(10), '' order by place)
      else string_agg(code, ' | ' order by place) end from (${codes}) c where code is not null)`;
}
