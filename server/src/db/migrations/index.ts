import { type Migration } from 'kysely';
import * as firstSlice from './001_first_slice.ts';

/** Every migration, in order; forward only. */
export const MIGRATIONS: Readonly<Record<string, Migration>> = {
  '001_first_slice': firstSlice,
};
