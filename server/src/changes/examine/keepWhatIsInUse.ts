import { isKindKey, KIND_KEYS, KINDS, type KindKey, warningBit, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { referencesOf } from '../stores/stores.ts';

/**
 * Landings that a proof had not seen, as they committed after it was proposed or last compared with the shop; they count as
 * seen from then on.
 */
export async function newLandings(tx: Tx, proof: string): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    with new as (select g.id from landing g, proof p where p.id = ${proof} and not pg_visible_in_snapshot(g.xid, p.seen)),
    seeing as (update proof set seen = pg_current_snapshot() where id = ${proof})
    select id from new
  `.execute(tx.q);
  return rows.map(({ id }) => id);
}

/**
 * Things that the proof takes away and that later landings changed, or that others hang on by now, are not taken
 * away unasked: their lines are marked as changed since and left out, all together. Returns how many things that are.
 * `later` is a condition on the landing's id `c.landing_id`.
 */
export async function keepWhatIsInUse(
  tx: Tx,
  proof: string,
  register: Register,
  later: RawBuilder<boolean>,
): Promise<number> {
  const { rows: goes } = await sql<{ kind: string }>`
    select distinct kind from proof_line where proof_id = ${proof} and field = 'exists' and after is null`.execute(
    tx.q,
  );
  const going = goes.map(({ kind }) => kind).filter(isKindKey);
  if (going.length === 0) return 0;
  const flags = warningBit('changed since');
  let kept = 0;
  const leave = async (condition: RawBuilder<unknown>) => {
    const { numAffectedRows } = await sql`
      update proof_line l set flags = flags | ${flags}::int, left_out = true
      where l.proof_id = ${proof} and l.field = 'exists' and l.after is null and not l.left_out and ${condition}
    `.execute(tx.q);
    kept += Number(numAffectedRows);
  };
  await leave(sql`(
    ${changedBy(later)}
    or exists (select from proof_line o where o.proof_id = l.proof_id and o.kind = l.kind and o.id = l.id and o.left_out))`);
  for (const kind of KIND_KEYS.toReversed()) {
    if (!going.includes(kind)) continue;
    for (const condition of uses(proof, kind, register)) await leave(sql`l.kind = ${kind} and ${condition}`);
  }
  await sql`
    update proof_line l set left_out = true, flags = l.flags | ${flags}::int from proof_line e
    where l.proof_id = ${proof} and e.proof_id = ${proof} and e.kind = l.kind and e.id = l.id
      and e.field = 'exists' and e.left_out and not l.left_out
  `.execute(tx.q);
  return kept;
}

/** Whether later landings changed the thing of a line `l`, in any of its values; what they changed and took back is as it was. */
const changedBy = (later: RawBuilder<boolean>) => sql`exists (
  select from (
    select c.field, c.scope, c.landing_id, c.before[array_position(c.ids, l.id)] as before, c.after[array_position(c.ids, l.id)] as after
    from journal_chunk c where ${later} and c.kind = l.kind and l.id between c.first_id and c.last_id and l.id = any(c.ids)
  ) w group by field, scope
  having (array_agg(before order by landing_id))[1] is distinct from (array_agg(after order by landing_id desc))[1])`;

/** Whether the proof takes the thing `u.id` of a kind away. */
const goesToo = (proof: string, kind: string) => sql`exists (
  select from live_line g where g.proof_id = ${proof} and g.field = 'exists' and g.after is null and g.kind = ${kind} and g.id = u.id)`;

/** A category stays while one below it stays: the question is asked once for each level that a tree may have. */
const MOST_LEVELS = 8;

/** Conditions, each of which says that something which stays refers to the thing of a line `l`, or hangs on it. */
function uses(proof: string, kind: KindKey, register: Register): RawBuilder<unknown>[] {
  const referring = register.referring(kind).flatMap((field) => {
    const references = referencesOf(field);
    if (!references) return [];
    // Lines of the same proof may let it go.
    return [
      sql`exists (
        select from (${references}) u where u.ref = l.id and not ${goesToo(proof, field.kind)} and not exists (
          select from live_line x where x.proof_id = ${proof} and x.kind = ${field.kind} and x.id = u.id and x.field = ${field.key}
            and l.id::text <> all (string_to_array(coalesce(x.after, ''), '|'))))`,
      // Nor may other lines of the proof refer to it.
      sql`l.id in (
        select split_part(r.id, '*', 1)::bigint from live_line x, unnest(string_to_array(x.after, '|')) as r (id)
        where x.proof_id = ${proof} and x.kind = ${field.kind} and x.field = ${field.key} and not exists (
          select from live_line g where g.proof_id = ${proof} and g.kind = x.kind and g.id = x.id and g.field = 'exists' and g.after is null))`,
    ];
  });
  const hanging = KIND_KEYS.flatMap((other) => {
    const { table, hangsBy } = KINDS[other];
    if (hangsBy?.type !== 'bigint' || !HANGS_ON[other]?.includes(kind)) return [];
    const column = sql.ref(`u.${hangsBy.column}`);
    const below = sql`exists (
      select from ${sql.table(table)} u where ${column} = l.id and not ${goesToo(proof, other)} and not exists (
        select from live_line x where x.proof_id = ${proof} and x.kind = ${other} and x.id = u.id and x.field = 'parent'))`;
    return other === kind ? Array.from({ length: MOST_LEVELS }, () => below) : [below];
  });
  return [...hanging, ...referring, ...ofOwnFields(proof, kind, register)];
}

/** An option or attribute stays while goods have a value of it that the proof does not take from them. */
function ofOwnFields(proof: string, kind: KindKey, register: Register): RawBuilder<unknown>[] {
  return register.goods.flatMap((field) => {
    if (field.own?.of !== kind || field.store.in !== 'own') return [];
    const [table, key, slot] = [`${field.kind}_own`, `u.${field.kind}_id`, `u.${field.store.slot}`];
    return [
      sql`(l.id = ${field.own.id}::bigint and exists (
        select from ${sql.table(table)} u where ${sql.ref(slot)} is not null and not exists (
          select from live_line x where x.proof_id = ${proof} and x.kind = ${field.kind} and x.id = ${sql.ref(key)}
            and (x.field = 'exists' or x.field = ${field.key}) and x.after is null)))`,
    ];
  });
}

/** On which kinds things of a kind hang. */
const HANGS_ON: Readonly<Partial<Record<KindKey, readonly KindKey[]>>> = {
  sku: ['product'],
  category: ['category'],
  stockPlace: ['stockPlace'],
  choice: ['option', 'attribute'],
};
