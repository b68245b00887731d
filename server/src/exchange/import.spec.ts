import { calls, type Import, type ProofSummary } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { DEMO_SKUS, seedDemo, supplierFile } from '@ivory/demo';
import { parse } from 'csv-parse/sync';
import { readFile } from 'node:fs/promises';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';
import { LARGEST_FILE } from './file/sniff.ts';

interface Settings {
  makeProducts?: boolean;
  makeNames?: boolean;
  decimalSign?: '.' | ',';
  columns?: (FieldKey | null)[];
  joinVariants?: boolean;
  productColumn?: number;
}

describe('an import', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  /** Reads an uploaded file into a proof, its headings as matched unless said otherwise. */
  async function read(file: Import, settings: Settings = {}) {
    const columns = settings.columns ?? file.columns.map(({ field }) => field);
    const body = {
      columns,
      decimalSign: settings.decimalSign ?? ('.' as const),
      makeProducts: settings.makeProducts ?? (columns.includes('name') && columns.includes('price')),
      makeNames: settings.makeNames ?? true,
      joinVariants: settings.joinVariants ?? true,
      productColumn: settings.productColumn ?? null,
    };
    const { work } = await server.call(calls.readImport, { params: { id: file.id }, body });
    const ended = await server.finished(work);
    const now: Import = await server.call(calls.getImport, { params: { id: file.id } });
    return { ended, counts: now.counts, joined: now.joined, proof: ended.result, id: file.id };
  }
  const importOf = async (text: string, settings: Settings = {}) =>
    read(await server.upload('list.csv', text), settings);
  const rows = async (id: string, outcome: 'new' | 'changed' | 'same' | 'refused') =>
    (await server.call(calls.getImportRows, { params: { id }, query: { outcome, count: 500 } })).rows;
  const summary = async (id: string): Promise<ProofSummary> =>
    (await server.call(calls.getProof, { params: { id } })).proof;
  const land = (id: string) => server.call(calls.landProof, { params: { id } });
  const known = async () => {
    const { rows } = await server.db.pool.query<{ code: string; name: string; price: string; brand: string }>(
      `select code, s.name, (price / 100.0)::numeric(12, 2)::text as price, b.name as brand
       from shelf s join brand b on b.id = s.brand_id where price > 0 order by sku_id limit 5`,
    );
    return rows;
  };

  describe('of the supplier’s list of 1,500 rows', () => {
    it('has the list that the generator makes', async () => {
      const kept = await readFile(
        new URL('../../../demo/supplier-files/northgate-trade-autumn.csv', import.meta.url),
        'utf8',
      );
      expect(kept).toBe(supplierFile());
      expect(parse(kept)).toHaveSize(1501);
    });

    it('becomes a proof of new, changed, same and refused rows; landed and read again it changes nothing', async () => {
      await inTransaction(server.db, async (tx) => {
        await tx.client.query(
          'truncate shop, brand, supplier, tag, badge, unit, tax_class, picture, customer_group, country_group, shipping_profile, stock_place, assortment, choice, category, product, sku, outlet restart identity cascade',
        );
      });
      await server.db.pool.query(`delete from own_field where kind = 'attribute'`);
      await seedDemo(server.db, { skus: DEMO_SKUS });
      const file = await server.upload('northgate.csv', supplierFile());
      expect(file.columns.map(({ field }) => field)).toEqual([
        ...(['code', 'name', 'brand', 'cost', 'price', 'category', 'own:1', 'own:2', 'gtin', 'weight'] as const),
        null,
      ]);
      const first = await read(file);
      const { counts } = first;
      expect(counts!.new + counts!.changed + counts!.same + counts!.refused).toBe(1500);
      expect(counts!.new).toBeGreaterThan(300);
      expect(counts!.changed).toBeGreaterThan(300);
      const refused = await rows(first.id, 'refused');
      expect(refused).toHaveSize(counts!.refused);
      for (const { row, reasons } of refused) {
        expect(row).toBeGreaterThan(1);
        expect(reasons.length).toBeGreaterThan(0);
      }
      await land(first.proof!);
      expect(await inTransaction(server.db, staleShelf)).toEqual([]);

      const again = await read(await server.upload('northgate.csv', supplierFile()));
      expect(again.counts).toEqual({ new: 0, changed: 0, same: 1500 - counts!.refused, refused: counts!.refused });
      expect((await summary(again.proof!)).lines).toBe(0);
    });
  });

  it('touches only the columns that are taken and the cells that are filled; a mark empties', async () => {
    const [one, two] = await known();
    const { proof, counts } = await importOf(`code,price,colour,brand\n${one!.code},77.50,,\n${two!.code},,(empty),`);
    expect(counts).toEqual({ new: 0, changed: 2, same: 0, refused: 0 });
    const { lines } = await server.call(calls.getProofLines, { params: { id: proof! } });
    expect(lines.map(({ code, field, after }) => [code, field, after]).sort()).toEqual(
      [
        [one!.code, 'price', '£77.50'],
        [two!.code, 'own:1', null],
      ].sort(),
    );
  });

  it('adds categories to those that a product has, and takes none away', async () => {
    const [one] = await known();
    const before = await server.db.pool.query<{ c: string }>('select categories as c from shelf where code = $1', [
      one!.code,
    ]);
    const { proof } = await importOf(`code,category\n${one!.code},Desk > Storage`);
    await land(proof!);
    const after = await server.db.pool.query<{ c: string }>('select categories as c from shelf where code = $1', [
      one!.code,
    ]);
    expect(after.rows[0]!.c.startsWith(before.rows[0]!.c + '|')).toBeTrue();
  });

  it('puts a product into every category that its rows name, once', async () => {
    const text = 'code,name,price,category\nZZ-1,Quill,5,Pens\nZZ-2,Quill,5,Desk | Pens\nZZ-3,Quill,5,Paper\n';
    await land((await importOf(text, { productColumn: 1 })).proof!);
    const shop = await server.call(calls.getShop);
    const { rows } = await server.db.pool.query<{ c: string }>(`select categories as c from shelf where code = 'ZZ-3'`);
    const named = rows[0]!.c.split('|').map((id) => shop.categories.find((category) => category.id === id)!.name);
    expect(named).toEqual(['Pens', 'Desk', 'Paper']);
    expect((await importOf(text)).counts!.same).toBe(3);
  });

  it('lets goods of one name and two brands be two products', async () => {
    const text =
      'code,name,price,brand,colour\nZZ-1,Quill,5,Moss Lane,White\nZZ-2,Quill,5,Goose & Gander,White\nZZ-3,Quill,6,Moss Lane,Grey\n';
    const { proof } = await importOf(text);
    await land(proof!);
    const { rows } = await server.db.pool.query<{ n: number }>(
      `select count(*)::int as n from shelf where name = 'Quill' group by product_id order by 1`,
    );
    expect(rows.map(({ n }) => n)).toEqual([1, 2]);
    expect((await importOf(text)).counts).toEqual({ new: 0, changed: 0, same: 3, refused: 0 });
  });

  describe('of new rows that may be variants of one product', () => {
    const products = async () => {
      const { rows } = await server.db.pool.query<{ codes: string }>(
        `select string_agg(code, ' ' order by code) as codes from sku where code like 'ZZ-%' group by product_id order by 1`,
      );
      return rows.map(({ codes }) => codes);
    };
    const text =
      'code,name,price,brand,category,supplier,colour\n' +
      'ZZ-1,Quill,5,Moss Lane,Pens,Northgate Trade,White\n' +
      'ZZ-2,quill,5,Moss Lane,Pens,Northgate Trade,Grey\n' +
      'ZZ-3,Quill,5,Moss Lane,Paper,Northgate Trade,Red\n' +
      'ZZ-4,Quill,5,Moss Lane,Pens,Fenwick Supplies,Blue\n' +
      'ZZ-5,Nib,1,Moss Lane,Pens,Northgate Trade,\n' +
      'ZZ-6,Nib,1,Moss Lane,Pens,Northgate Trade,\n' +
      'ZZ-7,Cap,1,Moss Lane,Pens,Northgate Trade,Red\n' +
      'ZZ-8,Cap,1,Moss Lane,Pens,Northgate Trade,red\n';

    it('joins those of one name, brand, category and supplier whose options differ, and says how many', async () => {
      const { joined, proof } = await importOf(text);
      expect(joined).toEqual({ rows: 2, products: 1 });
      await land(proof!);
      expect(await products()).toEqual(['ZZ-1 ZZ-2', 'ZZ-3', 'ZZ-4', 'ZZ-5', 'ZZ-6', 'ZZ-7', 'ZZ-8']);
      expect((await importOf(text)).counts).toEqual({ new: 0, changed: 0, same: 8, refused: 0 });
    });

    it('joins none when that is turned off', async () => {
      const { joined, proof } = await importOf(text, { joinVariants: false });
      expect(joined).toEqual({ rows: 0, products: 0 });
      await land(proof!);
      expect((await products()).length).toBe(8);
    });

    it('joins by the column that says so, whatever else the rows have in common', async () => {
      const said =
        'code,name,price,style\nZZ-1,Quill,5,A\nZZ-2,Quill,6,A\nZZ-3,Quill,7,B\nZZ-4,Quill,7,\nZZ-5,Quill,7,\n';
      const columns = ['code' as const, 'name' as const, 'price' as const, null];
      const { joined, proof } = await importOf(said, { columns, productColumn: 3 });
      expect(joined).toEqual({ rows: 2, products: 1 });
      await land(proof!);
      expect(await products()).toEqual(['ZZ-1 ZZ-2', 'ZZ-3', 'ZZ-4', 'ZZ-5']);
    });

    it('joins a new row to a product of the shop when a row of it stands in the same file, and else to none', async () => {
      await land((await importOf('code,name,price,colour\nZZ-1,Quill,5,White\n')).proof!);
      const alone = await importOf('code,name,price,colour\nZZ-2,Quill,5,Grey\n');
      expect(alone.joined).toEqual({ rows: 0, products: 0 });
      const beside = await importOf('code,name,price,colour\nZZ-1,Quill,5,White\nZZ-2,Quill,5,Grey\n');
      expect(beside.joined).toEqual({ rows: 1, products: 1 });
      await land(beside.proof!);
      expect(await products()).toEqual(['ZZ-1 ZZ-2']);
    });
  });

  it('makes products, brands and categories that are new, and taking it back takes them away again', async () => {
    const { proof } = await importOf(
      'code,name,price,brand,category,colour\n' +
        'ZZ-1,Quill,£4.50,Goose & Gander,Pens > Quills,White\nZZ-2,Quill,£4.75,Goose & Gander,Pens > Quills,Grey\n',
    );
    expect(await summary(proof!)).toEqual(jasmine.objectContaining({ newSkus: 2, skus: 0, products: 0 }));
    const { landing } = await land(proof!);
    expect(await server.codes('in Pens > Quills brand is "Goose & Gander"')).toEqual(['ZZ-1', 'ZZ-2']);
    const { rows: products } = await server.db.pool.query<{ slug: string; n: number }>(
      `select slug, (select count(*)::int from sku where product_id = p.id) as n from product p where name = 'Quill'`,
    );
    expect(products).toEqual([{ slug: 'quill', n: 2 }]);

    const back = await server.takeBack(landing!);
    await land(back.id);
    const left = await server.db.pool.query(
      `select 1 from product where name = 'Quill' union all select 1 from brand where name like 'Goose%' union all select 1 from category where name = 'Quills'`,
    );
    expect(left.rowCount).toBe(0);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('keeps what was made and is used since, when it is taken back', async () => {
    const { proof } = await importOf('code,name,price,category\nZZ-1,Quill,4.50,Pens > Quills\n');
    const { landing } = await land(proof!);
    const [one] = await known();
    await land((await importOf(`code,category\n${one!.code},Pens > Quills`)).proof!);
    const back = await server.takeBack(landing!);
    expect(back.leftOut).toBeGreaterThan(0);
    await land(back.id);
    expect(await server.codes('in Pens > Quills')).toEqual([one!.code]);
  });

  it('is read anew with other columns: the proof of before gives way to the new one', async () => {
    const [one] = await known();
    const file = await server.upload('list.csv', `code,price,name\n${one!.code},98.70,Renamed`);
    const first = await read(file, { columns: ['code', 'price', 'name'] });
    const settings = { columns: ['code', null, 'name'] as (FieldKey | null)[], makeNames: false };
    const second = await read(file, settings);
    expect((await summary(first.proof!)).state).toBe('discarded');
    expect((await summary(second.proof!)).fields).toEqual([jasmine.objectContaining({ field: 'name', lines: 1 })]);
    const now = await server.call(calls.getImport, { params: { id: file.id } });
    expect([now.proof, now.settings]).toEqual([second.proof!, jasmine.objectContaining(settings)]);
    // What landed stays as it is.
    await land(second.proof!);
    const third = await read(file, { columns: ['code', 'price', null] });
    expect((await summary(second.proof!)).state).toBe('landed');
    expect((await summary(third.proof!)).fields).toEqual([jasmine.objectContaining({ field: 'price', lines: 1 })]);
  });

  it('keeps the proof of before when it is read anew and that fails', async () => {
    const [one] = await known();
    const file = await server.upload('list.csv', `code,price\n${one!.code},98.70`);
    const { proof, counts } = await read(file);
    await server.db.pool.query(`alter table proof_line add constraint none check (false) not valid`);
    const again = await read(file);
    await server.db.pool.query(`alter table proof_line drop constraint none`);
    expect(again.ended.state).toBe('failed');
    const now = await server.call(calls.getImport, { params: { id: file.id } });
    expect([now.state, now.proof, now.counts]).toEqual(['read', proof!, counts]);
    expect((await summary(proof!)).state).toBe('open');
  });

  it('takes in, lands and takes back a large file, and finds all of it the same when it is read again', async () => {
    const [one] = await known();
    const rest = Array.from({ length: 5_500 }, (_, i) => `QQ-${i},Quill ${i >> 1},${1 + (i % 90)}.50`);
    const text = ['code,name,price', `${one!.code},Renamed,98.70`, ...rest, 'QQ-1,Quill again,2'].join('\n');
    const { proof, counts } = await importOf(text);
    expect(counts).toEqual({ new: 5_500, changed: 1, same: 0, refused: 1 });
    await server.finished((await land(proof!)).work!);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    expect(await server.codes('name is "Quill 7"')).toEqual(['QQ-14', 'QQ-15']);

    const again = await importOf(text);
    expect(again.counts).toEqual({ new: 0, changed: 0, same: 5_501, refused: 1 });
    const { total, rows: window } = await server.call(calls.getImportRows, {
      params: { id: again.id },
      query: { from: 2_990, count: 20 },
    });
    expect(total).toBe(5_502);
    expect(window.map(({ row, outcome, code }) => `${row} ${outcome} ${code}`)).toEqual(
      Array.from({ length: 20 }, (_, i) => `${2_992 + i} same QQ-${2_989 + i}`),
    );
    const results: string[][] = parse(await (await server.fetch(`/api/imports/${again.id}/results.csv`)).text());
    expect(results.slice(1).map(([row]) => Number(row))).toEqual(Array.from({ length: 5_502 }, (_, i) => i + 2));
    expect(results.at(-1)!.slice(1, 3)).toEqual(['refused', jasmine.stringContaining('stands in the file before')]);

    const [landing] = (await server.call(calls.listLandings)).landings;
    const back = await server.takeBack(landing!.id);
    await server.finished((await land(back.id)).work!);
    expect(await server.codes('code starts with QQ-')).toEqual([]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  describe('refuses rows, each with its row, value and reason', () => {
    const reasons = async (text: string, settings: Settings = {}) => {
      const { id } = await importOf(text, settings);
      return (await rows(id, 'refused')).map(({ row, reasons }) => `${row}: ${reasons.join(' ')}`);
    };

    it('prices that are none', async () => {
      const [one] = await known();
      const price = (text: string) => `${one!.code}${Math.random()},Ink,"${text}"\n`;
      const said = await reasons(
        `code,name,price\n${price('1O.50')}${price('-3')}${price('1e9')}${price('')}${price('12.505')}`,
      );
      expect(said[0]).toBe('2: “1O.50” has a letter where a digit belongs. Is 10.50 right?');
      expect(said[1]).toBe('3: “-3” is below nothing. A price or cost is 0.00 or more.');
      expect(said[2]).toBe('4: “1e9” is written with an exponent. Write all the digits of the amount.');
      expect(said[3]).toBe('5: The regular price is empty. It must be filled in.');
      expect(said[4]).toBe('6: “12.505” has too many decimals. This currency has 2.');
    });

    it('the same code twice: the first counts', async () => {
      const [one] = await known();
      const said = await reasons(`code,price\n${one!.code},7.00\n\n${one!.code.toLowerCase()},8.00\n`);
      expect(said).toEqual([
        `4: The code “${one!.code.toLowerCase()}” stands in the file before, in row 2. Each code may stand once.`,
      ]);
    });

    it('a path that is twelve levels deep', async () => {
      const path = Array.from({ length: 12 }, (_, i) => `L${i}`).join(' > ');
      const said = await reasons(`code,name,price,category\nZZ-1,Ink,5,${path}\n`);
      expect(said[0]).toContain('is too deep. Categories go 8 levels down.');
    });

    it('rows that contradict an earlier row of the same product', async () => {
      const text = 'code,name,price,brand\nZZ-1,Quill,5,\nZZ-2,Quill,5,Moss Lane\nZZ-3,Quill,5,Moss Lane\n';
      const same = await server.db.pool.query<{ code: string }>(
        `select code from shelf where product_id = (select product_id from shelf group by 1 having count(*) > 2 limit 1) order by sku_id`,
      );
      expect(await reasons(text)).toEqual([]);
      const codes = same.rows.map(({ code }) => code);
      expect(codes.length).toBeGreaterThan(1);
      expect(await reasons(`code,name\n${codes[0]},One name\n${codes[1]},Another\n`)).toEqual([
        '3: The name “Another” is not that of row 2, which is of the same product. A product has one.',
      ]);
    });

    it('rows with more cells than headings, as a comma without quotes makes them', async () => {
      expect(await reasons('code,name,price\nE-4,Ruler,12,50\nE-5,Ruler,12.50,,\n')).toEqual([
        '2: The row has 4 cells below 3 headings. Is a comma in it a decimal sign, or part of a text? Put that cell in quotes.',
      ]);
    });

    it('what cannot be seen in a name, and names that are too long, of their rows alone', async () => {
      const text =
        'code,name,price,brand,category\nE-1,Ru\u0007ler,5,,\nE-2,exe\u202egpj,5,,\nE-3,Ruler,5,' +
        `${'B'.repeat(3_000)},\nE-4,Ruler,5,,${'C'.repeat(300)}\nE-6,Ruler,5,constructor,__proto__\n`;
      const said = await reasons(text);
      expect(said.map((reason) => reason.split(':')[0])).toEqual(['2', '3', '4', '5']);
      expect(said[0]).toContain('cannot be seen (U+0007)');
      expect(said[1]).toContain('exe⟨U+202E⟩gpj');
      expect(said[2]).toContain('room for 200 characters');
    });

    it('only rows that would be new, when the file lacks what new goods need', async () => {
      const [one] = await known();
      const text = `Code,Price\n${one!.code},5\nE-9,5\n`;
      expect((await importOf(text, { makeProducts: true })).counts).toEqual({
        new: 0,
        changed: 1,
        same: 0,
        refused: 1,
      });
      expect(await reasons(text, { makeProducts: true })).toEqual([
        '3: The code is not in the shop, so the row would make a new SKU, and for that the file has no name. Match a column to it.',
      ]);
    });

    it('but not rows of a product that differ in capitals alone: those of the first row count', async () => {
      const text = 'code,name,price,brand\nZZ-1,Wren Ink,5,Moss Lane\nZZ-2,WREN  ink,6,moss lane\n';
      const { counts, proof } = await importOf(text, { productColumn: 1 });
      expect(counts).toEqual({ new: 2, changed: 0, same: 0, refused: 0 });
      const { lines } = await server.call(calls.getProofLines, { params: { id: proof! } });
      const ofProducts = lines.filter(({ kind }) => kind === 'product');
      expect(ofProducts.filter(({ field }) => field === 'name').map(({ after }) => after)).toEqual(['Wren Ink']);
      expect(ofProducts.filter(({ field }) => field === 'brand').map(({ after }) => after)).toEqual(['Moss Lane']);
    });

    it('codes and names that the shop does not know, when the import may not make them', async () => {
      const [one] = await known();
      const text = `code,price,brand,category\nZZ-9,5,,\n${one!.code},5,Mos Lane,\n${one!.code}x,5,,\n`;
      const said = await reasons(text, { makeProducts: false, makeNames: false });
      expect(said).toEqual([
        '2: The shop has no code “ZZ-9”, and the import was not told to make new ones.',
        '3: There is no brand called “Mos Lane”. Did you mean “Moss Lane”?',
        `4: The shop has no code “${one!.code}x”, and the import was not told to make new ones.`,
      ]);
    });

    it('and the results file says it of every row, and can be mended and imported again', async () => {
      const [one, two] = await known();
      const { id } = await importOf(`Item No.,RRP\n${one!.code},1O.00\n${two!.code},66.60\n`);
      const text = await (await server.fetch(`/api/imports/${id}/results.csv`)).text();
      const lines: string[][] = parse(text);
      expect(lines[0]).toEqual(['Row', 'Outcome', 'Reason', 'Item No.', 'RRP']);
      expect(lines[1]!.slice(0, 2)).toEqual(['2', 'refused']);
      expect(lines[2]).toEqual(['3', 'changed', '', two!.code, '']);
      const mended = await importOf(text.replaceAll('1O.00', '10.00'));
      expect(mended.counts).toEqual({ new: 0, changed: 1, same: 1, refused: 0 });
    });
  });

  it('keeps refused rows whole, whatever they were refused for', async () => {
    const [one] = await known();
    const code = one!.code;
    const refused = [`${code},"Ink, again",9.50`, `ZZ-7,Quill,1O.50`, `ZZ-8,,5.00`];
    const { id, counts } = await importOf(`code,name,price\n${code},,12.34\n${refused.join('\n')}\n`);
    expect(counts).toEqual({ new: 0, changed: 1, same: 0, refused: 3 });
    const whole = [
      [code, 'Ink, again', '9.50'],
      ['ZZ-7', 'Quill', '1O.50'],
      ['ZZ-8', '', '5.00'],
    ];
    const { rows } = await server.call(calls.getImportRows, {
      params: { id },
      query: { outcome: 'refused', count: 9 },
    });
    expect(rows.map(({ cells }) => cells)).toEqual(whole);
    const results: string[][] = parse(await (await server.fetch(`/api/imports/${id}/results.csv`)).text());
    expect(results.slice(2).map((line) => line.slice(3))).toEqual(whole);
  });

  it('reads decimal commas when told to, and refuses them otherwise', async () => {
    const [one] = await known();
    const text = `code;price\n${one!.code};"1.234,50"\n`;
    expect((await importOf(text, { decimalSign: ',' })).counts!.changed).toBe(1);
    expect((await importOf(text)).counts!.refused).toBe(1);
  });

  describe('recognises how a file is written', () => {
    const text = (code: string) => `code;name\n${code};Crème brûlée\n`;
    const named = async (bytes: Uint8Array) => {
      const { proof } = await read(await server.upload('list.csv', bytes));
      const { lines } = await server.call(calls.getProofLines, { params: { id: proof! } });
      return lines.find(({ field }) => field === 'name')!.after;
    };

    it('UTF-8 with and without a byte order mark, UTF-16 and Windows-1252', async () => {
      const [one] = await known();
      const utf8 = Buffer.from(text(one!.code));
      const utf16 = Buffer.from('\ufeff' + text(one!.code), 'utf16le');
      const written = [
        utf8,
        Buffer.concat([Buffer.from([0xef, 0xbb, 0xbf]), utf8]),
        utf16,
        Buffer.from(utf16).swap16(),
        Buffer.from(text(one!.code), 'latin1'),
      ];
      for (const [i, bytes] of written.entries())
        expect(await named(bytes))
          .withContext(String(i))
          .toBe('Crème brûlée');
    });
  });

  it('takes the headings from the row that a person chooses, and a file that has none whole', async () => {
    const [one, two] = await known();
    const file = await server.upload('stock.csv', `${one!.code},7\n${two!.code},9\n`);
    const choose = (headingRow: number) =>
      server.call(calls.chooseHeadings, { params: { id: file.id }, body: { headingRow } });
    const bare = await choose(0);
    expect([bare.headingRow, bare.columns.length, bare.columns[0]!.samples]).toEqual([0, 2, [one!.code, two!.code]]);
    expect(bare.columns.map(({ heading, field, by }) => [heading, field, by])).toEqual([
      ['', 'code', 'values'],
      ['', null, 'none'],
    ]);
    expect((await refusalOf(choose(3))).title).toBe('Row 3 is blank, or lies behind the first 200 rows.');
    const { counts, id } = await read(bare, { columns: ['code', 'stock'], makeProducts: false });
    expect(counts!.changed + counts!.same).toBe(2);
    const results: string[][] = parse(await (await server.fetch(`/api/imports/${id}/results.csv`)).text());
    expect(results[0]).toEqual(['Row', 'Outcome', 'Reason', 'code', 'stock']);
    expect((await choose(1)).columns.map(({ heading }) => heading)).toEqual([one!.code, '7']);
  });

  it('takes for the code the column that holds codes of the shop, where the headings name none or another', async () => {
    const [one, two] = await known();
    const taken = async (text: string) =>
      (await server.upload('list.csv', text)).columns.map(({ field, by }) => [field, by].join(' by '));
    const rows = (...lines: string[]) => lines.join('\n');
    expect(await taken(rows('Nummer,RRP', `${one!.code},5`, `${two!.code.toLowerCase()},6`))).toEqual([
      'code by values',
      'price by synonym',
    ]);
    expect(await taken(rows('Item no,Yours,RRP', `N-1,${one!.code},5`, `N-2,${two!.code},6`))).toEqual([
      ...[' by none', 'code by values', 'price by synonym'],
    ]);
    // One that is new beside one that is known is what a list of news looks like.
    expect(await taken(rows('Item no,Yours,RRP', `${one!.code},x,5`, `QQ-1,${two!.code},6`))).toEqual([
      ...['code by synonym', ' by none', 'price by synonym'],
    ]);
    expect(await taken(rows('Nummer,RRP', 'QQ-1,5', 'QQ-2,6'))).toEqual([' by none', 'price by synonym']);
  });

  it('finds the headings below titles, and goes by the decimal sign that the numbers show', async () => {
    const [one] = await known();
    const text = [
      'Northgate Trade;;;',
      'Valid from;1. 10. 2026;;',
      '',
      'Item no.;Gross weight (g);RRP;Stock',
      `${one!.code};1.250;1.234,50;1.000`,
      'QQ-1;x;1;1',
    ];
    const file = await server.upload('list.csv', text.join('\r\n'));
    expect([file.headingRow, file.decimalSign, file.delimiter]).toEqual([4, ',', ';']);
    expect(file.columns.map(({ heading, field }) => [heading, field])).toEqual([
      ['Item no.', 'code'],
      ['Gross weight (g)', 'weight'],
      ['RRP', 'price'],
      ['Stock', 'stock'],
    ]);
    const { id, counts, proof } = await read(file, { decimalSign: file.decimalSign });
    expect(counts).toEqual({ new: 0, changed: 1, same: 0, refused: 1 });
    expect((await rows(id, 'refused'))[0]!.row).toBe(6);
    const { lines } = await server.call(calls.getProofLines, { params: { id: proof! } });
    const after = (key: string) => lines.find(({ field }) => field === key)?.after;
    expect([after('weight'), after('price'), after('stock')]).toEqual(['1250 g', '£1,234.50', '1000']);
  });

  describe('refuses files that are none, before anything is kept', () => {
    const title = async (name: string, body: string | Uint8Array) => (await refusalOf(server.upload(name, body))).title;

    it('not a CSV', async () => {
      expect(await title('a.xlsx', Buffer.from('504b0304140000000800', 'hex'))).toContain('a ZIP or XLSX file');
      expect(await title('a.png', Buffer.from('89504e470d0a1a0a', 'hex'))).toContain('a PNG picture');
      expect(
        await title('a.csv', Buffer.from([1, 0, 0, 0, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17])),
      ).toContain('no text file');
      expect(await title('a.csv', 'Dear customer, our prices')).toContain('no rows');
      expect(await title('a.txt', 'Hello\nthere\n')).toContain('not a CSV with headings');
      expect(await title('a.csv', '')).toContain('empty');
    });

    it('bytes that are no text, saying in which row', async () => {
      const refused = await refusalOf(server.upload('list.csv', 'code,name\nA-1,Ink\nA-2,I\0nk\n'));
      expect(refused.title).toContain('row 3 holds a byte of nothing (NUL)');
    });

    it('a quote that is never closed, saying where', async () => {
      const [one] = await known();
      const refusal = await refusalOf(server.upload('a.csv', `code,name\n${one!.code},"Ink\nmore,rows\n`));
      expect(refusal.title).toBe(
        'A quote is opened in row 2 and never closed. Find the single " there and close or double it.',
      );
    });

    it('a quote left open further down, when the file is read: the import fails whole', async () => {
      const [one] = await known();
      const fine = Array.from({ length: 300 }, (_, i) => `ZZ-${i},Ink,5\n`).join('');
      const { ended, counts } = await importOf(
        `code,name,price\n${one!.code},Ink,5\n${fine}ZZ-300,"Ink,5\nZZ-301,Ink,5\n`,
      );
      expect(ended.state).toBe('failed');
      expect(ended.note).toContain('A quote is opened in row 303');
      expect(counts).toBeNull();
    });

    it('larger than a file may be, by what it says of itself and by what comes', async () => {
      const { hostname, port } = new URL(server.open.address);
      const { request } = await import('node:http');
      const status = await new Promise<number>((resolve, reject) => {
        const headers = { 'content-length': String(LARGEST_FILE + 1), 'content-type': 'application/octet-stream' };
        const sent = request({ hostname, port, path: '/api/imports', method: 'POST', headers }, (answer) => {
          answer.resume();
          resolve(answer.statusCode!);
          sent.destroy();
        });
        // The server hangs up on what it does not read; before its answer that would be an error, after it is none.
        sent.on('error', reject);
        sent.flushHeaders();
      });
      expect(status).toBe(413);
    });
  });

  it('needs the column of the codes, each field once, and a value to bring', async () => {
    const file = await server.upload('a.csv', 'item,rrp,retail\nx,1,2\n');
    const titles = async (columns: (FieldKey | null)[]) =>
      (
        await refusalOf(
          server.call(calls.readImport, {
            params: { id: file.id },
            body: { columns, decimalSign: '.', makeProducts: false, makeNames: false },
          }),
        )
      ).title;
    expect(await titles([null, 'price', null])).toContain('No column is matched to the code');
    expect(await titles(['code', 'price', 'price'])).toContain('Two columns are matched to the same field');
    expect(await titles(['code', null, null])).toContain('Only the code is matched');
  });

  it('does not land over a code that was taken since it was read, and says which line it is', async () => {
    const { proof } = await importOf('code,name,price\nQQ-1,Ink,5.00\nQQ-2,Ink,6.00\n');
    const { rows: some } = await server.db.pool.query<{ id: string }>('select id from sku order by id limit 1');
    const edits = [{ sku: some[0]!.id, field: 'code' as const, text: 'qq-2' }];
    const hand = await server.edits('Code', edits);
    await land(hand.proof!.id);
    const refusal = await refusalOf(land(proof!));
    expect(refusal.status).toBe(409);
    expect(refusal.title).toContain('codes were taken by other SKUs');
    const query = { warning: 'code in use' as const };
    const { lines } = await server.call(calls.getProofLines, { params: { id: proof! }, query });
    expect(lines.map(({ code, goes, after }) => ({ code, goes, after }))).toEqual([
      { code: 'QQ-2', goes: false, after: 'QQ-2' },
    ]);
    // A price alone cannot be left out of what is made: it says how many are not.
    const prices = { out: true, filter: { field: 'price' as const } };
    const { kept, proof: now } = await server.call(calls.leaveOut, { params: { id: proof! }, body: prices });
    expect([kept, now.leftOut]).toEqual([2, 0]);
    // Nor the code: the SKU that would have it goes with it.
    const ways = [{ lines: lines.map(({ kind, id }) => ({ kind, id, field: 'code' as const })) }, { filter: query }];
    for (const way of ways) {
      await server.call(calls.leaveOut, { params: { id: proof! }, body: { out: false, filter: {} } });
      await server.call(calls.leaveOut, { params: { id: proof! }, body: { out: true, ...way } });
      const { lines: all } = await server.call(calls.getProofLines, { params: { id: proof! }, query: {} });
      const left = all.filter(({ code, leftOut }) => code === 'QQ-2' && leftOut).map(({ field }) => field);
      expect(left.sort()).toEqual(['code', 'exists', 'price']);
      expect(all.filter(({ code, leftOut }) => code !== 'QQ-2' && leftOut)).toEqual([]);
    }
    await land(proof!);
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'code starts with QQ-' } });
    expect(counts.skus).toBe(2);
  });

  it('does not make a brand and a category twice that another import made meanwhile, and says what to do', async () => {
    const text = (code: string) => `code,name,brand,price,category\n${code},Ink,Nib & Sons,5.00,Ink > Walnut\n`;
    const [first, second] = [await importOf(text('QQ-1')), await importOf(text('QQ-2'))];
    await land(first.proof!);
    const refusal = await refusalOf(land(second.proof!));
    expect(refusal.status).toBe(409);
    expect(refusal.title).toContain('“Nib & Sons”');
    expect(refusal.title).toContain('read it again');
    await server.call(calls.discardProof, { params: { id: second.proof! } });
    await land((await importOf(text('QQ-2'))).proof!);
    const { counts } = await server.call(calls.answerQuestion, {
      body: { question: 'brand is "Nib & Sons" in Walnut' },
    });
    expect(counts.skus).toBe(2);
  });

  it('leaves out a brand that was taken back since it was read, and lands the rest', async () => {
    const text = (code: string) => `code,name,brand,price\n${code},${code} Ink,Nib & Sons,5.00\n`;
    const first = (await land((await importOf(text('QQ-1'))).proof!)).landing!;
    const second = await importOf(text('QQ-2'));
    const back = await server.takeBack(first);
    await land(back.id);
    const { warnings } = await summary(second.proof!);
    expect(warnings.map(({ warning, lines }) => [warning, lines])).toContain(['thing gone', 1]);
    await land(second.proof!);
    expect(await server.codes('code is QQ-2 brand is empty')).toEqual(['QQ-2']);
  });

  it('lands beside a landing of the same goods, and the read model misses neither', async () => {
    const { rows: skus } = await server.db.pool.query<{ id: string; code: string }>(
      'select sku_id as id, code from shelf order by sku_id limit 60',
    );
    for (let round = 1; round <= 6; round++) {
      const lines = skus.map(({ code }) => `${code},Colour ${round}\n`);
      const { proof } = await importOf(`code,colour\n${lines.join('')}`);
      const edits = skus.map(({ id: sku }, i) => ({ sku, field: 'price' as const, text: `${round}.${10 + i}` }));
      const hand = await server.edits('Prices', edits);
      await Promise.all([land(proof!), land(hand.proof!.id)]);
      expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    }
  });

  it('takes a first row of goods for goods, whatever its cells look like', async () => {
    const [one, two] = await known();
    const file = await server.upload('bare.csv', `Name,${one!.code},Price\nInk,${two!.code},9.00\n`);
    expect([file.headingRow, file.columns[1]!.field]).toEqual([0, 'code']);
  });

  it('refuses thousands of names that it may not make, each with its row, in one go', async () => {
    const text =
      'code,name,price,brand,category\n' +
      Array.from({ length: 9_000 }, (_, i) => `QQ-${i},Ink ${i},5.00,Brand ${i},Pens > P${i}\n`).join('');
    const { counts, id } = await importOf(text, { makeNames: false });
    expect(counts).toEqual({ new: 0, changed: 0, same: 0, refused: 9_000 });
    expect((await rows(id, 'refused'))[0]!.reasons[0]).toContain('There is no brand called “Brand 0”');
  });

  it('makes thousands of names below one another, parents first, and they can be taken back', async () => {
    const text =
      'code,name,price,brand,category\n' +
      Array.from(
        { length: 3_000 },
        (_, i) => `QQ-${i},Ink ${i},5.00,Brand ${i % 1500},Deep > D${i % 40} > E${i}\n`,
      ).join('');
    const { proof } = await importOf(text);
    const { work } = await land(proof!);
    const landing = (await server.finished(work!)).result!;
    const { categories, lists } = await server.call(calls.getShop);
    const brands = lists['brand']!;
    expect(categories.filter(({ name }) => /^(Deep|D\d+|E\d+)$/.test(name)).length).toBe(1 + 40 + 3_000);
    expect(brands.filter(({ name }) => name.startsWith('Brand ')).length).toBe(1_500);
    const back = await server.takeBack(landing);
    await server.finished((await land(back.id)).work!);
    expect((await server.call(calls.getShop)).categories.length).toBe(categories.length - 3_041);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('can be stopped; nothing of it is kept', async () => {
    const many = 'code,name,price\n' + Array.from({ length: 60_000 }, (_, i) => `QQ-${i},Ink ${i},5.00\n`).join('');
    const file = await server.upload('many.csv', many);
    const { work } = await server.call(calls.readImport, {
      params: { id: file.id },
      body: { columns: ['code', 'name', 'price'], decimalSign: '.', makeProducts: true, makeNames: true },
    });
    await server.call(calls.stopWork, { params: { id: work.id } });
    const ended = await server.finished(work);
    expect(ended.state).toBe('stopped');
    const proofs = await server.call(calls.listProofs);
    expect(proofs.proofs).toEqual([]);
  });
});

describe('a tree that comes with a file', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  it('stands in the order of the file, and one move in it writes one line', async () => {
    const names = ['Zinc', 'Alder', 'Moss', 'Brass', 'Yew'];
    const rows = names.map((name, i) => `TREE-${i},Thing ${i},9.99,Workshop > ${name}`);
    const file = await server.upload('tree.csv', `code,name,price,category\n${rows.join('\n')}\n`);
    const columns = file.columns.map(({ field }) => field);
    const body = { columns, decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id: file.id }, body });
    const { result } = await server.finished(work);
    await server.land(result!);
    const below = async () => {
      const { categories } = await server.call(calls.getShop);
      const workshop = categories.find(({ name }) => name === 'Workshop')!;
      return categories.filter(({ parent }) => parent === workshop.id);
    };
    expect((await below()).map(({ name }) => name)).toEqual(names);
    const [zinc, , moss] = await below();
    const move = { kind: 'category' as const, ids: [zinc!.id], into: moss!.parent, before: moss!.id };
    const { proof } = await server.call(calls.moveThings, { body: move });
    expect(proof!.lines).toBe(1);
    await server.land(proof!.id);
    expect((await below()).map(({ name }) => name)).toEqual(['Alder', 'Zinc', 'Moss', 'Brass', 'Yew']);
  });

  it('with several values in the cell of one is refused by row, with what would be right', async () => {
    const file = await server.upload('two.csv', 'code,name,price,colour\nTWO-1,Two,9.99,Blue|Orange\n');
    const columns = file.columns.map(({ field }) => field);
    const body = { columns, decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id: file.id }, body });
    await server.finished(work);
    const { rows } = await server.call(calls.getImportRows, { params: { id: file.id }, query: { outcome: 'refused' } });
    expect(rows[0]!.reasons.join(' ')).toContain('“Blue|Orange” are several values');
  });
});
