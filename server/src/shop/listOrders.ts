import { type AnswerOf, type calls, type QueryOf } from '@ivory/contract';
import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';

type Order = AnswerOf<typeof calls.listOrders>['orders'][number];

/** What is kept of an order, as it was taken. */
interface Kept {
  readonly id: string;
  readonly at: Date;
  readonly landing: string | null;
  readonly said: {
    readonly total: string;
    readonly country?: string | null;
    readonly shipping: { readonly country?: string; readonly charge: string | null } | null;
    readonly lines: readonly {
      readonly code: string;
      readonly name: string;
      readonly options: readonly { readonly value: string }[];
      readonly quantity: number;
      readonly text: string;
      readonly sum: string;
    }[];
  };
}

/** The orders of the shop as they were taken, the latest first. */
export async function listOrders(
  { q }: Pick<Db, 'q'>,
  { before, count }: QueryOf<typeof calls.listOrders>,
): Promise<AnswerOf<typeof calls.listOrders>> {
  const { rows } = await sql<Kept>`
    select id, at, landing_id as landing, lines as said from shop_order
    ${before === undefined ? sql`` : sql`where id < ${before}`} order by id desc limit ${count + 1}`.execute(q);
  return { orders: rows.slice(0, count).map(orderOf), more: rows.length > count };
}

const orderOf = ({ id, at, landing, said }: Kept): Order => ({
  id,
  at: at.toISOString(),
  country: said.country ?? said.shipping?.country ?? null,
  lines: said.lines.map(({ options, ...line }) => ({
    code: line.code,
    name: line.name,
    options: options.map(({ value }) => value),
    quantity: line.quantity,
    text: line.text,
    sum: line.sum,
  })),
  shipping: said.shipping?.charge ?? null,
  total: said.total,
  landing,
});
