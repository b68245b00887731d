import { type AnswerOf, type calls } from '@ivory/contract';
import { keyWithScope, type KindKey, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { type Shop } from '../asked/names.ts';
import { withProductsOfLines } from '../asked/productCodes.ts';

type History = AnswerOf<typeof calls.getSku>['history'];

interface Thing {
  readonly kind: KindKey;
  readonly id: string;
}

/** So many entries are told. */
const HISTORY = 30;

/** What landed on some things, the latest first, with values as text for reading. */
export async function historyOf(db: Db, shop: Shop, things: readonly Thing[]): Promise<History> {
  const kinds = things.map(({ kind }) => kind);
  const ids = things.map(({ id }) => id);
  const { rows } = await sql<{
    landing: string;
    at: Date;
    title: string;
    kind: string;
    field: string;
    scope: string;
    before: string | null;
    after: string | null;
  }>`
    select l.id as landing, l.at, l.title, c.kind, c.field, c.scope, c.before[i.i] as before, c.after[i.i] as after
    from (
      select *, array_position(ids, id) as i from (
        select c.*, w.id from journal_chunk c, unnest(${kinds}::text[], ${ids}::bigint[]) as w (kind, id)
        where c.kind = w.kind and w.id between c.first_id and c.last_id) near
    ) c
    cross join lateral (select c.i as i) i
    join landing l on l.id = c.landing_id
    where c.i is not null and c.field <> 'exists' order by l.id desc, c.field limit ${HISTORY}
  `.execute(db.q);
  const asking = await withProductsOfLines(db, shop, rows);
  return rows.map(({ at, kind, field: key, scope, before, after, ...row }) => {
    const field = shop.register.at(kind, key, scope);
    const show = (value: string | null) => (value !== null && field ? showValue(field, value, asking) : value);
    const called = field?.name ?? 'a field that is not there';
    return {
      ...row,
      at: at.toISOString(),
      field: keyWithScope(key, scope),
      called,
      before: show(before),
      after: show(after),
    };
  });
}
