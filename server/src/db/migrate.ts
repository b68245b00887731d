import { Migrator } from 'kysely';
import { type Db } from './connect.ts';
import { MIGRATIONS } from './migrations/index.ts';

/** Brings the schema to the newest version; safe when several processes start at once (Kysely holds a lock). */
export async function migrate(db: Db): Promise<void> {
  const migrator = new Migrator({ db: db.q, provider: { getMigrations: () => Promise.resolve({ ...MIGRATIONS }) } });
  const { error } = await migrator.migrateToLatest();
  if (error) throw error as Error;
}
