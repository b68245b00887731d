import { type AnswerOf, type calls } from '@ivory/contract';
import { type Field, type KindKey, KIND_KEYS, KINDS, printQuestion, type Question, type Register } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { standing } from '../changes/stores/stores.ts';
import { type Db } from '../db/connect.ts';
import { SHELF, shelfColumn } from '../db/shelfSql.ts';
import { readShop, type Shop } from './names.ts';
import { pendingOn } from './rows.ts';

type Things = AnswerOf<typeof calls.listThings>;
type Thing = Things['things'][number];

/** How many things there are of each kind that stands on the page of lists. */
export async function countThings(db: Db): Promise<AnswerOf<typeof calls.countThings>> {
  const kinds = KIND_KEYS.filter((kind) => KINDS[kind].isList);
  const counts = kinds.map((kind) => {
    const which = kind === 'option' || kind === 'attribute' ? sql`where kind = ${kind}` : sql``;
    return sql`(select count(*)::int from ${sql.table(KINDS[kind].table)} ${which})`;
  });
  const { rows } = await sql<{ things: number[] }>`select array[${sql.join(counts)}] as things`.execute(db.q);
  return { kinds: kinds.map((kind, i) => ({ kind, things: rows[0]!.things[i]! })) };
}

/**
 * The things of a kind in the order of the shop, each with how many products have it; of values those of one option or
 * attribute, `of`. What the proof in hand makes stands behind them.
 */
export async function listThings(db: Db, person: string, kind: KindKey, of?: string): Promise<Things> {
  const shop = await readShop(db);
  const fields = shop.register.of(kind).filter(({ store }) => store.in !== 'computed');
  const columns = fields.map(({ key }) => key);
  const values = fields.map(
    ({ key }) => sql`(select ${standing(kind, key, '0', shop.register).value} from (select l.id, 0::bigint as scope) l
      ${standing(kind, key, '0', shop.register).join})`,
  );
  const { rows } = await sql<{ id: string; values: (string | null)[]; made: boolean; goes: boolean }>`
    with hand as (select id from proof where person_id = ${person} and kind = 'hand' and state in ('open', 'landing')),
    moves as (
      select l.id, l.after is not null as made, l.after as hangs_on from live_line l join hand on hand.id = l.proof_id
      where l.kind = ${kind} and l.field = 'exists'
    )
    select l.id, l.n, array[${sql.join(values)}]::text[] as values, false as made, exists (select from moves m where m.id = l.id and not m.made) as goes
    from (select l.*, row_number() over (order by ${orderOf(kind)}) as n from ${sql.table(KINDS[kind].table)} l where ${among(kind, of)}) l
    union all
    select m.id, m.id, array_fill(null::text, array[${fields.length}::int]), true, false from moves m
    where m.made ${kind === 'choice' && of !== undefined ? sql`and m.hangs_on = ${of}` : sql``}
      and not exists (select from ${sql.table(KINDS[kind].table)} t where t.id = m.id)
    order by made, n
  `.execute(db.q);
  const [used, pending] = await Promise.all([
    usedBy(db, kind, of, shop),
    pendingOn(
      db,
      person,
      rows.map(({ id }) => ({ kind, id })),
    ),
  ]);
  const things = rows.map(({ id, values, made, goes }): Thing => {
    const question = made ? undefined : questionOf(kind, id, of, shop);
    const products = used.get(id) ?? 0;
    return { id, values, made, goes, used: question ? { products, question: printQuestion(question, shop) } : null };
  });
  return { columns, things, pending: pending.filter(({ field }) => columns.includes(field)) };
}

const orderOf = (kind: KindKey): RawBuilder<unknown> =>
  kind === 'category' || kind === 'choice'
    ? sql`l.place, l.name_key`
    : kind === 'option' || kind === 'attribute'
      ? sql`l.id`
      : sql`l.name_key`;

function among(kind: KindKey, of: string | undefined): RawBuilder<unknown> {
  if (kind === 'option' || kind === 'attribute') return sql`l.kind = ${kind}`;
  return kind === 'choice' && of !== undefined ? sql`l.field_id = ${of}::bigint` : sql`true`;
}

/** The question that asks for the goods which have a thing. */
function questionOf(kind: KindKey, id: string, of: string | undefined, { register }: Shop): Question | undefined {
  const compare = (field: Field | undefined, comparison: 'is' | 'in' | 'is filled', values: readonly string[]) =>
    field && ({ kind: 'compare', field: field.key, comparison, values } as const);
  switch (kind) {
    case 'brand':
    case 'supplier':
      return compare(register.find(kind), 'is', [id]);
    case 'tag':
      return compare(register.find('tags'), 'is', [id]);
    case 'category':
      return compare(register.find('category'), 'in', [id]);
    case 'option':
    case 'attribute':
      return compare(register.find(`own:${id}`), 'is filled', []);
    case 'choice':
      return of === undefined ? undefined : compare(register.find(`own:${of}`), 'is', [id]);
    default:
      return undefined;
  }
}

/** How many products have each thing of a kind. */
async function usedBy(db: Db, kind: KindKey, of: string | undefined, { register }: Shop): Promise<Map<string, number>> {
  const counted = countsOf(kind, of, register);
  if (!counted) return new Map();
  const { rows } = await sql<{ id: string; products: number }>`${counted}`.execute(db.q);
  return new Map(rows.map(({ id, products }) => [id, products]));
}

function countsOf(kind: KindKey, of: string | undefined, register: Register): RawBuilder<unknown> | undefined {
  const group = (value: RawBuilder<unknown>) => sql`
    select x::text as id, count(distinct product_id)::int as products
    from (select s.product_id, ${value} as x from ${SHELF}) g where x is not null group by 1`;
  switch (kind) {
    case 'brand':
    case 'supplier':
      return sql`select ${sql.ref(`${kind}_id`)} as id, count(*)::int as products from product group by 1`;
    case 'tag':
      return sql`select x as id, count(*)::int as products from product_own o, unnest(o.tags) as t (x) group by 1`;
    case 'category':
      return sql`
        select c.id, sum(products)::int as products from (
          select within, count(*) as products from (select min(within) as within from shelf_facts group by product_id) p group by 1
        ) placed, unnest(placed.within) as c (id) group by 1`;
    case 'choice': {
      const field = of === undefined ? undefined : register.find(`own:${of}`);
      if (!field) return undefined;
      return group(field.type === 'references' ? sql`unnest(${shelfColumn(field)})` : shelfColumn(field));
    }
    case 'option':
    case 'attribute': {
      const fields = register.goods.filter(({ own }) => own?.of === kind);
      if (fields.length === 0) return undefined;
      return sql`
        with counted as (select ${sql.join(
          fields.map(
            (field, i) =>
              sql`count(distinct s.product_id) filter (where ${shelfColumn(field)} is not null)::int as ${sql.ref(`n${i}`)}`,
          ),
        )} from ${SHELF})
        select x.id, x.products from counted, lateral (values ${sql.join(
          fields.map((field, i) => sql`(${field.own!.id}::bigint, ${sql.ref(`n${i}`)})`),
        )}) as x (id, products)`;
    }
    default:
      return undefined;
  }
}
