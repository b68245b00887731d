import { calls } from '@ivory/contract';
import { type Field, type FieldKey } from '@ivory/core';
import { inTransaction } from '../../db/connect.ts';
import { staleShelf } from '../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

const made = { alsoCalled: [], shopperSees: false } as const;
const key = (text: string) => text as FieldKey;

/** Made-up fields, one for each way in which a field is kept; nothing else in the code knows of them. */
const FIELDS: readonly Field[] = [
  {
    ...made,
    key: key('remark'),
    kind: 'product',
    name: 'remark',
    type: 'text',
    store: { in: 'column', table: 'product_remark', key: 'product_id', column: 'remark' },
    longest: 100,
  },
  {
    ...made,
    key: key('circles'),
    kind: 'product',
    name: 'circles',
    type: 'references',
    refersTo: { kind: 'tag' },
    store: { in: 'list', table: 'product_circle', key: 'product_id', column: 'tag_id' },
  },
  {
    ...made,
    key: key('fee@7'),
    kind: 'sku',
    name: 'fee at the fair',
    type: 'money',
    store: { in: 'scoped', table: 'sku_fee', key: 'sku_id', scope: 'fair_id', column: 'fee' },
  },
  {
    ...made,
    key: key('fee@8'),
    kind: 'sku',
    name: 'fee at the market',
    type: 'money',
    store: { in: 'scoped', table: 'sku_fee', key: 'sku_id', scope: 'fair_id', column: 'fee' },
  },
  {
    ...made,
    key: key('motto'),
    kind: 'product',
    name: 'motto',
    type: 'text',
    store: { in: 'own', slot: 't8' },
    longest: 100,
  },
  {
    ...made,
    key: key('pages'),
    kind: 'sku',
    name: 'pages',
    type: 'count',
    store: { in: 'computed' },
    column: 'pictures',
  },
];

const TABLES = `
  create table product_remark (product_id bigint primary key references product on delete cascade, remark text);
  insert into product_remark (product_id) select id from product;
  create table product_circle (product_id bigint references product on delete cascade, tag_id bigint references tag, place int not null,
    primary key (product_id, tag_id));
  create table sku_fee (sku_id bigint references sku on delete cascade, fair_id bigint, fee bigint not null, primary key (sku_id, fair_id))`;

describe('a field that is only registered', () => {
  let server: TestServer;
  let sku: string;
  let code: string;
  beforeEach(async () => {
    server = await startTestServer({ fields: FIELDS });
    await server.db.pool.query(TABLES);
    sku = '1';
    code = (await server.value(sku, 'code'))!;
  });
  afterEach(() => server.close());

  const values = {
    remark: 'Kept dry',
    circles: 'Staff pick, Gift',
    'fee@7': '1.50',
    'fee@8': '2.00',
    motto: 'Write more',
    stock: '17',
  };
  const questions = {
    remark: 'remark contains DRY',
    circles: 'circles is Gift',
    'fee@7': 'fee at the fair < 2',
    'fee@8': 'fee at the market between 1 and 2',
    motto: 'motto is "write more"',
    stock: 'stock is 17',
  };
  const typed = (texts: Readonly<Record<string, string>>) =>
    server.edits(
      'Typed',
      Object.entries(texts).map(([field, text]) => ({ sku, field: key(field), text })),
    );
  const standing = async () => {
    const found: Record<string, string | null> = {};
    for (const field of Object.keys(values)) found[field] = await server.value(sku, key(field));
    return found;
  };
  const finds = async (question: string) => (await server.codes(question)).includes(code);

  it('is proposed, landed, read in a row, asked, seen in history, and taken back, however it is kept', async () => {
    const before = await standing();
    const { proof } = await typed(values);
    expect(proof!.lines).toBe(6);
    const csv = await (await server.fetch(`/api/proofs/${proof!.id}/lines.csv`)).text();
    for (const text of ['remark', 'fee at the fair', '£1.50', 'Gift, Staff pick']) expect(csv).toContain(text);
    const landing = await server.land(proof!.id);
    const tags = await server.db.pool.query<{ ids: string }>(
      `select string_agg(id::text, '|' order by id) as ids from tag where name in ('Gift', 'Staff pick')`,
    );
    expect(await standing()).toEqual({
      remark: 'Kept dry',
      circles: tags.rows[0]!.ids,
      'fee@7': '150',
      'fee@8': '200',
      motto: 'Write more',
      stock: '17',
    });
    for (const question of Object.values(questions))
      expect(await finds(question))
        .withContext(question)
        .toBeTrue();
    expect(await finds('fee at the fair > 2')).toBeFalse();
    const { history } = await server.call(calls.getSku, { params: { id: sku } });
    expect(history.find(({ field }: { field: string }) => field === 'fee@8')).toEqual(
      jasmine.objectContaining({ called: 'fee at the market', after: '£2.00' }),
    );
    await server.land((await server.takeBack(landing)).id);
    expect(await standing()).toEqual(before);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('is imported, and the same file again changes nothing', async () => {
    const read = async () => {
      const file = await server.upload(
        'made.csv',
        `code,remark,circles,fee at the fair,fee at the market,motto\n${code},Kept dry,Gift,1.50,2.00,Write more\n`,
      );
      const columns = file.columns.map(({ field }) => field);
      const body = { columns, decimalSign: '.' as const, makeProducts: false, makeNames: false };
      const { work } = await server.call(calls.readImport, { params: { id: file.id }, body });
      const { result } = await server.finished(work);
      return (await server.call(calls.getProof, { params: { id: result! } })).proof;
    };
    const proof = await read();
    expect(proof.lines).toBe(5);
    await server.land(proof.id);
    expect((await server.value(sku, key('fee@7')))!).toBe('150');
    expect((await read()).lines).toBe(0);
  });

  it('sorts the sheet, and is changed and emptied, each scope by itself', async () => {
    await server.land((await typed({ 'fee@7': '1.50', 'fee@8': '2.00', remark: 'B' })).proof!.id);
    const sort = { field: key('fee@7'), down: true };
    const { rows } = await server.call(calls.answerQuestion, { body: { question: '', sort } });
    expect(rows[0]![0]).toBe(sku);
    await server.land((await typed({ 'fee@7': '', 'fee@8': '+50 %', remark: '' })).proof!.id);
    expect([await server.value(sku, key('fee@7')), await server.value(sku, key('fee@8'))]).toEqual([null, '300']);
  });

  it('is a clash when it changed since it was proposed, and nothing of the rest lands', async () => {
    const { proof } = await typed(values);
    await server.db.pool.query('insert into sku_fee values (1, 7, 999)');
    expect((await refusalOf(server.land(proof!.id))).status).toBe(409);
    expect((await standing())['motto']).toBeNull();
    const [line] = (
      await server.call(calls.getProofLines, { params: { id: proof!.id }, query: { warning: 'changed since' } })
    ).lines;
    expect(line).toEqual(jasmine.objectContaining({ field: 'fee@7', before: '£9.99', after: '£1.50', leftOut: true }));
    await server.land(proof!.id);
    expect((await standing())['fee@7']).toBe('999');
  });

  it('is not set when it is worked out', async () => {
    expect((await refusalOf(typed({ pages: '3' }))).places![0]!.code).toBe('field-read-only');
  });
});
