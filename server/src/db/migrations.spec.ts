import { sql } from 'kysely';
import { landingLines } from '../changes/journal/journal.ts';
import { land } from '../changes/land/land.ts';
import { takeBack } from '../changes/propose/takeBack.ts';
import { emptyDatabase } from '../testing/freshDatabase.ts';
import { connect, type Db, inTransaction } from './connect.ts';
import { migrate } from './migrate.ts';
import { MIGRATIONS } from './migrations/index.ts';
import { staleShelf } from './shelf.ts';

/** What a shop holds by its first version: two products, one without price, brand, category or picture. */
const FIRST_VERSION = `
  insert into shop (name, currency, time_zone, floor_margin_bp, large_change_percent) values ('Teasel', 'GBP', 'Europe/London', 2500, 30);
  insert into person (name) values ('Ada');
  insert into brand (name) values ('Harrow & Pine');
  insert into category (name) values ('Ink');
  insert into category (parent_id, name) values (1, 'Bottled');
  insert into product (name, slug, description, brand_id, stage) values
    ('Larkspur Ink', 'larkspur', 'Blue.', 1, 'On sale'), ('Bare', 'bare', null, null, 'Preparing');
  insert into placement (product_id, category_id, place) values (1, 2, 0);
  insert into picture (product_id, place, key) values (1, 0, 'abc');
  insert into sku (product_id, code, colour, size, gtin, weight_g) values
    (1, 'LI-1', 'Blue', '50 ml', '9506000134352', 180), (2, 'BA-1', null, null, '9506000134353', null);
  insert into price (sku_id, regular, cost) values (1, 1200, 400), (2, null, null);
  insert into stock_movement (sku_id, quantity, reason, person_id) values (1, 7, 'count', 1);
  insert into shelf (sku_id, product_id, tax_bp, stock, pictures, described, gtin_good, price, cost, brand_id, weight_g, within,
    stage, when_out, name_key, code_key, colour_key, size_key, name, code, colour, size, gtin, categories, picture_key, words) values
    (1, 1, 2000, 7, 1, true, true, 1200, 400, 1, 180, '{1,2}', 'On sale', 'show it as sold out', 'larkspur ink', 'li-1', 'blue',
      '50 ml', 'Larkspur Ink', 'LI-1', 'Blue', '50 ml', '9506000134352', '2', 'abc', 'larkspur ink li-1 blue 50 ml 9506000134352 harrow & pine'),
    (2, 2, 2000, 0, 0, false, false, null, null, null, null, '{}', 'Preparing', 'show it as sold out', 'bare', 'ba-1', null,
      null, 'Bare', 'BA-1', null, null, '9506000134353', null, null, 'bare ba-1 9506000134353');
  insert into import_file (person_id, file_name, file_key, encoding, delimiter, columns) values (1, 'list.csv', 'abc', 'utf-8', ';', '[]')`;

describe('migrations', () => {
  let db: Db;
  let drop: () => Promise<void>;
  beforeEach(async () => {
    const made = await emptyDatabase();
    drop = made.drop;
    db = connect(made.url, { connections: 2 });
  });
  afterEach(async () => {
    await db.pool.end();
    await drop();
  });

  it('bring a shop of the first version to the newest with all that it holds', async () => {
    await migrate(db, '001_first_slice');
    await db.pool.query(FIRST_VERSION);
    const columns = 'sku_id, name, code, price, cost, margin_bp, gaps, stock, within, words';
    const read = async () => (await db.pool.query<object>(`select ${columns} from shelf order by sku_id`)).rows;
    const before = await read();
    await migrate(db);
    expect(await read()).toEqual(before);
    const files = await db.pool.query<object>('select file_name, heading_row, decimal_sign from import_file');
    expect(files.rows).toEqual([{ file_name: 'list.csv', heading_row: 1, decimal_sign: '.' }]);
    const plain = await db.pool.query<object>('select product_id::int as product, description from product_plain');
    expect(plain.rows)
      .withContext('descriptions as they are compared')
      .toEqual([{ product: 1, description: 'blue.' }]);
    expect(await inTransaction(db, staleShelf))
      .withContext('the read model is what it would be derived to')
      .toEqual([]);
  });

  it('bring a shop with proofs, outlets and odd names along from the version before it was attacked', async () => {
    await migrate(db, '001_first_slice');
    await db.pool.query(FIRST_VERSION);
    await migrate(db, '007_without_headings');
    await db.pool.query(`
      insert into brand (name) values ('Fox’s'), ('Fox''s');
      update product set name = 'Fox’s Larkspur' where id = 1;
      update shelf_facts set name_key = 'fox’s larkspur' where sku_id = 1;
      update shelf_words set name = 'Fox’s Larkspur', words = replace(words, 'larkspur ink', 'fox’s larkspur') where sku_id = 1;
      insert into outlet (name, settings) values ('Finder',
        '{"title": "T", "link": "http://a", "prefix": "e", "namespace": "urn:x", "fileName": "f.xml", "address": "http://b"}');
      insert into proof (person_id, kind, title) values (1, 'hand', '');
      insert into proof_edit (proof_id, no, title) values (1, 1, 'a'), (1, 2, 'b'), (1, 3, 'c');
      insert into proof_line (proof_id, edit_no, level, id, field, before, after, under) values
        (1, 3, 'sku', 1, 'price', '1200', '1500', '{"edit": 2, "after": "1400", "under": {"edit": 1, "after": "1300", "under": null}}'),
        (1, 1, 'sku', 2, 'price', null, '900', null);
      insert into landing (person_id, title, kind, lines, skus, proof_id) values (1, 'First', 'hand', 1, 1, 77);
      insert into landing (person_id, title, kind, lines, skus, proof_id, takes_back) values
        (1, 'Back', 'take back', 1, 1, 78, 1), (1, 'Back again', 'take back', 1, 1, 79, 1)`);
    await migrate(db);
    const rows = async (query: string) => (await db.pool.query<Record<string, unknown>>(query)).rows;
    expect(await rows('select id, after, under from proof_line order by id')).toEqual([
      {
        id: '1',
        after: '1500',
        under: [
          [2, '1400'],
          [1, '1300'],
        ],
      },
      { id: '2', after: '900', under: null },
    ]);
    const [brand, other] = await rows(`select name, name_key from brand where name like 'Fox%' order by id`);
    expect([brand!['name_key'], other!['name_key']].sort()).toEqual(["fox's", "fox's 2"]);
    expect(await rows('select name_key from shelf where sku_id = 1')).toEqual([{ name_key: "fox's larkspur" }]);
    const [outlet] = await rows('select settings from outlet');
    expect(outlet!['settings']).toEqual(
      jasmine.objectContaining({ fileName: 'f.xml', namespace: 'https://schema.org/', prefix: 's' }),
    );
    expect((outlet!['settings'] as { names: unknown }).names).toEqual(
      jasmine.objectContaining({ sku: 'sku', inProductGroupWithID: 'inProductGroupWithID' }),
    );
    expect(await rows('select pg_visible_in_snapshot(g.xid, p.seen) as seen from landing g, proof p')).toEqual(
      [1, 2, 3].map(() => ({ seen: true })),
    );
    expect(await inTransaction(db, staleShelf)).toEqual([]);
  });

  it('make options of colour and size, with a journal that is read and taken back as before', async () => {
    await migrate(db, '001_first_slice');
    await db.pool.query(FIRST_VERSION);
    await migrate(db, '010_feeds_in_open_words');
    await db.pool.query(`
      insert into product (name, slug) values ('Third', 'third');
      insert into sku (product_id, code, colour, size) values (3, 'TH-1', 'BLUE', null), (3, 'TH-2', 'Blue', '50 ML'), (3, 'TH-3', ' ', null);
      insert into price (sku_id, regular) values (3, 100), (4, 100), (5, 100);
      insert into proof (person_id, kind, title, state) values (1, 'hand', '', 'landed'), (1, 'hand', '', 'open');
      insert into landing (person_id, title, kind, lines, skus, proof_id) values (1, 'Dyed', 'hand', 2, 2, 1);
      insert into journal_chunk (landing_id, level, field, chunk, first_id, last_id, ids, before, after) values
        (1, 'sku', 'colour', 0, 1, 2, '{1,2}', '{Indigo,Gone}', '{Blue,null}'),
        (1, 'sku', 'price', 0, 1, 1, '{1}', '{1100}', '{1200}');
      insert into proof_edit (proof_id, no, title) values (2, 1, 'a'), (2, 2, 'b');
      insert into proof_line (proof_id, edit_no, level, id, field, before, after, under) values
        (2, 2, 'sku', 1, 'size', '50 ml', '80 ml', '[[1, "60 ml"]]');
      update import_file set columns = '[{"heading": "colour", "field": "colour", "by": "name"}, {"heading": "Code", "field": "code", "by": "name"}]',
        settings = '{"columns": ["colour", "code"], "decimalSign": "."}';
      insert into outlet (name, settings) values ('Finder', '{"names": {"sku": "ref"}}')`);
    await inTransaction(db, async (tx) => {
      // The read model of then, of the goods that were added here.
      await tx.client.query(`
        insert into shelf_facts (sku_id, product_id, tax_bp, stock, pictures, described, lasting_gaps, price, stage, when_out, name_key, code_key, within)
        select k.id, 3, 2000, 0, 0, false, 1 + 2 + 4 + 64 + 128 + 256, 100, 'Preparing', 'show it as sold out', 'third', lower(k.code), '{}' from sku k where k.id > 2;
        insert into shelf_words (sku_id, name, code, words)
        select k.id, 'Third', k.code, concat_ws(' ', 'third', lower(k.code), nullif(fold(k.colour), ''), nullif(fold(k.size), '')) from sku k where k.id > 2`);
    });
    await migrate(db);
    const rows = async (query: string) => (await db.pool.query<Record<string, unknown>>(query)).rows;
    expect(await rows('select name from choice where field_id = 1 order by name')).toEqual(
      ['Blue', 'Gone', 'Indigo'].map((name) => ({ name })),
    );
    expect(
      await rows(
        'select s.code, c.name from sku s join sku_own o on o.sku_id = s.id left join choice c on c.id = o.c1 order by s.id',
      ),
    ).toEqual([
      { code: 'LI-1', name: 'Blue' },
      { code: 'BA-1', name: null },
      { code: 'TH-1', name: 'Blue' },
      { code: 'TH-2', name: 'Blue' },
      { code: 'TH-3', name: null },
    ]);
    expect(await inTransaction(db, staleShelf))
      .withContext('the read model is what it would be derived to')
      .toEqual([]);
    const [file] = await rows('select columns, settings from import_file');
    expect(file).toEqual({
      columns: [
        { heading: 'colour', field: 'own:1', by: 'name' },
        { heading: 'Code', field: 'code', by: 'name' },
      ],
      settings: { columns: ['own:1', 'code'], decimalSign: '.' },
    });
    const [outlet] = await rows('select settings from outlet');
    expect(outlet!['settings']).toEqual({
      names: {
        availabilityStarts: 'availabilityStarts',
        sku: 'ref',
        material: '',
        pattern: '',
        StrikethroughPrice: 'StrikethroughPrice',
        shippingDetails: 'shippingDetails',
        UnitPriceSpecification: 'UnitPriceSpecification',
      },
    });

    // What stood in the proof in hand is still proposed, and can be undone as far as before.
    const pending = await rows(
      `select l.field, a.name as after, u.name as under from proof_line l join choice a on a.id = l.after::bigint
       join choice u on u.id = (l.under->0->>1)::bigint`,
    );
    expect(pending).toEqual([{ field: 'own:2', after: '80 ml', under: '60 ml' }]);

    const [before] = (await landingLines(db, '1', { from: 0, count: 10 })).lines;
    expect([before!.called, before!.before, before!.after]).toEqual(['colour', 'Indigo', 'Blue']);
    const proof = await takeBack(db, '1', '1');
    await land(db, proof, '1');
    expect(
      await rows(
        'select c.name, r.regular from sku_own o left join choice c on c.id = o.c1 join price r using (sku_id) where o.sku_id in (1, 2) order by 1',
      ),
    ).toEqual([
      { name: 'Gone', regular: null },
      { name: 'Indigo', regular: '1100' },
    ]);
    expect(await inTransaction(db, staleShelf)).toEqual([]);
  });

  it('make sales of sale prices, with the days on which they began and ended, and a line for each SKU', async () => {
    await migrate(db, '001_first_slice');
    await db.pool.query(FIRST_VERSION);
    await migrate(db, '023_warnings_stop');
    await db.pool.query(`insert into sale_price (sku_id, sale, price, span) values
      (1, 'Autumn', 900, '[2026-09-01 00:00+01,2026-10-01 00:00+01)'), (2, 'Autumn', 500, '[2026-09-01 00:00+01,2026-10-01 00:00+01)'),
      (1, 'Autumn', 800, '[2027-09-01 00:00+01,2027-10-01 00:00+01)'), (2, 'Always', 400, '(,)')`);
    await migrate(db);
    const { rows: sales } = await db.pool.query<object>(`
      select s.name, date '1970-01-01' + s.from_day as "from", date '1970-01-01' + s.until_day as until, c.skus
      from sale s join sale_count c on c.sale_id = s.id order by s.name`);
    const day = (text: string) => new Date(`${text}T00:00`);
    expect(sales).toEqual([
      { name: 'Always', from: null, until: null, skus: 1 },
      { name: 'Autumn', from: day('2026-09-01'), until: day('2026-09-30'), skus: 2 },
      { name: 'Autumn 2', from: day('2027-09-01'), until: day('2027-09-30'), skus: 1 },
    ]);
    const { rows: lines } = await db.pool.query<object>(
      `select s.name, l.sku_id, l.price from sale_line l join sale s on s.id = l.sale_id order by s.name, l.sku_id`,
    );
    expect(lines).toEqual([
      { name: 'Always', sku_id: '2', price: '400' },
      { name: 'Autumn', sku_id: '1', price: '900' },
      { name: 'Autumn', sku_id: '2', price: '500' },
      { name: 'Autumn 2', sku_id: '1', price: '800' },
    ]);
  });

  it('put what was charged on record, as far as the journal has it', async () => {
    await migrate(db, '001_first_slice');
    await db.pool.query(FIRST_VERSION);
    await migrate(db, '024_sales');
    await db.pool.query(`
      with made as (
        insert into landing (person_id, at, title, kind, lines, skus, proof_id)
        select id, x.at::timestamptz, 'Prices', 'hand', 1, 1, x.proof from person, (values ('2026-10-01 10:00Z', 900001), ('2026-11-01 10:00Z', 900002)) x (at, proof)
        returning id, at)
      insert into journal_chunk (landing_id, kind, field, scope, chunk, first_id, last_id, ids, before, after)
      select id, 'sku', 'price', 0, 0, 1, 1, '{1}', array[case when at < '2026-10-15' then null else '700' end], '{900}' from made`);
    await migrate(db);
    const { rows } = await db.pool.query<object>(`
      select regular, since::text = '-infinity' as always, to_char(until at time zone 'UTC', 'YYYY-MM-DD HH24:MI') as until
      from price_past where sku_id = 1 order by until`);
    expect(rows).toEqual([
      { regular: null, always: true, until: '2026-10-01 10:00' },
      { regular: '700', always: false, until: '2026-11-01 10:00' },
    ]);
  });

  it('may be run again, one by one or all at once, and several at the same time', async () => {
    for (const name of Object.keys(MIGRATIONS)) await migrate(db, name);
    await Promise.all([migrate(db), migrate(db)]);
    const { rows } = await sql<{ name: string }>`select name from kysely_migration order by name`.execute(db.q);
    expect(rows.map(({ name }) => name)).toEqual(Object.keys(MIGRATIONS));
  });
});
