import { type FieldKey, KIND_KEYS, KINDS, type KindKey, typeOf } from '@ivory/core';
import { ruleOf } from '@ivory/core/testing';
import fc from 'fast-check';
import { sql } from 'kysely';
import { examineProof } from '../changes/examine/examinations.ts';
import { land } from '../changes/land/land.ts';
import { leaveOut } from '../changes/proof/lines.ts';
import { discard } from '../changes/proof/proof.ts';
import { setAside, takeUp } from '../changes/proof/setAside.ts';
import { redoLast, undoLast } from '../changes/proof/undo.ts';
import { copyProduct } from '../changes/propose/copyProduct.ts';
import { editCells } from '../changes/propose/editCells.ts';
import { makeProduct } from '../changes/propose/makeGoods.ts';
import { makeThings } from '../changes/propose/makeThings.ts';
import { moveThings } from '../changes/propose/moveThings.ts';
import { putRule } from '../changes/propose/putRule.ts';
import { putStep } from '../changes/propose/putStep.ts';
import { setQuantityPrices } from '../changes/propose/quantityPrices.ts';
import { removeThings } from '../changes/propose/removeThings.ts';
import { takeSkusAway } from '../changes/propose/takeSkusAway.ts';
import { referencesOf } from '../changes/stores/stores.ts';
import { inTransaction, type Tx } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { readShop } from '../range/names.ts';
import { Refusal } from '../refusal.ts';
import { placeOrder } from '../shop/orders.ts';
import { OF_PRODUCTS, OF_SKUS, OF_THINGS, QUESTIONS, RULES, THINGS } from './merchantWords.ts';
import { passedStops } from './passedStops.ts';
import { type TestHouse } from './testHouse.ts';

/** One thing that a merchant does, with numbers by which it is chosen what it is done to. */
export interface Act {
  readonly do: keyof typeof ACTS;
  /** Which of two people does it. */
  readonly by: 0 | 1;
  readonly what: number;
  readonly which: number;
  readonly how: number;
}

/** A shop in which two merchants act, and what must always hold of it. */
export class Merchants {
  private readonly people: [string, string] = ['1', '2'];
  readonly landings: string[] = [];
  /** What was done and not refused, to be told where something does not hold. */
  readonly done: string[] = [];

  constructor(readonly house: TestHouse) {}

  async begin(): Promise<void> {
    await sql`insert into person (name) values ('Bo Marsh')`.execute(this.db.q);
    const { rows } = await sql<{ id: string }>`select id from person where not is_shop order by id limit 2`.execute(
      this.db.q,
    );
    this.people[0] = rows[0]!.id;
    this.people[1] = rows[1]!.id;
    await sql`update shop set stops_below_floor = true, stops_below_cost = true`.execute(this.db.q);
  }

  get db() {
    return this.house.db;
  }

  person(act: Pick<Act, 'by'>): string {
    return this.people[act.by];
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

  /** Does an act; one that is refused changes nothing. */
  async act(act: Act): Promise<void> {
    try {
      const done = await ACTS[act.do](this, act);
      if (done !== undefined) this.done.push(`${act.by}: ${done}`);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      this.done.push(`${act.by}: (${act.do} refused: ${error.message.slice(0, 60)})`);
    }
  }

  /** What does not hold; nothing where all is well. */
  async wrong(): Promise<string[]> {
    return inTransaction(this.db, async (tx) => [
      ...(await this.dangling(tx)),
      ...(await staleShelf(tx)).map((sku) => `the row of SKU ${sku} in the read model`),
      ...(await this.otherLooks(tx)),
      ...(await passedStops(tx)),
    ]);
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
  private async otherLooks(tx: Tx): Promise<string[]> {
    const { rows: open } = await sql<{ id: string }>`
      select p.id from proof p where state = 'open' and not exists (
        select from landing g where not pg_visible_in_snapshot(g.xid, p.examined))`.execute(tx.q);
    const shop = await readShop(tx);
    const found: string[] = [];
    for (const { id } of open) {
      const read = async () =>
        (
          await sql<{ line: string; flags: number }>`
            select kind || ' ' || id || ' ' || field || ' ' || scope || ' ' || coalesce(after, '') as line, flags & ~8 as flags
            from proof_line where proof_id = ${id} order by kind, id, field, scope`.execute(tx.q)
        ).rows;
      const before = await read();
      await sql`savepoint fresh`.execute(tx.q);
      await examineProof(tx, id, shop);
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
      // What stood before is on record for each price and sale, whatever became of it.
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

/** Rows that say the same as none: no stock and a stock of 0 are alike. */
const NOTHING_THERE: Readonly<Record<string, string>> = { stock_total: 'where on_hand <> 0' };

const chosen = <T>(list: readonly T[], number: number): T => list[number % list.length]!;

type Edits = Parameters<typeof editCells>[2]['edits'];

/** Types values by hand, all of them or none. */
const edit = (m: Merchants, act: Act, title: string, edits: Edits, make = false) =>
  editCells(m.db, m.person(act), { title, question: '', partly: false, make, edits });

/** What can be done; each says what it did, or nothing where there was nothing to do it to. */
const ACTS = {
  cell: async (m: Merchants, act: Act) => {
    const sku = await m.pick('sku', act.which);
    const field = chosen(Object.keys(OF_SKUS), act.what) as FieldKey;
    const text = chosen(OF_SKUS[field]!, act.how);
    await edit(m, act, 'Cells', [{ kind: 'sku', id: sku!.id, field, text }]);
    return `${field} of SKU ${sku!.name} to ${text}`;
  },
  fact: async (m: Merchants, act: Act) => {
    const product = await m.pick('product', act.which);
    const field = chosen(Object.keys(OF_PRODUCTS), act.what) as FieldKey;
    const of = OF_PRODUCTS[field]!;
    const text = typeof of === 'string' ? ((await m.pick(KINDS[of].table, act.how))?.name ?? '') : chosen(of, act.how);
    const edits = [{ kind: 'product' as const, id: product!.id, field, text }];
    await edit(m, act, 'Facts', edits, act.how % 2 === 0);
    return `${field} of ${product!.name} to ${text}`;
  },
  price: async (m: Merchants, act: Act) => {
    const [sku, sale] = [await m.pick('sku', act.which), await m.pick('sale', act.what)];
    if (!sale) return undefined;
    const text = chosen(['as the sale', '0.10', '3.00', '', '0'], act.how);
    const edits = [{ kind: 'sku' as const, id: sku!.id, field: `salePrice@${sale.id}` as FieldKey, text }];
    await edit(m, act, 'In a sale', edits);
    return `price of ${sku!.name} in ${sale.name} to ${text}`;
  },
  thing: async (m: Merchants, act: Act) => {
    const kinds = Object.keys(OF_THINGS) as KindKey[];
    const kind = chosen(kinds, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const fields = OF_THINGS[kind]!;
    const field = chosen(Object.keys(fields), act.how) as FieldKey;
    const text = chosen(fields[field]!, act.which);
    await edit(m, act, 'Things', [{ kind, id: one.id, field, text }]);
    return `${field} of ${kind} ${one.name} to ${text}`;
  },
  archive: async (m: Merchants, act: Act) => {
    const product = await m.pick('product', act.which);
    const text = chosen(['yes', 'no'], act.how);
    await edit(m, act, 'Archive', [{ kind: 'product', id: product!.id, field: 'clearedAway', text }]);
    return `${product!.name} cleared away: ${text}`;
  },
  quantities: async (m: Merchants, act: Act) => {
    const product = await m.pick('product', act.which);
    const rows = [
      { from: '10', price: '3.00' },
      { from: String(20 + (act.what % 3)), price: '2.00' },
    ].slice(0, act.how % 3);
    await setQuantityPrices(m.db, m.person(act), { product: product!.id, rows });
    return `${rows.length} prices by quantity of ${product!.name}`;
  },
  name: async (m: Merchants, act: Act) => {
    const kind = chosen(THINGS, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const edits = [{ kind, id: one.id, field: 'name' as const, text: `Named ${act.how % 3}` }];
    await edit(m, act, 'Names', edits);
    return `name of ${kind} ${one.name}`;
  },
  make: async (m: Merchants, act: Act) => {
    const kind = chosen(THINGS, act.what);
    const of = kind === 'choice' ? '1' : null;
    const fields = Object.entries(OF_THINGS[kind] ?? {}).map(([field, texts]): [string, string] => [
      field,
      chosen(texts, act.how),
    ]);
    const more: Record<string, string> = kind === 'attribute' ? { type: 'text' } : {};
    await makeThings(m.db, m.person(act), {
      kind,
      of,
      things: [{ name: `Made ${act.which % 7}`, ...Object.fromEntries<string>(fields), ...more }],
    });
    return `made ${kind}`;
  },
  remove: async (m: Merchants, act: Act) => {
    const kind = chosen(THINGS, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    await removeThings(m.db, m.person(act), { kind, ids: [one.id], into: null });
    return `deleted ${kind} ${one.name}`;
  },
  merge: async (m: Merchants, act: Act) => {
    const kind = chosen(THINGS, act.what);
    const [one, into] = [await m.pick(KINDS[kind].table, act.which), await m.pick(KINDS[kind].table, act.how)];
    if (!one || !into) return undefined;
    await removeThings(m.db, m.person(act), { kind, ids: [one.id], into: into.id });
    return `merged ${kind} ${one.name} into ${into.name}`;
  },
  move: async (m: Merchants, act: Act) => {
    const [one, into] = [await m.pick('category', act.which), await m.pick('category', act.how)];
    const body = { kind: 'category' as const, ids: [one!.id], into: into!.id, before: null, propose: true };
    await moveThings(m.db, m.person(act), body);
    return `moved ${one!.name} into ${into!.name}`;
  },
  rule: async (m: Merchants, act: Act) => {
    const [question, text] = [chosen(QUESTIONS, act.which), chosen(RULES, act.what)];
    const shop = await readShop(m.db);
    let rule;
    try {
      rule = ruleOf(text, shop);
    } catch {
      // It names what is not there any more.
      return undefined;
    }
    await putRule(m.db, m.person(act), {
      ...{ question, title: text, rule },
      onHand: chosen(['on top', 'on top', 'instead', 'without'] as const, act.how),
    });
    return `rule on ${question}: ${text}`;
  },
  step: async (m: Merchants, act: Act) => {
    const [field, kind] = chosen(
      [
        ['tags', 'tag'],
        ['badges', 'badge'],
        ['category', 'category'],
        ['putIn', 'assortment'],
      ] as const,
      act.what,
    );
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const step = {
      do: chosen(['add to', 'take from', 'replace all'] as const, act.how),
      field,
      values: one.name,
    } as const;
    await putStep(m.db, m.person(act), { question: chosen(QUESTIONS, act.how), step, propose: true });
    return `${step.do} ${field}: ${one.name}`;
  },
  product: async (m: Merchants, act: Act) => {
    const brand = await m.pick('brand', act.which);
    const texts = { name: `New thing ${act.how}`, ...(brand && { brand: brand.name }) };
    await makeProduct(m.db, m.person(act), { texts, sku: { code: `NT-${act.how}`, price: '5.00', cost: '1.00' } });
    return `made a product of ${brand?.name}`;
  },
  copy: async (m: Merchants, act: Act) => {
    const product = await m.pick('product', act.which);
    await copyProduct(m.db, m.person(act), { product: product!.id, names: [`Twin ${act.how}`] });
    return `copied ${product!.name}`;
  },
  away: async (m: Merchants, act: Act) => {
    const sku = await m.pick('sku', act.which);
    await takeSkusAway(m.db, m.person(act), { skus: [sku!.id], keepStocked: false, propose: true });
    return `took SKU ${sku!.name} away`;
  },
  undo: async (m: Merchants, act: Act) => {
    await undoLast(m.db, m.person(act));
    return 'undo';
  },
  redo: async (m: Merchants, act: Act) => {
    await redoLast(m.db, m.person(act));
    return 'redo';
  },
  leave: async (m: Merchants, act: Act) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined) return undefined;
    const { rows } = await sql<{ kind: KindKey; id: string; field: FieldKey; scope: string }>`
      select kind, id, field || case when scope = 0 then '' else '@' || scope end as field from proof_line
      where proof_id = ${hand} order by kind, id, field, scope offset ${act.which % 5} limit 1`.execute(m.db.q);
    if (!rows[0]) return undefined;
    const { kind, id, field } = rows[0];
    await inTransaction(m.db, (tx) => leaveOut(tx, hand, { out: act.how % 3 > 0, lines: [{ kind, id, field }] }));
    return `left ${act.how % 3 > 0 ? 'out' : 'in'}: ${kind} ${id} ${field}`;
  },
  aside: async (m: Merchants, act: Act) => {
    await setAside(m.db, m.person(act), { name: `Aside ${act.what % 5}`, note: '' });
    return 'set aside';
  },
  takeUp: async (m: Merchants, act: Act) => {
    const { rows } = await sql<{ id: string }>`
      select id from proof where kind = 'aside' and state = 'open' order by id limit 1`.execute(m.db.q);
    if (!rows[0]) return undefined;
    await takeUp(m.db, m.person(act), rows[0].id);
    return 'took up';
  },
  discard: async (m: Merchants, act: Act) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined || act.how % 3 > 0) return undefined;
    await inTransaction(m.db, (tx) => discard(tx, hand));
    return 'discarded';
  },
  land: async (m: Merchants, act: Act) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined) return undefined;
    m.landings.push(await land(m.db, hand, m.person(act)));
    return 'landed';
  },
  order: async (m: Merchants, act: Act) => {
    const sku = await m.pick('sku', act.which);
    const key = `order-key-${act.which}-${act.how}`;
    const before = (await sql<{ id: string }>`select id from shop_order where key = ${key}`.execute(m.db.q)).rows
      .length;
    await placeOrder(m.db, { key, lines: [{ code: sku!.name, quantity: 1, text: '' }], country: null });
    if (before > 0) return undefined;
    const { rows } = await sql<{ landing_id: string }>`
      select landing_id from shop_order where key = ${key}`.execute(m.db.q);
    m.landings.push(rows[0]!.landing_id);
    return `ordered ${sku!.name}`;
  },
} as const;

/** How often each is done. */
const OFTEN: Readonly<Partial<Record<keyof typeof ACTS, number>>> = {
  land: 6,
  remove: 4,
  merge: 3,
  make: 3,
  fact: 4,
  cell: 4,
  undo: 3,
  redo: 2,
};

const number = fc.integer({ min: 0, max: 999 });
/** Acts in any order. */
export const anyActs = (most: number): fc.Arbitrary<Act[]> =>
  fc.array(
    fc.record({
      do: fc.oneof(
        ...(Object.keys(ACTS) as (keyof typeof ACTS)[]).map((one) => ({
          weight: OFTEN[one] ?? 1,
          arbitrary: fc.constant(one),
        })),
      ),
      by: fc.constantFrom(0 as const, 0 as const, 1 as const),
      what: number,
      which: number,
      how: number,
    }),
    { minLength: Math.min(16, most), maxLength: most },
  );
