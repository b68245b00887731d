import { type AnswerOf, type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { readShop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { makeGoing, takeAway } from '../things/removeThings.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

type Away = BodyOf<typeof calls.takeSkusAway>;
type Counted = Omit<AnswerOf<typeof calls.takeSkusAway>, 'proof'>;

/**
 * Proposes that SKUs of one product go. What lies of them is moved out; movements and journal stay. Refuses SKUs that are not in the
 * shop, those that a set is put together of, and taking all of a product away: that is cleared away as a whole.
 */
export async function takeSkusAway(db: Db, person: string, { skus, keepStocked, propose }: Away): Promise<Counted> {
  return inTransaction(db, async (tx) => {
    const found = await lookAt(tx, person, skus);
    const going = keepStocked ? found.filter(({ stock }) => stock <= 0) : found;
    const stocked = found.filter(({ stock }) => stock > 0);
    const counted = {
      skus: going.length,
      stocked: stocked.length,
      pieces: stocked.reduce((sum, { stock }) => sum + stock, 0),
      moved: found.filter(({ moved }) => moved).length,
    };
    const partOf = going.find(({ set }) => set !== null);
    if (partOf) throw new Refusal('not valid', refusalWords.changes.partOfSet(partOf.code, partOf.set));
    const [first] = found;
    if (going.length > 0 && first!.others + found.length === going.length)
      throw new Refusal('not valid', refusalWords.changes.lastSku);
    if (!propose || going.length === 0) return counted;
    const proof = await handProof(tx, person);
    const title = going.length === 1 ? `Take ${going[0]!.code} away` : `Take ${going.length} variants away`;
    const edit = await beginEdit(tx, proof, title);
    await makeNewLineTable(tx);
    await makeGoing(
      tx,
      'sku',
      going.map(({ id }) => id),
      null,
    );
    await takeAway(tx, (await readShop(tx)).register);
    await takeInNewLines(tx, proof, edit);
    return counted;
  });
}

interface Found {
  readonly id: string;
  readonly code: string;
  readonly stock: number;
  readonly moved: boolean;
  /** The code of a set that it is a part of. */
  readonly set: string | null;
  /** How many other SKUs its product keeps, as the proof in hand leaves it. */
  readonly others: number;
}

async function lookAt(tx: Tx, person: string, skus: readonly string[]): Promise<readonly Found[]> {
  const { rows } = await sql<Found & { product_id: string }>`
    select k.id, k.code, k.product_id, coalesce(t.on_hand, 0)::int as stock,
      exists (select from stock_movement m where m.sku_id = k.id) as moved,
      (select o.code from sku_part p join sku o on o.id = p.sku_id where p.part_id = k.id limit 1) as set,
      (select count(*)::int from sku o where o.product_id = k.product_id and o.id <> all (${skus}::bigint[])
        and not exists (
          select from live_line l join proof p on p.id = l.proof_id
          where p.person_id = ${person} and p.kind = 'hand' and p.state in ('open', 'landing')
            and l.kind = 'sku' and l.id = o.id and l.field = 'exists' and l.after is null)) as others
    from sku k left join stock_total t on t.sku_id = k.id
    where k.id = any(${skus}::bigint[]) order by k.id`.execute(tx.q);
  if (rows.length < new Set(skus).size) throw new Refusal('clash', refusalWords.changes.variantNotInShop);
  if (new Set(rows.map(({ product_id }) => product_id)).size > 1)
    throw new Refusal('not valid', refusalWords.changes.severalProducts);
  return rows;
}
