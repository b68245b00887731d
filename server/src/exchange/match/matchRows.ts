import { type FieldKey, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { SHELF } from '../../db/sql/shelfSql.ts';
import { differs, fieldOf, isProductField, skuFields, standing, type Taken, valueOf, was } from './taken.ts';

/**
 * Finds every good row its SKU, into the temporary table `matched (row_no, sku_id, product_id, sku_differs,
 * product_differs, …)`; the SKU of an unknown code is null. Most rows of most files bring nothing new: what follows is
 * done for those that do. Where the SKU's own values differ, those that stand come along, as `was`.
 */
export async function matchRows(tx: Tx, taken: Taken, register: Register): Promise<void> {
  const any = (keys: Taken) =>
    keys.length === 0
      ? sql`false`
      : sql.join(
          keys.map((field) => differs(taken, field, register)),
          sql` or `,
        );
  const ofSku = skuFields(taken);
  const stands = ofSku.map((field) => sql`, ${standing(field, register)} as ${was(field)}`);
  const kept = ofSku.map((field) => sql`, case when sku_differs then ${was(field)} end as ${was(field)}`);
  await sql`
    create temp table matched on commit drop as
    select row_no, sku_id, product_id, sku_differs, product_differs ${sql.join(kept, sql``)}
    from (
      select g.row_no, s.sku_id, s.product_id, ${any(ofSku)} as sku_differs, ${any(taken.filter(isProductField))} as product_differs
        ${sql.join(stands, sql``)}
      from staged g left join (${SHELF}) on s.code_key = g.key collate "C" where g.problems is null offset 0) m
  `.execute(tx.q);
}

/**
 * Refuses rows of unknown codes: all of them when nothing new is to be made, else those without a name or a price, be it that
 * the row leaves it empty or that the file has none. Rows of known codes are taken all the same.
 */
export async function refuseUnfit(tx: Tx, taken: Taken, makeProducts: boolean): Promise<void> {
  const refuse = (code: string, key: FieldKey, value: RawBuilder<unknown>, condition: RawBuilder<unknown>) =>
    sql`
    update staged g set problems = jsonb_build_array(jsonb_strip_nulls(jsonb_build_object(
      'code', ${code}::text, 'field', ${key}::text, 'value', ${value}::text)))
    from matched m where m.row_no = g.row_no and m.sku_id is null and g.problems is null and ${condition}
  `.execute(tx.q);
  if (!makeProducts) {
    await refuse('not-in-shop', 'code', sql`g.written`, sql`true`);
    return;
  }
  for (const key of ['name', 'price'] as const) {
    const code = fieldOf(taken, key) ? 'required' : 'lacking';
    await refuse(code, key, sql`null::text`, sql`coalesce(${valueOf(taken, key)}, '') = ''`);
  }
}
