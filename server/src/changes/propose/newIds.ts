import { type KindKey, KINDS } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';

const IDS_AT_ONCE = 200;

/** Ids for things that will be made, taken from the sequence of their table many at a time. */
export class NewIds {
  private ids: string[] = [];

  constructor(
    private readonly tx: Tx,
    private readonly kind: KindKey,
    private readonly atOnce = IDS_AT_ONCE,
  ) {}

  async next(): Promise<string> {
    if (this.ids.length === 0) {
      const { rows } = await sql<{ id: string }>`
        select nextval(pg_get_serial_sequence(${KINDS[this.kind].table}, 'id')) as id from generate_series(1, ${this.atOnce})
      `.execute(this.tx.q);
      this.ids = rows.map(({ id }) => id).reverse();
    }
    return this.ids.pop()!;
  }
}
