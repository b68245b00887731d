import { connect, type Db } from '@ivory/server';
import pg from 'pg';

/** Shops that are all alike when they begin: copies of one database, made in a second each. */
export interface Shops {
  /** The address of another one. */
  next(): Promise<string>;
  forget(shop: string): Promise<void>;
  end(): Promise<void>;
}

/** Makes a shop once, in the database of an address. */
export async function shopsLike(url: string, make: (db: Db) => Promise<void>): Promise<Shops> {
  const first = new URL(url);
  const name = first.pathname.slice(1);
  const db = connect(first.href, { connections: 4 });
  await make(db);
  await db.pool.end();
  // A database is copied while nobody is in it.
  const other = new URL(url);
  other.pathname = '/template1';
  const admin = new pg.Client({ connectionString: other.href });
  await admin.connect();
  let made = 0;
  const quoted = (database: string) => pg.escapeIdentifier(database);
  return {
    next: async () => {
      const copy = `${name}_${++made}`;
      await admin.query(`create database ${quoted(copy)} template ${quoted(name)}`);
      const address = new URL(url);
      address.pathname = `/${copy}`;
      return address.href;
    },
    forget: async (shop) => {
      await admin.query(`drop database ${quoted(new URL(shop).pathname.slice(1))} with (force)`);
    },
    end: () => admin.end(),
  };
}
