import { sql } from 'kysely';
import { type Db, inTransaction } from '../../db/connect.ts';
import { beginEdit } from '../proof/proof.ts';
import { TAX_RATES } from './following.ts';
import { land } from './land.ts';

/**
 * Lands the tax rates that hold from today on, where classes have rates by date; returns whether there were any. Several servers may
 * try it at once: what one has landed the others find as it should be.
 */
export async function landTaxRatesOfToday(db: Db, person: string): Promise<boolean> {
  const proof = await inTransaction(db, async (tx) => {
    const { rows } = await sql<{ today: string }>`
      select (date '1970-01-01' + shop_today())::text as today from (${TAX_RATES}) f limit 1`.execute(tx.q);
    const [row] = rows;
    if (!row) return undefined;
    const made = await tx.q
      .insertInto('proof')
      .values({
        person_id: person,
        kind: 'following',
        title: `Tax rates from ${row.today}`,
        takes_back: null,
        import_id: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const edit = await beginEdit(tx, made.id, 'Tax rates of today');
    await sql`
      insert into proof_line (proof_id, edit_no, kind, id, field, before, after)
      select ${made.id}, ${edit}, 'product', f.id, 'taxRate', f.before, f.after from (${TAX_RATES}) f`.execute(tx.q);
    return made.id;
  });
  if (proof === undefined) return false;
  await land(db, proof, person);
  return true;
}
