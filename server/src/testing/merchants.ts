import { calls, type Rows } from '@ivory/contract';
import { type Field, KIND_KEYS, KINDS, momentOf, typeOf } from '@ivory/core';
import { sql } from 'kysely';
import { setTimeout as wait } from 'node:timers/promises';
import { examineProof } from '../changes/examine/examinations.ts';
import { referencesOf } from '../changes/stores/stores.ts';
import { inTransaction, type Tx } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { readShop } from '../asked/names.ts';
import { THINGS } from './merchantWords.ts';
import { passedStops } from './passedStops.ts';
import { type TestServer } from './testServer.ts';

/** Who does something, and numbers by which it is chosen what it is done to. */
export interface ActNumbers {
  /** Which of two people does it. */
  readonly by: 0 | 1;
  readonly what: number;
  readonly which: number;
  readonly how: number;
}

/** One of a list, by any number. */
export const chosen = <T>(list: readonly T[], number: number): T => list[number % list.length]!;

/** A shop in which two merchants act, and what must always hold of it. */
export class Merchants {
  private readonly people: [string, string] = ['1', '2'];
  /** What was done and what was refused, to be printed when a check fails. */
  readonly done: string[] = [];
  private readonly seen: { at: number; rows: Rows }[] = [];
  private began = '0';

  constructor(readonly server: TestServer) {}

  async begin(): Promise<void> {
    await sql`insert into person (name) values ('Bo Marsh')`.execute(this.db.q);
    const { rows } = await sql<{ id: string }>`select id from person where not is_shop order by id limit 2`.execute(
      this.db.q,
    );
    this.people[0] = rows[0]!.id;
    this.people[1] = rows[1]!.id;
    await sql`update shop set stops_below_floor = true, stops_below_cost = true`.execute(this.db.q);
    this.began = (await this.landings()).at(-1) ?? '0';
  }

  /** What landed since they began, in that order. */
  async landings(): Promise<string[]> {
    const { rows } = await sql<{ id: string }>`
      select id from landing where id > ${this.began}::bigint order by id`.execute(this.db.q);
    return rows.map(({ id }) => id);
  }

  get db() {
    return this.server.db;
  }

  person({ by }: { by: 0 | 1 }): string {
    return this.people[by];
  }

  /** One row of a table, by a number; undefined where it has none. */
  async pick(table: string, number: number, where = 'true'): Promise<{ id: string; name: string } | undefined> {
    const name = table === 'sku' ? 'code' : 'name';
    const { rows } = await this.db.pool.query<{ id: string; name: string }>(
      `select id::text, ${name} as name from (select *, row_number() over (order by id) - 1 as n, count(*) over () as many
       from ${table} where ${where}) x where n = $1 % many`,
      [number],
    );
    return rows[0];
  }

  async hand(person: string): Promise<string | undefined> {
    const { rows } = await sql<{ id: string }>`
      select id from proof where person_id = ${person} and kind = 'hand' and state = 'open'`.execute(this.db.q);
    return rows[0]?.id;
  }

  /** What does not hold; nothing where all is well. */
  async wrong(): Promise<string[]> {
    return inTransaction(this.db, async (tx) => [
      ...(await this.dangling(tx)),
      ...(await staleShelf(tx)).map((sku) => `the row of SKU ${sku} in the read model`),
      ...(await stalePlain(tx)),
      ...(await this.otherWarnings(tx)),
      ...(await passedStops(tx)),
    ]);
  }

  /** Whether the time of any plan has come. */
  async isDue(): Promise<boolean> {
    const { rows } = await sql`
      select from planned where state in ('planned', 'landed')
        and case when landing_id is null then lands_at else back_at end <= now() limit 1`.execute(this.db.q);
    return rows.length > 0;
  }

  /** Keeps what the sheet says at this moment, to be held against what it says of this moment later. */
  async look(): Promise<void> {
    // A landing belongs to the millisecond in which it ended.
    await wait(3);
    this.seen.push({ at: this.db.clock(), rows: await this.sheet() });
    await wait(3);
  }

  private async sheet(at?: number): Promise<Rows> {
    const { register } = await readShop(this.db);
    const columns = register.goods.filter((field) => !field.notInRows && isOnRecord(field)).map(({ key }) => key);
    return this.server.call(calls.answerQuestion, {
      body: { question: '', columns, sort: { field: 'code', down: false } },
      ...(at !== undefined && { at: new Date(at).toISOString() }),
    });
  }

  /** What is not said today of a moment as it was said then, of goods and fields that still are. */
  async otherThen(): Promise<string[]> {
    const found: string[] = [];
    for (const { at, rows: then } of this.seen) {
      const now = await this.sheet(at);
      const places = then.columns.map((key) => now.columns.indexOf(key));
      const rows = new Map(now.rows.map((row) => [row[0], row]));
      for (const row of then.rows) {
        const again = rows.get(row[0]);
        if (!again) continue;
        for (const [i, key] of then.columns.entries())
          if (places[i]! >= 0 && row[3 + i] !== again[3 + places[i]!])
            found.push(`${key} of SKU ${row[0]} was ${row[3 + i]}, and is said to have been ${again[3 + places[i]!]}`);
      }
    }
    return found;
  }

  /** References to what is not there, of every field that refers to anything. */
  private async dangling(tx: Tx): Promise<string[]> {
    const shop = await readShop(tx);
    const found: string[] = [];
    for (const kind of KIND_KEYS) {
      for (const field of shop.register.referring(kind)) {
        const references = referencesOf(field);
        if (!references) continue;
        const { rows } = await sql<{ id: string; ref: string }>`
          select id, ref from (${references}) u where ref is not null
            and not exists (select from ${sql.table(KINDS[kind].table)} t where t.id = u.ref) limit 1`.execute(tx.q);
        for (const { id, ref } of rows) found.push(`${field.kind} ${id} has ${kind} ${ref} as its ${field.key}`);
      }
    }
    for (const { id, rule } of shop.kept) {
      const field = shop.register.at('assortment', 'rule')!;
      for (const kind of THINGS) {
        for (const named of typeOf(field).namesWithin!(rule, kind, shop)) {
          const { rows } = await sql`select from ${sql.table(KINDS[kind].table)} where id = ${named}::bigint`.execute(
            tx.q,
          );
          if (rows.length === 0) found.push(`the rule of assortment ${id} names ${kind} ${named}`);
        }
      }
    }
    return found;
  }

  /** Open proofs whose looks are not those of a fresh examination. */
  private async otherWarnings(tx: Tx): Promise<string[]> {
    const { rows: open } = await sql<{ id: string; at: Date | null }>`
      select p.id, x.lands_at as at from proof p left join planned x on x.proof_id = p.id and x.state = 'planned'
      where p.state = 'open' and not exists (
        select from landing g where not pg_visible_in_snapshot(g.xid, p.examined))`.execute(tx.q);
    const shop = await readShop(tx);
    const found: string[] = [];
    for (const { id, at } of open) {
      // What is planned is looked over as of its moment.
      const then = at === null ? tx : { ...tx, clock: () => momentOf(at.getTime()) };
      const read = async () =>
        (
          await sql<{ line: string; flags: number }>`
            select kind || ' ' || id || ' ' || field || ' ' || scope || ' ' || coalesce(after, '') as line, flags & ~8 as flags
            from proof_line where proof_id = ${id} order by kind, id, field, scope`.execute(tx.q)
        ).rows;
      const before = await read();
      await sql`savepoint fresh`.execute(tx.q);
      await examineProof(then, id, shop);
      const after = await read();
      await sql`rollback to savepoint fresh`.execute(tx.q);
      for (const [i, { line, flags }] of after.entries())
        if (before[i]!.flags !== flags)
          found.push(`looks of ${line} in proof ${id}: ${before[i]!.flags}, afresh ${flags}`);
    }
    return found;
  }

  /** The shop as it stands, apart from how it came to be so. */
  async truth(): Promise<Readonly<Record<string, string>>> {
    const { register } = await readShop(this.db);
    const stores = [...KIND_KEYS].flatMap((kind) => register.of(kind).map(({ store }) => store));
    const tables = new Set([
      ...KIND_KEYS.map((kind) => KINDS[kind].table),
      ...stores.flatMap((store) => ('table' in store && !('onRecord' in store) ? [store.table] : [])),
      ...['product_own', 'sku_own', 'stock_total'],
    ]);
    const found: Record<string, string> = {};
    for (const table of tables) {
      // The record has the earlier value of each price and sale.
      if (table === 'price' || table === 'sale') continue;
      const { rows } = await this.db.pool.query<{ rows: string }>(
        `select coalesce(string_agg(to_jsonb(t)::text, E'\\n' order by to_jsonb(t)::text), '') as rows from ${table} t
         ${NOTHING_THERE[table] ?? ''}`,
      );
      found[table] = rows[0]!.rows;
    }
    const { rows } = await this.db.pool.query<{ rows: string }>(
      `select string_agg(sku_id || ' ' || coalesce(regular::text, '') || ' ' || coalesce(cost::text, ''), E'\\n' order by sku_id) as rows from price`,
    );
    return { ...found, price: rows[0]!.rows };
  }
}

/** Descriptions that are compared as they are not any more. */
async function stalePlain({ q }: Tx): Promise<string[]> {
  const { rows } = await sql<{ id: string }>`
    select id from product p left join product_plain x on x.product_id = p.id
    where x.description is distinct from fold(plain_text(p.description)) limit 3`.execute(q);
  return rows.map(({ id }) => `what the description of product ${id} is compared as`);
}

/** Fields of which it is known what they were: those that are kept, and what sales made of the price; not what is worked out of both. */
const isOnRecord = ({ key, store }: Field): boolean => store.in !== 'computed' || key === 'current' || key === 'sale';

/** Rows that say the same as none: no stock and a stock of 0 are alike. */
const NOTHING_THERE: Readonly<Record<string, string>> = { stock_total: 'where on_hand <> 0' };
