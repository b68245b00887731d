import { type AnswerOf, type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { savepoint } from '../../../db/savepoint.ts';
import { readShop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { makeGoing, takeAway } from '../things/removeThings.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

type Away = BodyOf<typeof calls.takeSkusAway>;
type Counted = Omit<AnswerOf<typeof calls.takeSkusAway>, 'proof'>;

/**
 * Proposes that SKUs of one product go. What lies of them is moved out; movements and journal stay. Those that only the proof in hand
 * makes are not made. Refuses SKUs that are in neither, those that a set is put together of, and taking all of a product away: that is
 * cleared away as a whole.
 */
export async function takeSkusAway(db: Db, person: string, { skus, keepStocked, propose }: Away): Promise<Counted> {
  return inTransaction(db, async (tx) => {
    const undo = await savepoint(tx);
    const proof = await handProof(tx, person);
    const found = await lookAt(tx, proof, skus);
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
    if (!propose || going.length === 0) {
      await undo();
      return counted;
    }
    const title = going.length === 1 ? `Take ${going[0]!.code} away` : `Take ${going.length} variants away`;
    const edit = await beginEdit(tx, proof, title);
    await makeNewLineTable(tx);
    await makeGoing(
      tx,
      'sku',
      going.filter(({ proposed }) => !proposed).map(({ id }) => id),
      null,
    );
    await takeAway(tx, (await readShop(tx)).register);
    await makeNoMore(
      tx,
      proof,
      going.filter(({ proposed }) => proposed).map(({ id }) => id),
    );
    await takeInNewLines(tx, proof, edit);
    return counted;
  });
}

interface Found {
  readonly id: string;
  readonly code: string;
  readonly stock: number;
  readonly moved: boolean;
  /** Whether only the proof in hand makes it. */
  readonly proposed: boolean;
  /** The code of a set that it is a part of. */
  readonly set: string | null;
  /** How many other SKUs its product keeps, as the proof in hand leaves it. */
  readonly others: number;
}

async function lookAt(tx: Tx, proof: string, skus: readonly string[]): Promise<readonly Found[]> {
  const { rows } = await sql<Found & { product_id: string }>`
    with product_sku as not materialized (
      select id, product_id, code, false as proposed from sku
      union all
      select e.id, e.after::bigint, coalesce(c.after, ''), true from live_line e
      left join live_line c on c.proof_id = e.proof_id and c.kind = 'sku' and c.id = e.id and c.field = 'code'
      where e.proof_id = ${proof} and e.kind = 'sku' and e.field = 'exists' and e.after is not null
    )
    select k.id, k.code, k.product_id, k.proposed, coalesce(t.on_hand, 0)::int as stock,
      exists (select from stock_movement m where m.sku_id = k.id) as moved,
      (select o.code from sku_part p join sku o on o.id = p.sku_id where p.part_id = k.id limit 1) as set,
      (select count(*)::int from product_sku o where o.product_id = k.product_id and o.id <> all (${skus}::bigint[])
        and not exists (
          select from live_line l
          where l.proof_id = ${proof} and l.kind = 'sku' and l.id = o.id and l.field = 'exists' and l.after is null)) as others
    from product_sku k left join stock_total t on t.sku_id = k.id
    where k.id = any(${skus}::bigint[]) order by k.id`.execute(tx.q);
  if (rows.length < new Set(skus).size) throw new Refusal('clash', refusalWords.changes.variantNotInShop);
  if (new Set(rows.map(({ product_id }) => product_id)).size > 1)
    throw new Refusal('not valid', refusalWords.changes.severalProducts);
  return rows;
}

/** Adds the lines to the temporary table `new_line` by which a proof does not make SKUs any more. */
async function makeNoMore(tx: Tx, proof: string, skus: readonly string[]): Promise<void> {
  await sql`
    insert into new_line (kind, id, field, scope, before, after)
    select kind, id, field, scope, before, null from live_line
    where proof_id = ${proof} and kind = 'sku' and id = any(${skus}::bigint[])`.execute(tx.q);
}
