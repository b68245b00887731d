import { type Kysely, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { planForMany, plannedForMany } from '../../db/planForMany.ts';
import { BY_KEY } from '../../db/sql/proofLines.ts';
import { type Tables } from '../../db/tables.ts';

/** What is typed, and small blocks; more is planned for what it is. */
export const FEW_CELLS = 100;

/** A proof of more lines than this is large: it lands as work. */
export const MANY_LINES = 5_000;

export const isLarge = (q: Kysely<Tables>, proof: string): Promise<boolean> => hasMore(q, proof, MANY_LINES);

async function hasMore(q: Kysely<Tables>, proof: string, lines: number): Promise<boolean> {
  const { rows } = await sql`
    select from proof_line l where l.proof_id = ${proof} ${BY_KEY} limit 1 offset ${lines}`.execute(q);
  return rows.length > 0;
}

/** Each of so many looked at for each takes no time; each of ten times as many takes minutes. */
export const SEVERAL_LINES = 1_000;

/** Whether a proof has more, for a query that reads it anyway. */
export const hasSeveral = sql<boolean>`
  exists (select from proof_line l where l.proof_id = proof.id ${BY_KEY} limit 1 offset ${sql.lit(SEVERAL_LINES)})`.as(
  'several',
);

/** Does what joins the lines of a proof with one another, or with the shop, planned for as many as there are. */
export async function plannedForLines<T>(tx: Tx, proof: string, work: () => Promise<T>): Promise<T> {
  return (await hasMore(tx.q, proof, SEVERAL_LINES)) ? plannedForMany(tx, work) : work();
}

/** Before a statement that joins the lines of a proof with one another, or with the shop: they are planned for as many as there are. */
export async function planForLines(tx: Tx, proof: string): Promise<void> {
  if (await hasMore(tx.q, proof, SEVERAL_LINES)) await planForMany(tx);
}
