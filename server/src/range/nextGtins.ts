import { refusalWords } from '@ivory/contract';
import { freeGtins } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { Refusal } from '../refusal.ts';

/**
 * The next GTINs of the shop's own that no SKU has, in the shop or in the proof in hand. Refuses when the shop has none of its own,
 * or not so many left.
 */
export async function nextGtins(db: Db, person: string, count: number): Promise<string[]> {
  const { rows } = await sql<{ prefix: string | null; taken: string[] }>`
    select s.gtin_prefix as prefix, array(
      select k.gtin from sku k where k.gtin like s.gtin_prefix || '%'
      union select l.after from live_line l join proof p on p.id = l.proof_id
        where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing')
          and l.kind = 'sku' and l.field = 'gtin' and l.after like s.gtin_prefix || '%') as taken
    from shop s`.execute(db.q);
  const { prefix, taken } = firstRow(rows);
  if (prefix === null) throw new Refusal('not valid', refusalWords.range.noGtins);
  const isTaken = new Set(taken);
  const gtins = freeGtins(prefix, (gtin) => isTaken.has(gtin), count);
  if (gtins.length < count)
    throw new Refusal('not valid', refusalWords.range.fewGtinsLeft(prefix, gtins.length, count));
  return gtins;
}
