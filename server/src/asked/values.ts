import { type AnswerOf, type calls, refusalWords } from '@ivory/contract';
import { assortmentIds, type Field, type FieldKey, showValue, type ValueTypeKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';
import { memberSql, questionSql } from '../db/sql/questionSql.ts';
import { hasGap, shelfAt, shelfColumn, shelfText } from '../db/sql/shelfSql.ts';
import { Refusal } from '../refusal.ts';
import { ask } from './ask.ts';
import { readShop, type Shop } from './names.ts';

type Values = AnswerOf<typeof calls.countValues>;
interface Counted {
  readonly value: string;
  readonly skus: number;
}

/** More values than this nobody reads through. */
const MOST_VALUES = 200;

/**
 * How many SKUs have each value of a field under a question, the most frequent first; of a category, with all that lies below.
 * Refuses fields whose values have no names.
 */
export async function countValues(db: Db, text: string, key: FieldKey): Promise<Values> {
  const shop = await readShop(db);
  const { question } = ask(text, shop);
  const target = shop.register.find(key);
  if (!target) throw new Refusal('not valid', refusalWords.asked.noSuchField);
  const condition = questionSql(question, shop);
  const counted = await counterOf(target)(db, target, condition, shop);
  const values = counted.map(({ value, skus }) => ({ value, skus, name: showValue(target, value, shop) }));
  return { values: values.sort((a, b) => b.skus - a.skus || (a.name < b.name ? -1 : 1)).slice(0, MOST_VALUES) };
}

type Counter = (db: Db, target: Field, condition: RawBuilder<boolean>, shop: Shop) => Promise<Counted[]>;

function counterOf({ type }: Field): Counter {
  if (type === 'gaps') return countGaps;
  return type === 'assortments' ? countAssortments : count;
}

const countAssortments: Counter = (db, _target, condition, shop) => {
  const ids = assortmentIds(shop);
  return countEach(
    db,
    ids.map((id) => ({ value: id, holds: memberSql(id, shop) })),
    condition,
    shop,
  );
};

const countGaps: Counter = (db, { choices = [] }, condition, shop) =>
  countEach(
    db,
    choices.map(({ key }) => ({ value: key, holds: hasGap(key, shop.register) })),
    condition,
    shop,
  );

/** How many SKUs hold each of several conditions; those that none holds are left out. */
async function countEach(
  db: Db,
  each: readonly { readonly value: string; readonly holds: RawBuilder<boolean> }[],
  condition: RawBuilder<boolean>,
  shop: Shop,
): Promise<Counted[]> {
  if (each.length === 0) return [];
  const counts = each.map(({ holds }) => sql`count(*) filter (where ${holds})::int`);
  const { rows } = await sql<{ skus: number[] }>`
    select array[${sql.join(counts)}] as skus from ${shelfAt(shop)} where ${condition}`.execute(db.q);
  return each.map(({ value }, i) => ({ value, skus: firstRow(rows).skus[i]! })).filter(({ skus }) => skus > 0);
}

async function count(db: Db, target: Field, condition: RawBuilder<boolean>, shop: Shop): Promise<Counted[]> {
  const grouped = sql`(select ${groupOf(target, shop)} as x, count(*) as skus from ${shelfAt(shop)} where ${condition} group by 1) g`;
  const { rows } = await (
    isSet(target)
      ? sql<Counted>`
        select u.value::text as value, sum(g.skus)::int as skus from ${grouped}, unnest(g.x) as u (value) group by 1`
      : sql<Counted>`select g.x::text as value, g.skus::int as skus from ${grouped} where g.x is not null`
  ).execute(db.q);
  return rows;
}

const WITH_NAMES: readonly ValueTypeKey[] = ['reference', 'choice', 'yesNo', 'country'];

/** Whether a value is several; refuses values that have no names. */
function isSet({ type, name }: Field): boolean {
  if (type === 'categories' || type === 'references') return true;
  if (WITH_NAMES.includes(type)) return false;
  throw new Refusal('not valid', refusalWords.asked.valuesWithoutNames(name));
}

/** Goods that have the same set are counted together before the set is taken apart. */
function groupOf(target: Field, { register }: Shop): RawBuilder<unknown> {
  if (target.type === 'categories') return sql.ref('s.within');
  return target.type === 'references' || target.type === 'reference'
    ? shelfColumn(target)
    : shelfText(target, register);
}
