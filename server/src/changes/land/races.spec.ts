import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { inTransaction } from '../../db/connect.ts';
import { staleShelf } from '../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';

describe('changes at the same time', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const land = (id: string) => server.land(id);
  const takeBack = (id: string) => server.takeBack(id);
  const edit = (sku: string, field: FieldKey, text: string) => server.edit(sku, field, text);
  const imported = async (text: string) => {
    const { id } = await server.upload('list.csv', text);
    const [code, ...rest] = text.split('\n')[0]!.split(',') as FieldKey[];
    const body = { columns: [code!, ...rest], decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id }, body });
    return (await server.finished(work)).result!;
  };
  const count = async (query: string) => (await server.db.pool.query<{ n: number }>(query)).rows[0]!.n;
  const outcomes = async (work: Promise<unknown>[]) =>
    (await Promise.allSettled(work)).map(({ status }) => status).sort();

  it('of one stock: the second clashes, and stock is what the first said', async () => {
    for (let round = 0; round < 15; round++) {
      await land((await edit('1', 'stock', '5')).id).catch(() => undefined);
      const ten = await imported(`code,stock\n${(await server.codes('stock is 5'))[0]},10\n`);
      const seven = (await edit('1', 'stock', '7')).id;
      await server.db.pool.query(`update proof_line set id = 1 where proof_id = $1 and field = 'stock'`, [ten]);
      expect(await outcomes([land(ten), land(seven)]))
        .withContext(`round ${round}`)
        .toEqual(['fulfilled', 'rejected']);
      const onHand = await count('select on_hand as n from stock_total where sku_id = 1');
      expect([7, 10]).toContain(onHand);
      expect(await count('select sum(quantity)::int as n from stock_movement where sku_id = 1')).toBe(onHand);
      const { proof } = await server.call(calls.getHandProof);
      if (proof) await server.call(calls.discardProof, { params: { id: proof.id } });
    }
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('what was made is not taken away when something of it landed after that was proposed', async () => {
    const landing = await land(await imported('code,name,price,stock\nZZ-1,Quill,4.50,3\nZZ-2,Nib,2.00,\n'));
    const back = await takeBack(landing);
    expect([back.lines > 0, back.leftOut]).toEqual([true, 0]);
    // The file said nothing of a colour, so that no line of the proof is about it.
    await land((await edit(await server.sku('ZZ-1'), 'own:1', 'White')).id);
    const refused = await refusalOf(server.call(calls.landProof, { params: { id: back.id } }));
    expect([refused.status, refused.title]).toEqual([409, jasmine.stringContaining('changed since')]);
    expect(await server.codes('code starts with ZZ-')).toEqual(['ZZ-1', 'ZZ-2']);
    await land(back.id);
    expect(await server.codes('code starts with ZZ-'))
      .withContext('what nobody touched goes')
      .toEqual(['ZZ-1']);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('what a person takes in all the same goes, and its movements stay', async () => {
    const landing = await land(await imported('code,name,price,stock\nZZ-1,Quill,4.50,3\n'));
    const sku = await server.sku('ZZ-1');
    await land((await edit(sku, 'own:1', 'White')).id);
    const back = await takeBack(landing);
    expect(back.lines).toBe(0);
    await server.call(calls.leaveOut, { params: { id: back.id }, body: { out: false, filter: {} } });
    await land(back.id);
    expect(await server.codes('code is ZZ-1')).toEqual([]);
    const { rows } = await server.db.pool.query<{ quantity: number }>(
      'select quantity from stock_movement where sku_id = $1 order by id',
      [sku],
    );
    expect(rows.map(({ quantity }) => quantity)).toEqual([3, -3]);
    await expectAsync(
      server.db.pool.query('delete from stock_movement where sku_id = $1', [sku]),
    ).toBeRejectedWithError(/never changed/);
  });

  it('one landing is taken back once, also by two that were proposed in the same moment', async () => {
    const landing = await land(await imported('code,name,price\nZZ-1,Quill,4.50\n'));
    const [one, two] = await Promise.all([takeBack(landing), takeBack(landing)]);
    expect(one.id).withContext('pressed twice, it is one proof').toBe(two.id);
    const copy = await server.db.pool.query<{ id: string }>(
      `with p as (insert into proof (person_id, kind, title, takes_back, seen) select person_id, kind, title, takes_back, seen
         from proof where id = $1 returning id)
       insert into proof_line (proof_id, edit_no, kind, id, field, before, after)
       select p.id, l.edit_no, l.kind, l.id, l.field, l.before, l.after from p, proof_line l where l.proof_id = $1
       returning proof_id as id`,
      [one.id],
    );
    expect(await outcomes([land(one.id), land(copy.rows[0]!.id)])).toEqual(['fulfilled', 'rejected']);
    expect(await count(`select count(*)::int as n from landing where takes_back = ${landing}`)).toBe(1);
    expect((await refusalOf(server.call(calls.takeBack, { params: { id: landing } }))).title).toContain('already');
  });

  it('what was taken back in part can be taken back in its rest, and no more', async () => {
    const edits = ['1', '2'].map((sku) => ({ sku, field: 'price' as const, text: '99.00' }));
    const { proof } = await server.edits('Two', edits);
    const landing = await land(proof!.id);
    const part = await takeBack(landing);
    const lines = [{ kind: 'sku', id: '1', field: 'price' } as const];
    await server.call(calls.leaveOut, { params: { id: part.id }, body: { out: true, lines } });
    await land(part.id);
    const left = async () =>
      (await server.call(calls.listLandings)).landings.find(({ id }) => id === landing)!.leftToTakeBack;
    expect(await left()).toBe(1);
    const rest = await takeBack(landing);
    expect(rest.lines).toBe(1);
    await land(rest.id);
    expect(await left()).toBe(0);
    expect(await count(`select count(*)::int as n from price where regular = 9900 and sku_id in (1, 2)`)).toBe(0);
  });

  it('two files that make goods of one name: each has the address that its journal says, and both can be taken back', async () => {
    const one = await imported('code,name,price\nZZ-1,Quill,4.50\n');
    const two = await imported('code,name,price\nZZ-2,Quill,4.50\n');
    const [first, second] = [await land(one), await land(two)];
    const { rows } = await server.db.pool.query<{ slug: string; said: string }>(`
      select p.slug, x.after as said from product p
      join journal_chunk c on c.kind = 'product' and c.field = 'exists', unnest(c.ids, c.after) as x (id, after)
      where p.name = 'Quill' and x.id = p.id`);
    expect(rows.length).toBe(2);
    for (const { slug, said } of rows) expect(slug).toBe(said);
    for (const landing of [first, second]) await land((await takeBack(landing)).id);
    expect(await count(`select count(*)::int as n from product where name = 'Quill'`)).toBe(0);
  });
});
