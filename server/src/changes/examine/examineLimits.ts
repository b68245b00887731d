import { LIST_FIELDS, warningBit } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';

const LIMIT_GONE = warningBit('limit gone');
/** Fields that limit prices, each as its kind and key. */
export const LIMITS: readonly string[] = LIST_FIELDS.filter(({ limits }) => limits).map(
  ({ kind, key }) => `${kind} ${key}`,
);

/**
 * Looks over what limits prices to some, or tells an outlet others: a customer group of a sale, its least pieces, the formula of an outlet.
 * Emptied, by hand or because what it names is deleted, it makes prices those of everybody. Of a thing that goes itself nothing is left to
 * be limited.
 */
export async function examineLimits(tx: Tx, proof: string): Promise<void> {
  await sql`
    update proof_line l set flags = l.flags & ~${LIMIT_GONE}::int | case when x.gone then ${LIMIT_GONE}::int else 0 end
    from (
      select o.kind, o.id, o.field, o.before is not null and o.after is null and not exists (
        select from live_line e where e.proof_id = o.proof_id and e.kind = o.kind and e.id = o.id and e.field = 'exists' and e.after is null
      ) as gone
      from proof_line o where o.proof_id = ${proof} and o.kind || ' ' || o.field = any(${LIMITS}::text[])
    ) x
    where l.proof_id = ${proof} and l.kind = x.kind and l.id = x.id and l.field = x.field and l.scope = 0
      and (l.flags & ${LIMIT_GONE}::int <> 0) <> x.gone`.execute(tx.q);
}
