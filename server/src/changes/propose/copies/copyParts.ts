import { type AnswerOf, type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { type Field, isEditable, KINDS, type Register } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { questionSql } from '../../../db/sql/questionSql.ts';
import { SHELF } from '../../../db/sql/shelfSql.ts';
import { ask } from '../../../asked/ask.ts';
import { readShop, type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { examineProof } from '../../examine/examinations.ts';
import { planForMany } from '../../../db/planForMany.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { standing, standingInRow } from '../../stores/stores.ts';
import { handOnVariants } from './handOnVariants.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

type Copying = BodyOf<typeof calls.copyParts>;
type Part = Copying['parts'][number];

const FIELDS: Readonly<Record<Exclude<Part, 'attributes' | 'variants'>, readonly string[]>> = {
  parcel: ['weight', 'netWeight', 'long', 'wide', 'high'],
  shipping: ['shipsAlone', 'noShipping'],
  customs: ['taxClass', 'origin', 'customsCode'],
  selling: ['inCategories', 'bySearch', 'bought', 'boughtFrom', 'boughtNote', 'whenOut'],
};

/** The fields of a part, of products and of SKUs. */
const fieldsOf = (part: Part, { goods }: Register): readonly Field[] =>
  part === 'variants'
    ? []
    : goods.filter(
        (field) =>
          isEditable(field) &&
          (part === 'attributes' ? field.own?.of === 'attribute' : FIELDS[part].includes(field.key)),
      );

/**
 * Proposes that the products of a question, and their SKUs, have what another product has in some parts. What that has not, or its
 * SKUs do not agree in, stays as it is. Says how many products change and how many have it so already. Refuses a product that is not
 * in the shop.
 */
export async function copyParts(
  db: Db,
  person: string,
  { product, parts, question: text, propose }: Copying,
): Promise<Omit<AnswerOf<typeof calls.copyParts>, 'proof'>> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const { question } = ask(text, shop);
    const name = await nameOf(tx, product);
    const fields = [...new Set(parts.flatMap((part) => fieldsOf(part, shop.register)))];
    const values = await valuesOf(tx, product, fields);
    await planForMany(tx);
    await sql`
      create temp table target on commit drop as
      select s.product_id as product, s.sku_id as sku, s.within from ${SHELF}
      where ${questionSql(question, shop)} and s.product_id <> ${product}`.execute(tx.q);
    await makeNewLineTable(tx);
    for (const [i, { kind, key, own }] of fields.entries()) {
      const after = values[i] ?? null;
      if (after === null) continue;
      const { join, value } = standing(kind, key, '0', shop.register);
      await sql`
        insert into new_line (kind, id, field, before, after)
        select ${kind}, l.id, ${key}, ${value}, ${after}
        from (select distinct ${sql.ref(kind === 'sku' ? 'sku' : 'product')} as id, 0::bigint as scope from target
          where ${isUsed(own?.usedIn ?? [])}) l ${join}
        where ${value} is distinct from ${after}`.execute(tx.q);
    }
    const proof = propose ? await handProof(tx, person) : await handIfAny(tx, person);
    const varyOtherwise = parts.includes('variants') ? await takeVariants(tx, proof, product, shop) : 0;
    const { rows } = await sql<{ changes: number; all: number }>`
      select (select count(distinct coalesce(t.product, n.id))::int from new_line n
        left join target t on n.kind = 'sku' and t.sku = n.id) as changes,
        (select count(distinct product)::int from target) as all`.execute(tx.q);
    const { changes, all } = firstRow(rows);
    if (propose && changes > 0) {
      const edit = await beginEdit(tx, proof, `Like ${name}: ${parts.join(', ')}`.slice(0, 200));
      await takeInNewLines(tx, proof, edit);
      if (parts.includes('variants')) await examineProof(tx, proof, shop);
    }
    return { changes, already: all - changes - varyOtherwise, varyOtherwise };
  });
}

/** The proof in hand where there is one; 0 is the id of none. */
async function handIfAny(tx: Tx, person: string): Promise<string> {
  const { rows } = await sql<{ id: string }>`
    select id from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')`.execute(tx.q);
  return rows[0]?.id ?? '0';
}

/** Puts the lines of variants into `new_line`, and the new SKUs into `target`; how many products vary by other options. */
async function takeVariants(tx: Tx, proof: string, product: string, shop: Shop): Promise<number> {
  const { lines, skus, products, varyOtherwise } = await handOnVariants(tx, proof, product, shop);
  await sql`
    insert into new_line (kind, id, field, before, after)
    select * from unnest(${lines.map(({ kind }) => kind)}::text[], ${lines.map(({ id }) => id)}::bigint[],
      ${lines.map(({ field }) => field)}::text[], ${lines.map(({ before }) => before)}::text[], ${lines.map(({ after }) => after)}::text[])
  `.execute(tx.q);
  await sql`insert into target (product, sku) select * from unnest(${products}::bigint[], ${skus}::bigint[])`.execute(
    tx.q,
  );
  return varyOtherwise;
}

/** Attributes of other categories are nothing to a product. */
const isUsed = (usedIn: readonly string[]) => (usedIn.length === 0 ? sql`true` : sql`within && ${usedIn}::bigint[]`);

async function nameOf(tx: Tx, product: string): Promise<string> {
  const { rows } = await sql<{ name: string }>`select name from product where id = ${product}`.execute(tx.q);
  if (!rows[0]) throw new Refusal('clash', refusalWords.changes.productGone);
  return rows[0].name;
}

/** What a product has in fields, its SKUs where all agree. */
async function valuesOf(tx: Tx, product: string, fields: readonly Field[]): Promise<readonly (string | null)[]> {
  const of = async (kind: 'product' | 'sku') => {
    const own = fields.filter((field) => field.kind === kind);
    if (own.length === 0) return new Map<Field, string | null>();
    const { rows } = await sql<{ found: (string | null)[] }>`
      select array[${sql.join(own.map(standingInRow))}]::text[] as found from ${sql.table(KINDS[kind].table)} l
      where ${kind === 'product' ? sql`l.id` : sql`l.product_id`} = ${product}::bigint`.execute(tx.q);
    return new Map(
      own.map((field, i) => {
        const different = new Set(rows.map(({ found }) => found[i] ?? null));
        return [field, different.size === 1 ? [...different][0]! : null];
      }),
    );
  };
  const [ofProduct, ofSkus] = [await of('product'), await of('sku')];
  return fields.map((field) => ofProduct.get(field) ?? ofSkus.get(field) ?? null);
}
