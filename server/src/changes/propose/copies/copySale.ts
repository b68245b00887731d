import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { DAY_MS, isEditable, isPerThing, type Line, namedNextYear, nextYear } from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction } from '../../../db/connect.ts';
import { readShop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { examineProof } from '../../examine/examinations.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { standingInRow } from '../../stores/stores.ts';
import { lineOf, made } from '../goods/makeGoods.ts';
import { refuseNamesInUse } from '../namesInUse.ts';
import { NewIds } from '../newIds.ts';
import { makeNewLineTable, takeInLines, takeInNewLines } from '../takeIn.ts';

/**
 * Proposes a sale once more a year later, with all its goods at the prices or rules that they have in it. Gives its id. Refuses a sale that is
 * not in the shop, and one that has no days to move.
 */
export async function copySale(db: Db, person: string, { sale }: BodyOf<typeof calls.copySale>): Promise<string> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const fields = shop.register.of('sale').filter((field) => isEditable(field) && !isPerThing(field));
    const { rows } = await sql<{ found: (string | null)[] }>`
      select array[${sql.join(fields.map(standingInRow))}]::text[] as found from sale l where l.id = ${sale}::bigint`.execute(
      tx.q,
    );
    const values = rows[0]?.found;
    if (!values) throw new Refusal('clash', refusalWords.changes.saleGone);
    const of = (key: string) => values[fields.findIndex((field) => field.key === key)] ?? null;
    const first = of('from') ?? of('until');
    if (first === null) throw new Refusal('not valid', refusalWords.changes.saleWithoutDays);
    const year = new Date(nextYear(Number(first)) * DAY_MS).getUTCFullYear();
    const name = namedNextYear(of('name')!, year);
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, `Copy: ${name}`.slice(0, 200));
    const id = await new NewIds(tx, 'sale', 1).next();
    const lines: Line[] = [made('sale', id, 'shop'), lineOf('sale', id, 'name', name)];
    for (const { key } of fields) {
      const value = of(key);
      if (value === null || key === 'name') continue;
      const isDay = key === 'from' || key === 'until';
      lines.push(lineOf('sale', id, key, isDay ? String(nextYear(Number(value))) : value));
    }
    await takeInLines(tx, proof, edit, lines);
    await refuseNamesInUse(tx, proof, lines);
    await makeNewLineTable(tx);
    await sql`
      insert into new_line (kind, id, field, scope, before, after)
      select 'sku', sku_id, 'salePrice', ${id}::bigint, null, price from sale_line where sale_id = ${sale}::bigint`.execute(
      tx.q,
    );
    await takeInNewLines(tx, proof, edit);
    await examineProof(tx, proof, shop);
    return id;
  });
}
