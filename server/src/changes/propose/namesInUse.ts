import { type KindKey, KINDS, type Line, placeOf, type Problem } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { readShop } from '../../range/names.ts';
import { Refusal } from '../../refusal.ts';

/**
 * Refuses names that another thing of the same kind has, in the shop or in the proof; of options and attributes also those that are
 * the name of a field, by which a question could not tell which is meant.
 */
export async function refuseNamesInUse(tx: Tx, proof: string, lines: readonly Line[]): Promise<void> {
  const named = lines.filter(({ kind, field, after }) => KINDS[kind].isList && field === 'name' && after !== null);
  const problems: Problem[] = [];
  for (const { kind, id, after } of named) {
    const { register } = await readShop(tx);
    const place = placeOf(register.at(kind, 'name')!);
    if ((kind === 'option' || kind === 'attribute') && isFieldName(after!, id, register.goods))
      problems.push({ code: 'name-is-field', value: after!, ...place });
    else if (await isInUse(tx, proof, kind, id, after!))
      problems.push({ code: 'name-in-use', value: after!, ...place });
  }
  if (problems.length > 0) throw new Refusal('not valid', 'Nothing was taken in.', problems.slice(0, 20));
}

function isFieldName(name: string, id: string, goods: readonly { name: string; own?: { id: string } }[]): boolean {
  const wanted = name.toLowerCase();
  return (
    goods.some((field) => field.own?.id !== id && field.name.toLowerCase() === wanted) || RESERVED.includes(wanted)
  );
}

/** Words by which a question is built. */
const RESERVED: readonly string[] = ['in', 'is', 'and', 'or', 'not', 'between', 'contains'];

/** What a thing hangs on as the proof has it: its parent, its option; empty at the top of a tree. */
const hangsOn = (proof: string, kind: KindKey, id: RawBuilder<unknown>, column: string) => sql`coalesce(
  (select coalesce(x.after, '') from live_line x
    where x.proof_id = ${proof} and x.kind = ${kind} and x.id = ${id} and x.field = 'parent'),
  (select x.after from live_line x
    where x.proof_id = ${proof} and x.kind = ${kind} and x.id = ${id} and x.field = 'exists' and x.after is not null),
  (select coalesce(${sql.ref(`o.${column}`)}::text, '') from ${sql.table(KINDS[kind].table)} o where o.id = ${id}), '')`;

async function isInUse(tx: Tx, proof: string, kind: KindKey, id: string, name: string): Promise<boolean> {
  const { table, hangsBy } = KINDS[kind];
  // Siblings alone must differ: what hangs on another category, or is a value of another option, may have the same name.
  const isSibling = (other: RawBuilder<unknown>) =>
    hangsBy?.type !== 'bigint'
      ? sql`true`
      : sql`${hangsOn(proof, kind, other, hangsBy.column)} = ${hangsOn(proof, kind, sql`${id}::bigint`, hangsBy.column)}`;
  const { rows } = await sql`
    select from ${sql.table(table)} t where t.name_key = fold(${name}) and t.id <> ${id}::bigint and ${isSibling(sql`t.id`)}
      and not exists (select from live_line g where g.proof_id = ${proof} and g.kind = ${kind} and g.id = t.id
        and (g.field = 'name' or (g.field = 'exists' and g.after is null)))
    union all
    select from live_line n where n.proof_id = ${proof} and n.kind = ${kind} and n.field = 'name' and n.id <> ${id}::bigint
      and fold(n.after) = fold(${name}) and ${isSibling(sql`n.id`)}
    limit 1
  `.execute(tx.q);
  return rows.length > 0;
}
