import {
  type Field,
  isEditable,
  keyWithScope,
  type Kind,
  KINDS,
  KIND_KEYS,
  type KindKey,
  ownValueType,
  type OwnTypeKey,
  type Register,
  scopeOf,
  withoutScope,
} from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { withKnownChecks } from '../../db/planForMany.ts';
import { COLUMN_TYPES, SLOTS } from '../../db/sql/columnSql.ts';
import { type Tx } from '../../db/connect.ts';
import { readShop } from '../../asked/names.ts';
import { fill } from '../stores/stores.ts';
import { type Landing } from '../stores/store.ts';
import { type LineGroup } from './lineGroup.ts';

/**
 * Makes what a proof makes, kind by kind in the order of the register, each thing with the values that its lines say. Ids were
 * given when it was proposed; `groups` are the lines of the proof. Returns the register as it is then, with the fields that were made.
 */
export async function makeNew(work: Landing, groups: readonly LineGroup[], register: Register): Promise<Register> {
  const { tx, proof } = work;
  const { rows } = await sql<{ kind: KindKey }>`
    select distinct kind from live_line where proof_id = ${proof} and field = 'exists' and after is not null`.execute(
    tx.q,
  );
  const kinds = new Set(rows.map(({ kind }) => kind));
  let known = register;
  for (const kind of KIND_KEYS) {
    if (!kinds.has(kind)) continue;
    // Lines of things that do not stand before and after are of what is made, or of what goes.
    const said = groups.filter((group) => group.kind === kind && group.standing < group.lines);
    await makeKind(work, KINDS[kind], new Set(said.map(({ field, scope }) => keyWithScope(field, scope))), known);
    // Goods have a field for each of these.
    if (kind !== 'option' && kind !== 'attribute' && kind !== 'sale') continue;
    if (kind !== 'sale') await giveSlots(tx);
    known = (await readShop(tx)).register;
  }
  return known;
}

const isColumn = (field: Field): field is Field & { store: { in: 'column' } } => field.store.in === 'column';

async function makeKind(work: Landing, kind: Kind, said: ReadonlySet<string>, register: Register): Promise<void> {
  const { tx, proof } = work;
  const fields = register.of(kind.key).filter((field) => isEditable(field) || field.onlyAtCreation);
  const columns = fields.filter(isColumn);
  // Lines, which may be very many, are gathered once; each table then takes its own columns.
  await sql`drop table if exists fresh`.execute(tx.q);
  const texts = columns.map(({ key, initial }) => {
    const text = said.has(key) ? sql`max(after) filter (where field = ${key})` : sql`null::text`;
    return sql`, coalesce(${text}, ${initial ?? null}::text) as ${sql.ref(key)}`;
  });
  await sql`
    create temp table fresh on commit drop as
    select id, max(after) filter (where field = 'exists') as "exists" ${sql.join(texts, sql``)}
    from live_line where proof_id = ${proof} and kind = ${kind.key} group by id
    having bool_or(field = 'exists' and after is not null)
  `.execute(tx.q);
  await insertInto(tx, kind.table, 'id', columns, kind.hangsBy);
  for (const table of new Set(columns.map(({ store }) => store.table))) {
    if (table === kind.table) continue;
    await insertInto(tx, table, columns.find(({ store }) => store.table === table)!.store.key, columns);
  }
  for (const field of fields) {
    if (isColumn(field) || !said.has(field.key)) continue;
    await fill(
      work,
      field,
      sql`select l.id, l.after from live_line l join fresh f on f.id = l.id
        where l.proof_id = ${proof} and l.kind = ${kind.key} and l.field = ${withoutScope(field.key)}
          and l.scope = ${scopeOf(field.key)}::bigint and l.after is not null`,
    );
  }
}

/** Inserts the gathered values into a table. Parents have lower ids than their children. */
async function insertInto(
  tx: Tx,
  table: string,
  key: string,
  columns: readonly (Field & { store: { in: 'column' } })[],
  hangsBy?: Kind['hangsBy'],
): Promise<void> {
  // What a thing hangs on may be a field of it too, which is then said once.
  const own = columns.filter(({ store }) => store.table === table && store.column !== hangsBy?.column);
  const names = [key, ...(hangsBy ? [hangsBy.column] : []), ...own.map(({ store }) => store.column)];
  const values: RawBuilder<unknown>[] = [
    sql.ref('id'),
    ...(hangsBy ? [sql`nullif("exists", '')::${sql.raw(hangsBy.type)}`] : []),
    ...own.map(({ key, type }) => COLUMN_TYPES[type].fromText(sql.ref(key))),
  ];
  await withKnownChecks(tx, () =>
    sql`
      insert into ${sql.table(table)} (${sql.join(names.map((name) => sql.ref(name)))})
      select ${sql.join(values)} from fresh order by id
    `.execute(tx.q),
  );
}

/** Gives each new option and attribute a free column of the wide tables; where none is left, one is added. */
async function giveSlots(tx: Tx): Promise<void> {
  const { rows } = await sql<{ id: string; kind: 'option' | 'attribute'; type: OwnTypeKey; slot: string | null }>`
    select id, kind, type, slot from own_field order by id for update`.execute(tx.q);
  const taken = new Set(rows.flatMap(({ kind, slot }) => (slot === null ? [] : [`${kind} ${slot}`])));
  for (const { id, kind, type, slot } of rows) {
    if (slot !== null) continue;
    const { letter, type: column } = SLOTS[ownValueType(type)]!;
    let number = 1;
    while (taken.has(`${kind} ${letter}${number}`)) number++;
    const name = `${letter}${number}`;
    taken.add(`${kind} ${name}`);
    const table = kind === 'option' ? 'sku_own' : 'product_own';
    if (!(await hasColumn(tx, table, name)))
      await sql`alter table ${sql.table(table)} add column ${sql.ref(name)} ${sql.raw(column)}`.execute(tx.q);
    await sql`update own_field set slot = ${name} where id = ${id}`.execute(tx.q);
  }
}

async function hasColumn(tx: Tx, table: string, column: string): Promise<boolean> {
  const { rows } = await sql`
    select from pg_attribute where attrelid = ${table}::regclass and attname = ${column} and not attisdropped`.execute(
    tx.q,
  );
  return rows.length > 0;
}

/**
 * New products whose address was taken since they were proposed get another, by their number; the proof's line says so before
 * the journal is written from it.
 */
export async function giveFreeSlugs(tx: Tx, proof: string): Promise<void> {
  for (let clashes = 1; clashes > 0;) {
    const result = await sql`
      update proof_line l set after = l.after || '-' || l.id
      where l.proof_id = ${proof} and l.kind = 'product' and l.field = 'exists' and not l.left_out
        and exists (select from product p where p.slug = l.after)
    `.execute(tx.q);
    clashes = Number(result.numAffectedRows);
  }
}
