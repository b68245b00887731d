import { type SalePrice } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';
import { momentOrNone } from './salesOf.ts';

/** A sale for everybody, without what its goods cost in it. */
export type SaleSpan = Omit<SalePrice, 'price'>;

/** When each sale that is for everybody runs, by its id. */
export async function saleSpans({ q }: Pick<Tx, 'q'>): Promise<ReadonlyMap<string, SaleSpan>> {
  const { rows } = await sql<{ id: string; name: string; starts: Date | null; ends: Date | null; above: boolean }>`
    select id, name, starts, ends, above from sale_span where group_id is null and least_pieces is null`.execute(q);
  return new Map(
    rows.map(({ id, name, starts, ends, above }) => [
      id,
      { name, start: momentOrNone(starts), end: momentOrNone(ends), above, group: null, least: null },
    ]),
  );
}
