import { refusalWords } from '@ivory/contract';
import { type Asking, type FieldKey, type Line, partsIn, placeOf } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { Refusal } from '../../refusal.ts';
import { type WrongLine } from './namesInUse.ts';

/** A value that is not written by itself where another field of the thing leads it. */
interface Led {
  readonly kind: 'product' | 'sku';
  readonly field: 'price' | 'taxRate' | 'stock';
  readonly by: 'setLess' | 'taxClass' | 'parts';
  /** The things of which it is led, as they stand, with what they are called: those among `ids`, or all. */
  readonly standing: (ids: readonly string[] | undefined) => RawBuilder<{ id: string; called: string }>;
}

const among = (table: string, ids: readonly string[] | undefined) =>
  ids === undefined ? sql`true` : sql`${sql.ref(`${table}.id`)} = any(${ids}::bigint[])`;

const LED: readonly Led[] = [
  {
    kind: 'sku',
    field: 'price',
    by: 'setLess',
    standing: (ids) => sql`
      select k.id, k.code as called from sku k join sku_own o on o.sku_id = k.id
      where ${among('k', ids)} and o.set_less_bp is not null and exists (select from sku_part s where s.sku_id = k.id)`,
  },
  {
    kind: 'sku',
    field: 'stock',
    by: 'parts',
    standing: (ids) => sql`
      select distinct k.id, k.code as called from sku k join sku_part s on s.sku_id = k.id where ${among('k', ids)}`,
  },
  {
    kind: 'product',
    field: 'taxRate',
    by: 'taxClass',
    standing: (ids) => sql`
      select p.id, p.name as called from product p where ${among('p', ids)} and tax_class_id is not null`,
  },
];

/** The things whose values of a field follow from others, of a shop that has few of them. */
export async function followingIds(tx: Tx, field: FieldKey): Promise<ReadonlySet<string>> {
  const ids = new Set<string>();
  for (const { standing } of LED.filter((led) => led.field === field)) {
    const { rows } = await sql<{ id: string }>`select s.id from (${standing(undefined)}) s`.execute(tx.q);
    for (const { id } of rows) ids.add(id);
  }
  return ids;
}

/** Lines of values that follow from others: the price and the stock of a set, the rate of goods that have a tax class. */
export async function linesThatFollow(
  tx: Tx,
  proof: string,
  lines: readonly Line[],
  { register }: Asking,
): Promise<WrongLine[]> {
  const wrong: WrongLine[] = [];
  for (const { kind, field, by, standing } of LED) {
    const written = lines.filter((line) => line.kind === kind && line.field === field && line.after !== line.before);
    if (written.length === 0) continue;
    const ids = written.map(({ id }) => id);
    const { rows } = await sql<{ id: string; called: string }>`
      select s.id, s.called from (${standing(ids)}) s
      where not exists (select from live_line n where n.proof_id = ${proof} and n.kind = ${kind} and n.id = s.id
        and n.field = ${by} and n.after is null)`.execute(tx.q);
    // What leads it may be emptied in the same step.
    const freed = new Set(lines.filter((line) => line.field === by && line.after === null).map(({ id }) => id));
    for (const { id, called } of rows)
      if (!freed.has(id))
        wrong.push({
          line: written.find((line) => line.id === id)!,
          problem: {
            code: 'follows-others',
            ...placeOf(register.get(field)),
            expected: register.get(by).name,
            row: called,
          },
        });
  }
  return wrong;
}

/** Refuses parts of a set that are sets, and sets of what is itself a part; whether they stand in the shop or in the proof. */
export async function refuseSetsInSets(
  tx: Tx,
  proof: string,
  lines: readonly Line[],
  { register, names }: Asking,
): Promise<void> {
  const sets = lines.filter(({ kind, field, after }) => kind === 'sku' && field === 'parts' && after !== null);
  if (sets.length === 0) return;
  const parts = sets.flatMap(({ id, after }) => partsIn(after!).map(({ sku }) => ({ set: id, part: sku })));
  const made = new Set(sets.map(({ id }) => id));
  const others = sql`(
    select s.sku_id as set, s.part_id as part from sku_part s
    where not exists (select from live_line n where n.proof_id = ${proof} and n.kind = 'sku' and n.id = s.sku_id and n.field = 'parts')
    union all
    select n.id, split_part(p, '*', 1)::bigint from live_line n, unnest(string_to_array(n.after, '|')) as p
    where n.proof_id = ${proof} and n.kind = 'sku' and n.field = 'parts')`;
  const { rows } = await sql<{ part: string }>`
    select distinct x.part from unnest(${parts.map(({ set }) => set)}::bigint[], ${parts.map(({ part }) => part)}::bigint[]) as x (set, part)
    join ${others} o on o.set = x.part or o.part = x.set
    where o.set <> all(${[...made]}::bigint[])`.execute(tx.q);
  const wrong = new Set([
    ...rows.map(({ part }) => part),
    ...parts.filter(({ part }) => made.has(part)).map(({ part }) => part),
  ]);
  if (wrong.size === 0) return;
  const codes = names.lists.get('sku')?.byId;
  throw new Refusal(
    'not valid',
    refusalWords.changes.nothingTakenIn,
    [...wrong].map((id) => ({ code: 'set-in-set', value: codes?.get(id) ?? '', ...placeOf(register.get('parts')) })),
  );
}
