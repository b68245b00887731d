import { sql } from 'kysely';
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
    db = connect(made.url, 2);
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
    expect(await inTransaction(db, staleShelf))
      .withContext('the read model is what it would be derived to')
      .toEqual([]);
  });

  it('may be run again, one by one or all at once, and several at the same time', async () => {
    for (const name of Object.keys(MIGRATIONS)) await migrate(db, name);
    await Promise.all([migrate(db), migrate(db)]);
    const { rows } = await sql<{ name: string }>`select name from kysely_migration order by name`.execute(db.q);
    expect(rows.map(({ name }) => name)).toEqual(Object.keys(MIGRATIONS));
  });
});
