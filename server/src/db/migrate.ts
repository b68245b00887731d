import { Migrator } from 'kysely';
import { type Db } from './connect.ts';
import { MIGRATIONS } from './migrations/index.ts';

/**
 * Brings the schema to the newest version, or up to the migration named; safe when several processes start at once
 * (Kysely holds a lock).
 */
export async function migrate(db: Db, upTo?: keyof typeof MIGRATIONS): Promise<void> {
  const migrator = new Migrator({ db: db.q, provider: { getMigrations: () => Promise.resolve({ ...MIGRATIONS }) } });
  const { error } = await (upTo === undefined ? migrator.migrateToLatest() : migrator.migrateTo(upTo));
  if (error) throw error as Error;
}
