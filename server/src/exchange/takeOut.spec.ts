import { calls } from '@ivory/contract';
import { type FieldKey, isTakenIn } from '@ivory/core';
import { parse } from 'csv-parse/sync';
import Papa from 'papaparse';
import { readShop } from '../asked/names.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('goods that are taken out', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  interface Asked {
    question?: string;
    columns: readonly string[];
    separator?: string;
    decimalSign?: string;
    encoding?: string;
    sort?: string;
    digits?: string;
    of?: string;
  }
  const fileOf = async ({ columns, ...asked }: Asked): Promise<Buffer> => {
    const query = new URLSearchParams({ columns: columns.join(','), ...asked });
    return Buffer.from(await (await server.fetch(`/api/take-out.csv?${query}`)).arrayBuffer());
  };
  /** What a file would change, its headings as they are matched. */
  const broughtBack = async (file: Buffer, decimalSign: '.' | ',' = '.') => {
    const { id, columns } = await server.upload('back.csv', file);
    const body = {
      columns: columns.map(({ field }) => field),
      decimalSign,
      makeProducts: false,
      makeNames: false,
      joinVariants: true,
      productColumn: null,
    };
    const { work } = await server.call(calls.readImport, { params: { id }, body });
    const ended = await server.finished(work);
    const { counts } = await server.call(calls.getImport, { params: { id } });
    return { id, counts: counts!, proof: ended.result, matched: columns };
  };
  /** Words that a spreadsheet, a separator or a reader of numbers might take for something else. */
  const fill = async () => {
    const others = await server.codes('in Paper');
    const [code] = await server.codes('in Ink');
    const sku = await server.sku(code!);
    const cells: [string, string][] = [
      ['name', '=SUM(A1:A9) "Ink", 50 ml; blue'],
      ['shopperNote', "'+44 call us"],
      ['points', 'One, two\n-three | four'],
      ['supplierCode', '00123'],
      ['tags', 'Gift | New, and old'],
      ['boughtFrom', '2027-01-31'],
      ['goesWith', others.slice(0, 2).join(' | ')],
      ['description', '<p>Two\nlines, “quoted” &amp; more</p>'],
    ];
    await server.call(calls.makeThings, { body: { kind: 'tag', things: [{ name: 'New, and old' }] } });
    await server.land((await server.call(calls.getHandProof)).proof!.id);
    const product = (await server.call(calls.getSku, { params: { id: sku } })).row[1]!;
    for (const [field, text] of cells) await server.set('product', product, field as FieldKey, text);
    await server.set('sku', sku, 'mpn', '@1e5');
    await server.set('sku', sku, 'parts', `${others[3]} × 2 | ${others[4]}`);
    await server.land((await server.set('sku', sku, 'weight', '1250')).id);
    return { code: code!, sku };
  };

  it('change nothing when they are brought back untouched, in whatever dialect, with every field that a file can bring', async () => {
    await fill();
    const { register } = await readShop(server.db);
    const all = register.goods.filter((field) => isTakenIn(field)).map(({ key }) => key);
    for (const [separator, decimalSign, encoding] of [
      ['comma', '.', 'utf-8'],
      ['semicolon', ',', 'utf-8'],
      ['tab', '.', 'utf-16le'],
    ] as const) {
      const file = await fileOf({ columns: all, separator, decimalSign, encoding });
      const { counts, matched } = await broughtBack(file, decimalSign);
      expect(matched.filter(({ field }) => field === null).map(({ heading }) => heading))
        .withContext('every heading is known again')
        .toEqual([]);
      // A GTIN that is wrong in the shop is so in the file too, and stays as it is.
      expect(await server.codes('gap is "wrong GTIN"')).not.toEqual([]);
      expect([counts.changed, counts.new, counts.refused])
        .withContext(`${separator} ${decimalSign} ${encoding}`)
        .toEqual([0, 0, 0]);
      expect(counts.same).toBeGreaterThan(100);
    }
  });

  it('are read alike by two other readers of CSV, whatever breaks of lines and quotes stand in their cells', async () => {
    const { code } = await fill();
    for (const separator of ['comma', 'semicolon', 'tab'] as const) {
      const columns = ['description', 'points', 'name', 'mpn', 'code'];
      const text = (await fileOf({ columns, separator })).toString('utf8').slice(1);
      const delimiter = { comma: ',', semicolon: ';', tab: '\t' }[separator];
      const one: string[][] = parse(text, { delimiter });
      const other = Papa.parse<string[]>(text, { delimiter, newline: '\r\n', skipEmptyLines: true }).data;
      expect(one).withContext(separator).toEqual(other);
      expect(one.length).toBe(1 + (await server.call(calls.answerQuestion, { body: { question: '' } })).counts.skus);
      expect(one.find((row) => row[0] === code)![1]).toContain('\n');
    }
    // Every line break that is not the end of a record stands within quotes (RFC 4180, section 2.6).
    const text = (await fileOf({ columns: ['description'] })).toString('utf8').slice(1);
    expect(text.replaceAll(/"(?:[^"]|"")*"/g, '').replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
  });

  it('keep codes of digits as text for spreadsheets, and change nothing when they come back with or without their zeros', async () => {
    const { sku } = await fill();
    await server.set('sku', sku, 'gtin', '036000291452');
    await server.set('sku', sku, 'mpn', '000417');
    await server.land((await server.set('sku', sku, 'code', '00123')).id);
    const asked = { question: 'code is 00123', columns: ['gtin', 'mpn', 'supplierCode', 'name'] };
    const text = (await fileOf({ ...asked, digits: 'text' })).toString('utf8').slice(1);
    const [, row]: string[][] = parse(text);
    expect(row!.slice(0, 4)).toEqual(['="00123"', '="036000291452"', '="000417"', '="00123"']);
    const back = await broughtBack(Buffer.from(text));
    expect([back.counts.same, back.counts.changed, back.counts.refused]).toEqual([1, 0, 0]);
    // As a spreadsheet leaves them that took them for numbers.
    const lost = await broughtBack(Buffer.from('code,GTIN,MPN,supplier code\n123,36000291452,417,123\n', 'utf8'));
    expect([lost.counts.same, lost.counts.changed, lost.counts.refused]).toEqual([1, 0, 0]);
    const { zeros } = await server.call(calls.getImport, { params: { id: lost.id } });
    expect(zeros).toEqual({ values: 4, from: '36000291452', to: '036000291452' });
  });

  it('have exactly the columns that were chosen, in their order behind the code, and the order of the sheet', async () => {
    const { code } = await fill();
    const file = await fileOf({
      question: 'in Ink',
      columns: ['price', 'name'],
      sort: '{"field":"price","down":true}',
    });
    const [headings, ...rows]: string[][] = parse(file.toString('utf8').slice(1));
    expect(headings).toEqual(['code', 'regular price', 'name']);
    const prices = rows.map((row) => Number(row[1])).filter((price) => price > 0);
    expect(prices).toEqual([...prices].sort((a, b) => b - a));
    expect(rows.find((row) => row[0] === code)![2])
      .withContext('no spreadsheet runs it')
      .toBe('\'=SUM(A1:A9) "Ink", 50 ml; blue');
    expect(rows.length).toBe((await server.call(calls.answerQuestion, { body: { question: 'in Ink' } })).counts.skus);
  });

  it('by product are a line each, with what is its own, and change nothing when they are brought back', async () => {
    await fill();
    const { register } = await readShop(server.db);
    const all = register.goods.filter((field) => isTakenIn(field)).map(({ key }) => key);
    const file = await fileOf({ question: 'in Ink', columns: all, of: 'products' });
    const [headings, ...rows]: string[][] = parse(file.toString('utf8').slice(1));
    expect(headings!.slice(0, 2)).toEqual(['code', 'name']);
    expect(headings).not.toContain('regular price');
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'in Ink' } });
    expect(rows.length).toBe(counts.products);
    const back = (await broughtBack(file)).counts;
    expect([back.changed, back.new, back.refused, back.same]).toEqual([0, 0, 0, counts.products]);
  });

  it('make exactly as many lines as cells were changed in them', async () => {
    await fill();
    const file = (await fileOf({ question: 'in Ink', columns: ['price', 'weight', 'mpn'] })).toString('utf8');
    const lines = file.split('\r\n');
    const [first, second] = [lines[3]!.split(','), lines[4]!.split(',')];
    first[1] = '77.10';
    second[3] = 'NEW-1';
    const { proof } = await broughtBack(
      Buffer.from([...lines.slice(0, 3), first.join(','), second.join(','), ...lines.slice(5)].join('\r\n')),
    );
    const summary = (await server.call(calls.getProof, { params: { id: proof! } })).proof;
    expect([summary.lines, summary.fields.map(({ field }) => field).sort()]).toEqual([2, ['mpn', 'price']]);
  });

  it('have other goods by their codes, which a file changes, and refuses where there are none', async () => {
    const { code, sku } = await fill();
    const others = await server.codes('in Paper');
    const file = await fileOf({ question: `code is ${code}`, columns: ['goesWith', 'parts'] });
    const [headings, row]: string[][] = parse(file.toString('utf8').slice(1));
    expect(headings).toEqual(['code', 'goes well with', 'parts of the set']);
    expect(row![2]).toBe(`${others[3]} × 2 | ${others[4]}`);
    const bring = (goesWith: string, parts: string) =>
      broughtBack(Buffer.from(`code,goes well with,parts of the set\n${code},${goesWith},${parts}\n`));
    const { proof, counts } = await bring(others[5]!, `${others[3]} x 4`.replace('x', '×'));
    expect(counts.changed).toBe(1);
    await server.land(proof!);
    const after = await fileOf({ question: `code is ${code}`, columns: ['goesWith', 'parts'] });
    const again: string[][] = parse(after.toString('utf8').slice(1));
    expect(again[1]![2]).toBe(`${others[3]} × 4`);
    // A product is called by its first SKU.
    expect(again[1]![1]!.slice(0, 7)).toBe(others[5]!.slice(0, 7));
    expect((await server.call(calls.getSku, { params: { id: sku } })).parts.map(({ times }) => times)).toEqual([4]);
    const wrong = await bring(`${others[5]} | NOBODY-9`, '(empty)');
    expect(wrong.counts.refused).toBe(1);
    const results = await (await server.fetch(`/api/imports/${wrong.id}/results.csv`)).text();
    expect(results).toContain('NOBODY-9');
  });

  it('are refused where the question does not read, and leave out columns that the shop does not have', async () => {
    expect((await refusalOf(fileOf({ question: 'in Inc', columns: ['name'] }))).status).toBe(422);
    const file = await fileOf({ question: 'price < 0', columns: ['own:999', 'name'] });
    expect(file.toString('utf8')).toBe('\ufeffcode,name\r\n');
  });
});
