import { answers, COMPARISONS, comparisonsOf, gapsOf, parseQuestion, type Question, type Row } from '@ivory/core';
import { arbitraryCondition, arbitraryQuestion, fieldsToAsk, tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { sql } from 'kysely';
import { COLUMN_TYPES } from './columnSql.ts';
import { shelfAt, shelfColumn, shelfText } from './shelfSql.ts';
import { textRows } from '../../testing/index.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { startTestServer, type TestServer } from '../../testing/index.ts';
import { questionSql } from './questionSql.ts';

describe('a question in SQL and in memory', () => {
  let server: TestServer;
  let shop: Shop;
  let rows: { id: string; row: Row }[];

  beforeAll(async () => {
    server = await startTestServer();
    const { pool } = server.db;
    await pool.query(`insert into sku_list (title, skus) select 'Some of it', array_agg(id) from sku where id % 7 = 0`);
    await pool.query(`insert into sku_list (title, skus) values ('Nothing, yet', '{}')`);
    // Odd values, as suppliers and people leave them.
    await pool.query(`update product set name = 'Crème & "Brûlée" 100 %' where id = 3`);
    await pool.query(`update product set name = 'under_score \\ back' where id = 4`);
    await pool.query(`
      with ecru as (insert into choice (field_id, name) values (1, 'ÉCRU') returning id)
      update sku_own set c1 = (select id from ecru) where sku_id % 11 = 0`);
    // Assortments by rule, by hand, by the rule of another, and whose rules lead to one another.
    await pool.query(`
      insert into assortment (id, name, rule) overriding system value values
        (101, 'Dear', '{"kind":"compare","field":"price","comparison":">","values":["3000"]}'),
        (102, 'Dear or blue', '{"kind":"any","of":[{"kind":"compare","field":"assortment","comparison":"is","values":["101"]},{"kind":"word","text":"blue"}]}'),
        (103, 'Round', '{"kind":"not","of":{"kind":"compare","field":"assortment","comparison":"is","values":["104"]}}'),
        (104, 'And round', '{"kind":"compare","field":"assortment","comparison":"is","values":["103"]}'),
        (105, 'No rule that reads', '{"kind":"compare","field":"own:999","comparison":"is","values":["1"]}')`);
    await pool.query(`update product_own set put_in = array[101, 105], kept_out = array[102] where product_id % 9 = 0`);
    await pool.query(`
      update product set description = '<p>Dark<strong>er</strong> &amp; <em>ink</em></p><ul><li>50 ml</li></ul>' where id % 6 = 0;
      update product_own set fits = '[["Ink","50 ml",2001,null,""],["A5","Café",null,2010,"no. 2"]]' where product_id % 5 = 0;
      update product_words set points = E'Blue ink\nor a"b', bought_note = 'is', page_title = 'price' where product_id % 3 = 0;
      insert into sku_part (sku_id, part_id, place) select id, id - 1, 0 from sku where id % 50 = 0`);
    // Landings on two days, of SKUs and of products.
    await pool.query(`
      insert into landing (id, proof_id, person_id, at, title, kind, lines, skus) overriding system value
        select n, n, 1, timestamptz '2026-11-20 23:30+00' + n * interval '1 day', 'x', 'hand', 1, 1 from generate_series(1, 3) n;
      insert into journal_chunk (landing_id, kind, field, chunk, first_id, last_id, ids, before, after) values
        (1, 'sku', 'price', 0, 3, 9, '{3,5,9}', '{1,1,1}', '{2,2,2}'), (2, 'product', 'name', 0, 2, 7, '{2,7}', '{a,b}', '{c,d}'),
        (3, 'sku', 'cost', 0, 5, 20, '{5,20}', '{1,1}', '{2,2}');
      update landing set name = 'Named' where id = 3`);
    await pool.query(`update product_own set customs_code = '48201030' where product_id % 4 = 0`);
    const { rebuildShelf } = await import('../shelf.ts');
    const { inTransaction } = await import('../connect.ts');
    await inTransaction(server.db, rebuildShelf);
    shop = await readShop(server.db);
    rows = await allRows();
  });

  afterAll(() => server.close());

  async function allRows(): Promise<{ id: string; row: Row }[]> {
    const { register } = shop;
    const columns = register.goods.map((field) => {
      if (field.key === 'description') return sql`(select p.description from product p where p.id = s.product_id)`;
      if (field.key === 'list')
        return sql`(select string_agg(k.id::text, '|') from sku_list k where s.sku_id = any(k.skus))`;
      if (field.key === 'changed' || field.type === 'titles' || (field.notInRows && field.store.in !== 'computed'))
        return COLUMN_TYPES[field.type].toText(shelfColumn(field));
      return shelfText(field, register);
    });
    const found = await textRows(
      server.db,
      sql`select s.sku_id, ${sql.join(columns)} from ${shelfAt(shop)} order by s.sku_id`,
    );
    return found.map(([id, ...values]) => ({
      id: id!,
      row: Object.fromEntries(register.goods.map(({ key }, i) => [key, values[i] ?? null])),
    }));
  }

  const inMemory = (question: Question) => rows.filter(({ row }) => answers(question, row, shop)).map(({ id }) => id);
  const inSql = async (question: Question) => {
    const found = await textRows(
      server.db,
      sql`select s.sku_id from ${shelfAt(shop)} where ${questionSql(question, shop)} order by s.sku_id`,
    );
    return found.map(([id]) => id!);
  };

  it('have the same gaps, those that attributes make among them', () => {
    for (const { row } of rows) expect(row.gap?.split('|') ?? []).toEqual(gapsOf(row, shop.register, shop.names));
    expect(rows.some(({ row }) => row.gap?.includes('own:'))).toBeTrue();
  });

  it('agree on every row, for random questions', async () => {
    await fc.assert(
      fc.asyncProperty(arbitraryQuestion(shop), async (question) => {
        expect(await inSql(question)).toEqual(inMemory(question));
      }),
      { numRuns: tries(300) },
    );
  });

  it('agree on every row for each comparison that each type of values takes', async () => {
    const asked = new Set<string>();
    for (const field of fieldsToAsk(shop))
      for (const comparison of comparisonsOf(field)) {
        // One field of each type and of each way in which it is kept.
        const way = `${field.type} ${field.store.in} ${comparison}`;
        if (asked.has(way)) continue;
        asked.add(way);
        await fc.assert(
          fc.asyncProperty(arbitraryCondition(field, comparison, shop), fc.boolean(), async (condition, isNot) => {
            const question: Question = isNot ? { kind: 'not', of: condition } : condition;
            expect(await inSql(question))
              .withContext(`${isNot ? 'not ' : ''}${field.key} ${comparison} ${condition.values.join()}`)
              .toEqual(inMemory(question));
          }),
          { numRuns: 4 },
        );
      }
    const taken = new Set([...asked].map((way) => way.split(' ').slice(2).join(' ')));
    expect(COMPARISONS.filter((comparison) => !taken.has(comparison)))
      .withContext('comparisons that no field takes')
      .toEqual([]);
  }, 120_000);

  it('agree on questions as people write them', async () => {
    const sizes: Record<string, number> = {};
    for (const text of [
      'in Ink margin < 45',
      'brulee 100',
      'under_score',
      'brand is empty or gap is "no GTIN"',
      'code starts with ig- not stage is Retired',
      'price between 5 and 10 colour is ecru, Blue',
      'description contains "packed by hand"',
      'list is "Some of it"',
      'list is not "Some of it" list is "Nothing, yet"',
      'paper weight between 90 and 120 g/m² tags is Gift, "Staff pick"',
      'properties is not Lightfast in Ink bottled on < 2026-06-01',
      'finish contains wax not refillable is yes',
      'gap is "no body" or reply is empty colour is filled',
      'assortment is Dear not assortment is "Dear or blue"',
      'assortment is empty in Ink',
      'not assortment is "And round" put in by hand is filled',
      'customs code starts with "48 20" country of origin is Japan, IT',
      'goes well with is filled badges is "Made by hand"',
      'cost > 0.4 times regular price',
      'cost >= regular price or markup < 90',
      'current price < 0.9 times regular price',
      'not cost >= 0.333333 times current price',
      'not profit >= cost',
      'bottled on in the last 400 days',
      'tags has at least 2',
      'tags has all of Gift, "Staff pick"',
      'gallery has at most 0 number of pictures is 0',
      'category has at least 2',
      'name is like "notebok"',
      'length of name > 30',
      'last changed >= 2026-11-01',
      'last changed is 2026-11-21 or last changed is empty',
      'not last changed in the last 5 days',
      'landed in x',
      'landed in is "X" or landed in starts with "no such landing"',
      'landed in is not "Named" landed in is filled',
      'not landed in ends with "amed" landed in contains x',
      'changed by merch',
      'not changed by contains "a" or changed by is "Nobody we know"',
      'price on Lamplight Finder > current price or own price on Lamplight Finder is filled',
    ]) {
      const read = parseQuestion(text, shop);
      if (!read.ok) throw new Error(text);
      const inMemory = rows.filter(({ row }) => answers(read.value, row, shop)).length;
      const { rows: counted } = await sql<{ n: number }>`
        select count(*)::int as n from ${shelfAt(shop)} where ${questionSql(read.value, shop)}`.execute(server.db.q);
      expect(counted[0]!.n).withContext(text).toBe(inMemory);
      sizes[text] = inMemory;
    }
    expect(sizes['in Ink margin < 45']).toBeGreaterThan(0);
    expect(sizes['brulee 100']).toBeGreaterThan(0);
    expect(sizes['under_score']).toBeGreaterThan(0);
    expect(sizes['assortment is Dear not assortment is "Dear or blue"']).toBeGreaterThan(0);
    expect(sizes['customs code starts with "48 20" country of origin is Japan, IT']).toBeGreaterThan(0);
    expect(sizes['list is not "Some of it" list is "Nothing, yet"']).toBe(0);
    expect(sizes['landed in x']).withContext('landed').toBeGreaterThan(0);
    expect(sizes['last changed >= 2026-11-01']).withContext('last').toBeGreaterThan(4);
    expect(sizes['name is like "notebok"']).withContext('name').toBeGreaterThan(0);
    expect(sizes['cost > 0.4 times regular price']).withContext('cost').toBeGreaterThan(0);
    expect(sizes['tags has at least 2']).withContext('tags').toBeGreaterThan(0);
  });
});
