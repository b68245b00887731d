import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import {
  type Field,
  type FieldKey,
  firstCode,
  FreeCodes,
  isEditable,
  isPerThing,
  type KindKey,
  KINDS,
  type Line,
  slugOf,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { readShop, type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { examineProof } from '../../examine/examinations.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { standingInRow } from '../../stores/stores.ts';
import { freeSlug, lineOf, made, takenCodes } from '../goods/makeGoods.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

type Copying = BodyOf<typeof calls.copyProduct>;

/** What a copy does not take over: what tells one product from another, what stands for it elsewhere, and its stock. */
export const OWN_OF_ONE: readonly FieldKey[] = [
  ...(['name', 'slug', 'stage', 'gallery', 'clearedAway', 'supplierCode'] as const),
  ...(['code', 'gtin', 'mpn', 'stock', 'ownPicture'] as const),
];

/**
 * Proposes copies of a product with all its variants, each under a name of its own; they begin as Preparing, with codes and addresses
 * that are free. Gives the ids of the copies. Refuses a product that is not in the shop.
 */
export async function copyProduct(db: Db, person: string, { product, names }: Copying): Promise<string[]> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const [original] = await valuesOf(tx, 'product', sql`l.id = ${product}::bigint`, shop);
    if (!original) throw new Refusal('clash', refusalWords.changes.productGone);
    const variants = await valuesOf(tx, 'sku', sql`l.product_id = ${product}::bigint`, shop);
    const proof = await handProof(tx, person);
    const edit = await beginEdit(
      tx,
      proof,
      names.length === 1 ? `Copy: ${names[0]!}`.slice(0, 200) : `${names.length} copies`,
    );
    const free = new FreeCodes(await takenCodes(tx, proof));
    const products = new NewIds(tx, 'product', names.length);
    const skus = new NewIds(tx, 'sku', names.length * variants.length);
    const lines: Line[] = [];
    const ids: string[] = [];
    for (const name of names) {
      const id = await products.next();
      ids.push(id);
      const own = [made('product', id, await freeSlug(tx, proof, slugOf(name))), lineOf('product', id, 'name', name)];
      lines.push(...own, ...original.map(({ key, value }) => lineOf('product', id, key, value)));
      for (const variant of variants) {
        const sku = await skus.next();
        const code = free.next(firstCode(name));
        lines.push(made('sku', sku, id), lineOf('sku', sku, 'code', code));
        lines.push(...variant.map(({ key, value }) => lineOf('sku', sku, key, value)));
      }
      // The next copy is to see which addresses are taken by now.
      await takeInLines(tx, proof, edit, lines.splice(0));
    }
    await examineProof(tx, proof, shop);
    return ids;
  });
}

interface Value {
  readonly key: Line['field'];
  readonly value: string;
}

/** What stands of things, without what a copy does not take over and what is empty. */
async function valuesOf(tx: Tx, kind: KindKey, which: ReturnType<typeof sql>, { register }: Shop): Promise<Value[][]> {
  // A copy is in no sale.
  const isTaken = (field: Field) => isEditable(field) && !OWN_OF_ONE.includes(field.key) && !isPerThing(field);
  const fields = register.of(kind).filter(isTaken);
  const { rows } = await sql<{ found: (string | null)[] }>`
    select array[${sql.join(fields.map(standingInRow))}]::text[] as found
    from ${sql.table(KINDS[kind].table)} l where ${which} order by l.id`.execute(tx.q);
  return rows.map(({ found }) =>
    fields.flatMap((field, i) => {
      const value = found[i] ?? null;
      return value === null ? [] : [{ key: field.key, value }];
    }),
  );
}
