import { type AnswerOf, type calls } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { BYTES_AN_ID } from '../asked/sets.ts';

type Beside = AnswerOf<typeof calls.getBeside>;

/**
 * The products before and behind one in a snapshot of products, and its place among them; nothing where the snapshot is gone or does
 * not have it.
 */
export async function productsBeside(db: Db, set: string, product: string): Promise<Beside> {
  const { rows } = await sql<{ ids: Buffer }>`select ids from working_set where id = ${set}`.execute(db.q);
  const ids = rows[0]?.ids ?? Buffer.alloc(0);
  const at = placeOf(ids, BigInt(product));
  const idAt = (place: number): string | null =>
    at < 0 || place < 0 || place * BYTES_AN_ID >= ids.length
      ? null
      : ids.readBigInt64BE(place * BYTES_AN_ID).toString();
  const total = at < 0 ? 0 : ids.length / BYTES_AN_ID;
  return { previous: idAt(at - 1), next: idAt(at + 1), place: at + 1, total };
}

/** At which place an id stands; -1 where it does not. */
function placeOf(ids: Buffer, wanted: bigint): number {
  const bytes = Buffer.alloc(BYTES_AN_ID);
  bytes.writeBigInt64BE(wanted);
  // The same bytes may stand across two ids too.
  for (let at = ids.indexOf(bytes); at >= 0; at = ids.indexOf(bytes, at + 1))
    if (at % BYTES_AN_ID === 0) return at / BYTES_AN_ID;
  return -1;
}
