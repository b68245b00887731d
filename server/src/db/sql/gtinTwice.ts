import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../connect.ts';

/** SKUs whose GTIN another has too: of some GTINs, by their fourteen digits, or of all. */
const TWICE = (keys?: RawBuilder<unknown>) => sql`
  select id from (
    select id, count(*) over (partition by lpad(gtin, 14, '0')) as n from sku
    where gtin is not null ${keys ? sql`and lpad(gtin, 14, '0') in (${keys})` : sql``}) x where n > 1`;

/** Brings the table of GTINs that several SKUs have up to date with a proof that landed: with those that its lines gave or took. */
export async function followGtins(tx: Tx, proof: string): Promise<void> {
  const keys = sql`
    select lpad(x.gtin, 14, '0') from live_line l cross join lateral (values (l.before), (l.after)) as x (gtin)
    where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'gtin' and x.gtin is not null`;
  await sql`
    delete from gtin_twice g using live_line l where l.proof_id = ${proof} and l.kind = 'sku' and l.field = 'gtin' and l.id = g.sku_id`.execute(
    tx.q,
  );
  await sql`
    delete from gtin_twice g using sku k where k.id = g.sku_id and lpad(k.gtin, 14, '0') in (${keys})`.execute(tx.q);
  await sql`insert into gtin_twice ${TWICE(keys)} on conflict do nothing`.execute(tx.q);
}

/** Makes the table from nothing. */
export async function rebuildGtins(tx: Tx): Promise<void> {
  await sql`delete from gtin_twice`.execute(tx.q);
  await sql`insert into gtin_twice ${TWICE()}`.execute(tx.q);
}

/** SKUs that stand in the table and should not, or the other way round. */
export async function staleGtins(tx: Tx): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    (${TWICE()} except select sku_id from gtin_twice) union all (select sku_id from gtin_twice except ${TWICE()})`.execute(
    tx.q,
  );
  return rows.map(({ id }) => id);
}
