import { type Kysely, sql } from 'kysely';

/** What is needed so that changes at the same time, and servers that end in the middle, lose nothing. */
const STATEMENTS = [
  // Work that ends whoever does it is not begun for ever.
  `alter table work add column tries int not null default 0`,

  // Which landings a proof has seen: those that had committed when it was proposed. Ids are given before they commit, and so do
  // not tell. Landings of before are seen by all.
  `alter table landing add column xid xid8 not null default '0'`,
  `alter table landing alter column xid set default pg_current_xact_id()`,
  `alter table proof add column seen pg_snapshot not null default pg_current_snapshot()`,

  `create index landing_takes_back on landing (takes_back) where takes_back is not null`,

  // Movements outlive their SKU, as the journal does.
  `alter table stock_movement drop constraint stock_movement_sku_id_fkey`,
  `drop trigger movements_stand on stock_movement`,
  `create trigger movements_stand before update or delete on stock_movement for each row execute function movements_stand()`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
