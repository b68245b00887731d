import { codeKey } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { arrayLiteral, copyIn } from '../db/copy.ts';
import { type Db, inTransaction } from '../db/connect.ts';
import { type Progress } from '../jobs/work.ts';
import { type ItemReply } from './handOver.ts';

const whole = (count: number): string => count.toLocaleString('en-GB');

/** Keeps an outlet's replies at their SKUs, all or none. What it replied of before and not now is forgotten. */
export async function keepReplies(
  db: Db,
  delivery: string,
  replies: AsyncIterable<ItemReply>,
  report: Progress['report'],
): Promise<string> {
  return inTransaction(db, async (tx) => {
    await sql`create temp table replied (key text, state text, messages text[]) on commit drop`.execute(tx.q);
    const { outlet_id, items } = await tx.q
      .selectFrom('delivery')
      .select(['outlet_id', 'items'])
      .where('id', '=', delivery)
      .executeTakeFirstOrThrow();
    const cells = async function* () {
      let read = 0;
      for await (const { id, state, messages } of replies) {
        yield [[codeKey(id), state, arrayLiteral(messages)]];
        await report(++read, items);
      }
    };
    const replied = await copyIn(tx.client, 'replied', cells());
    await sql`delete from reply where outlet_id = ${outlet_id}`.execute(tx.q);
    await sql`
      insert into reply (outlet_id, sku_id, delivery_id, state, messages)
      select distinct on (s.sku_id) ${outlet_id}::bigint, s.sku_id, ${delivery}::bigint, r.state, r.messages
      from replied r join shelf s on s.code_key = r.key collate "C"
    `.execute(tx.q);
    const { rows } = await sql<{ accepted: number; warned: number; refused: number }>`
      select count(*) filter (where state = 'accepted')::int as accepted, count(*) filter (where state = 'warned')::int as warned,
        count(*) filter (where state = 'refused')::int as refused from reply where outlet_id = ${outlet_id}
    `.execute(tx.q);
    const { accepted, warned, refused } = firstRow(rows);
    const unknown = replied - accepted - warned - refused;
    const note =
      `${whole(accepted)} accepted, ${whole(warned)} accepted with advice, ${whole(refused)} refused` +
      (unknown > 0 ? `, ${whole(unknown)} of codes that the shop does not have` : '');
    await tx.q.updateTable('delivery').set({ state: 'replied', note }).where('id', '=', delivery).execute();
    return note;
  });
}
