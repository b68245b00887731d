import { sql } from 'kysely';
import { type StoreOf } from './store.ts';

/** Nowhere yet: the field is made by the landing that also writes its values, which are then kept as fields of the shop are. */
export const proposed: StoreOf<'proposed'> = {
  standing: () => ({ join: sql``, value: sql<string | null>`null::text` }),
  apply: () => Promise.resolve(0),
};
