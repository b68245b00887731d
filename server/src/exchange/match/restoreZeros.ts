import { type Import } from '@ivory/contract';
import { type Field, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { SHELF } from '../../db/sql/shelfSql.ts';
import { standing, type Taken } from './taken.ts';

/** How many values got their leading zeros back, with an example. */
export type Zeros = NonNullable<Import['zeros']>;

interface Restored {
  readonly from: string;
  readonly to: string;
}

/** Digits of the file that would be those of the shop with zeros before them. */
const LOST = (lost: string, whole: string) => sql`(
  ${sql.ref(lost)} ~ '^[1-9][0-9]*$' and ${sql.ref(whole)} ~ '^0[0-9]+$' and ltrim(${sql.ref(whole)}, '0') = ${sql.ref(lost)})`;

/**
 * Gives codes and other texts of digits in the temporary table `staged` the leading zeros back that a spreadsheet took from them: a code that
 * the shop does not have, where just one SKU has it with zeros before it; and values that stand so in the shop. `restored` is what was found
 * while the rows were read. Returns how many there were; nothing where there was none.
 */
export async function restoreZeros(
  tx: Tx,
  taken: Taken,
  register: Register,
  restored: readonly Restored[],
): Promise<Zeros | null> {
  const { rows: codes } = await sql<Restored>`
    with lost as (
      select g.key, min(k.code_key) as code_key, min(k.code) as code from staged g
      join (select code_key, code, ltrim(code_key, '0') as bare from sku where code_key ~ '^0[0-9]+$') k on k.bare = g.key
      where g.key ~ '^[1-9][0-9]*$' and not exists (select from sku o where o.code_key = g.key)
      group by g.key having count(distinct k.code_key) = 1
    )
    update staged g set key = l.code_key, written = l.code, code = l.code from lost l where g.key = l.key
    returning l.key as "from", l.code as "to"`.execute(tx.q);
  const found = [...restored, ...codes];
  for (const field of taken) {
    if (field.key !== 'code' && TEXTS.includes(field.type)) found.push(...(await restoreField(tx, field, register)));
  }
  const [first] = found;
  return first ? { values: found.length, ...first } : null;
}

const TEXTS: readonly Field['type'][] = ['text', 'gtin', 'customsCode'];

async function restoreField(tx: Tx, field: Field, register: Register): Promise<Restored[]> {
  const { rows } = await sql<Restored>`
    update staged g set ${sql.ref(field.key)} = x.whole
    from (select s.code_key, ${standing(field, register)} as whole from (${SHELF})) x
    where x.code_key = g.key collate "C" and x.whole like '0%' and ${LOST(`g.${field.key}`, 'x.whole')}
    returning ltrim(x.whole, '0') as "from", x.whole as "to"`.execute(tx.q);
  return rows;
}
