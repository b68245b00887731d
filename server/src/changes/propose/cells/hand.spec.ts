import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { staleShelf } from '../../../db/shelf.ts';
import { inTransaction } from '../../../db/connect.ts';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';

describe('the proof in hand', () => {
  let server: TestServer;
  let ids: string[];

  beforeEach(async () => {
    server = await startTestServer();
    const { rows } = await server.db.pool.query<{ id: string }>('select id from sku order by id limit 20');
    ids = rows.map(({ id }) => id);
  });
  afterEach(() => server.close());

  const edit = (...edits: [string, FieldKey, string][]) =>
    server.edits(
      'Cells',
      edits.map(([sku, field, text]) => ({ sku, field, text })),
    );
  const hand = async () => (await server.call(calls.getHandProof)).proof;
  const lines = async (id: string, query: Record<string, string | number> = {}) =>
    (await server.call(calls.getProofLines, { params: { id }, query })).lines;
  const land = (id: string) => server.call(calls.landProof, { params: { id } });
  const value = (id: string, key: FieldKey) => server.value(id, key);
  const choice = async (name: string) =>
    (await server.db.pool.query<{ id: string }>('select id from choice where name = $1', [name])).rows[0]!.id;
  const setPrice = (id: string, price: number) =>
    server.db.pool.query('update price set regular = $2 where sku_id = $1', [id, price]);

  it('gathers cells, each with before and after, and nothing changes in the shop', async () => {
    const before = await value(ids[0]!, 'price');
    const { proof, pending } = await edit([ids[0]!, 'price', '£77.50'], [ids[1]!, 'own:1', ' teal ']);
    expect([proof!.lines, proof!.skus, proof!.state]).toEqual([2, 2, 'open']);
    expect(pending.map(({ field, after }) => [field, after]).sort()).toEqual([
      ['own:1', await choice('Teal')],
      ['price', '7750'],
    ]);
    expect(await value(ids[0]!, 'price')).toBe(before);
    expect((await lines(proof!.id)).map(({ after }) => after).sort()).toEqual(['Teal', '£77.50']);
  });

  it('tells every window that it is another, and which window made it so', async () => {
    const hearing = await server.hear();
    const body = JSON.stringify({
      title: 'Cells',
      edits: [{ kind: 'sku', id: ids[0]!, field: 'price', text: '7.00' }],
    });
    const json = { 'content-type': 'application/json' };
    const { method, path } = calls.editCells;
    await server.fetch(path, { method, body, headers: { ...json, 'x-tab': 'left' } });
    await server.call(calls.undoEdit);
    await refusalOf(edit([ids[0]!, 'price', 'dear']));
    expect(await hearing.stop()).toEqual([
      { kind: 'hand', by: 'left' },
      { kind: 'hand', by: null },
    ]);
  });

  it('gathers what is edited in several windows at once', async () => {
    await Promise.all(ids.map((id, i) => edit([id, 'price', `${i + 1}.00`])));
    expect((await hand())!.lines).toBe(ids.length);
  });

  it('takes in all cells or none, and says which value of which row is wrong and what would be right', async () => {
    const { rows } = await server.db.pool.query<{ code: string }>('select code from sku where id = $1', [ids[1]]);
    const refusal = await refusalOf(
      edit([ids[0]!, 'price', '5.00'], [ids[1]!, 'price', '1O.50'], [ids[1]!, 'brand', 'Nobody & Sons']),
    );
    expect(refusal.status).toBe(422);
    expect(refusal.places).toEqual([
      jasmine.objectContaining({ code: 'money-letter-for-digit', row: rows[0]!.code, expected: '10.50' }),
      jasmine.objectContaining({ code: 'reference-unknown', value: 'Nobody & Sons', field: 'brand' }),
    ]);
    expect(await hand()).toBeNull();
  });

  it('takes in what fits of a block where that is asked for, and tells each cell that does not', async () => {
    const cells = ids.map((id, i) => ({
      ...{ kind: 'sku' as const, id, field: 'price' as const },
      text: i === 3 ? '1O.50' : i === 7 ? '-2' : `${i + 1}.00`,
    }));
    const answer = await server.call(calls.editCells, { body: { title: 'Pasted', edits: cells, partly: true } });
    expect(answer.proof!.lines).toBe(18);
    expect(answer.refused.map(({ id, place }) => [id, place.code])).toEqual([
      [ids[3]!, 'money-letter-for-digit'],
      [ids[7]!, 'money-negative'],
    ]);
    await server.call(calls.undoEdit);
    const wrong = cells.map((cell) => ({ ...cell, text: 'dear' }));
    const none = await refusalOf(
      server.call(calls.editCells, { body: { title: 'Pasted', edits: wrong, partly: true } }),
    );
    expect(none.places!.length).toBe(20);
    expect(await hand()).toBeNull();
  });

  it('refuses and names rows of one product that disagree about what is the product’s, and takes those that agree once', async () => {
    const { rows } = await server.db.pool.query<{ product_id: string; skus: string[] }>(
      'select product_id, array_agg(id::text order by id) as skus from sku group by product_id having count(*) > 1 order by 1 limit 2',
    );
    const [differ, agree] = rows;
    const cells = [
      ...differ!.skus.slice(0, 2).map((sku, i) => ({ sku, text: `Name ${i}` })),
      ...agree!.skus.slice(0, 2).map((sku) => ({ sku, text: 'One name' })),
    ];
    const edits = cells.map(({ sku, text }) => ({
      ...{ kind: 'product' as const, field: 'name' as const, text },
      id: rows.find(({ skus }) => skus.includes(sku))!.product_id,
    }));
    const answer = await server.call(calls.editCells, { body: { title: 'Pasted', edits, partly: true } });
    expect(answer.refused.map(({ id, place }) => [id, place.code, place.value, place.expected])).toEqual([
      [differ!.product_id, 'differs-in-paste', 'Name 0', 'Name 1'],
    ]);
    expect(answer.proof!.lines).toBe(1);
    // A change by so much is made once, however many rows of the product say it.
    const charge = (text: string) =>
      agree!.skus.map(() => ({
        ...{ kind: 'product' as const, id: agree!.product_id, field: 'personalCharge' as const, text },
      }));
    await server.call(calls.editCells, { body: { title: 'Charges', edits: charge('10.00') } });
    const { pending } = await server.call(calls.editCells, { body: { title: 'Charges', edits: charge('+10 %') } });
    expect(pending.find(({ field }) => field === 'personalCharge')!.after).toBe('1100');
  });

  it('takes several values in a cell of one for what they are, and makes no value with a bar in it', async () => {
    const refusal = await refusalOf(edit([ids[0]!, 'own:1', 'Blue|Orange']));
    expect(refusal.places![0]).toEqual(
      jasmine.objectContaining({ code: 'several-in-one', value: 'Blue|Orange', expected: 'Blue' }),
    );
    expect(refusal.detail).toContain('are several values');
    const tag = await refusalOf(
      server.call(calls.makeThings, { body: { kind: 'tag', things: [{ name: 'Blue|Orange' }] } }),
    );
    expect(tag.places![0]).toEqual(jasmine.objectContaining({ code: 'name-with-bar', expected: 'Blue/Orange' }));
    // Where a field holds several, the bar divides them.
    const { rows } = await server.db.pool.query<{ name: string }>('select name from tag order by id limit 2');
    await edit([ids[0]!, 'tags', rows.map(({ name }) => name).join('|')]);
    expect((await hand())!.lines).toBe(1);
    const { rows: made } = await server.db.pool.query(`select from choice where name like '%|%'`);
    expect(made).toEqual([]);
  });

  it('says of a text that is too long how long it may be', async () => {
    const refusal = await refusalOf(edit([ids[0]!, 'description', 'x'.repeat(20_001)]));
    expect(refusal.places![0]).toEqual(jasmine.objectContaining({ code: 'text-too-long', expected: '20000' }));
  });

  it('refuses what is worked out from other fields, and rows that are gone', async () => {
    const refusal = await refusalOf(edit([ids[0]!, 'margin', '50']));
    expect(refusal.places![0]).toEqual(jasmine.objectContaining({ code: 'field-read-only' }));
    expect((await refusalOf(edit(['99999', 'price', '5']))).status).toBe(409);
  });

  it('finds what is to be looked at: below cost, below the floor, large changes', async () => {
    await server.db.pool.query('update price set regular = 1200, cost = 600 where sku_id = any($1)', [ids]);
    await server.db.pool.query('update product set tax_bp = 2000');
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    const { proof } = await edit([ids[0]!, 'price', '5'], [ids[1]!, 'price', '9'], [ids[2]!, 'price', '13']);
    const warnings = Object.fromEntries(proof!.warnings.map(({ warning, lines }) => [warning, lines]));
    expect(warnings).toEqual({ 'below cost': 1, 'below floor': 1, 'large change': 1 });
    const [worst] = await lines(proof!.id, { warning: 'below cost' });
    expect(worst).toEqual(jasmine.objectContaining({ id: ids[0], warnings: ['below cost', 'large change'] }));
  });

  it('lands nothing with what the shop lets stop a landing, and says how many lines it is', async () => {
    await server.db.pool.query('update price set regular = 1200, cost = 600 where sku_id = any($1)', [ids]);
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    await edit([ids[0]!, 'price', '5']);
    await server.db.pool.query('update shop set stops_below_cost = true');
    const { proof } = await edit([ids[1]!, 'price', '5.01'], [ids[2]!, 'price', '13']);
    expect(proof!.warnings.find(({ warning }) => warning === 'below cost')).toEqual({
      warning: 'below cost',
      stops: true,
      lines: 2,
    });
    const refusal = await refusalOf(server.call(calls.landProof, { params: { id: proof!.id } }));
    expect(refusal.places).toEqual([{ code: 'warning-stops', value: 'below cost', expected: '2' }]);
    expect((await hand())!.lines).toBe(3);
    await server.db.pool.query('update shop set stops_below_cost = false');
    await server.call(calls.landProof, { params: { id: proof!.id } });
    expect(await hand()).toBeNull();
  });

  it('looks a large block over as it does a cell', async () => {
    const { rows } = await server.db.pool.query<{ sku_id: string }>(
      'select sku_id from shelf where cost > 1 and price > 0 order by sku_id limit 150',
    );
    const block = rows.map(({ sku_id }): [string, FieldKey, string] => [sku_id, 'price', '0.01']);
    expect(block).toHaveSize(150);
    await edit(block[0]!);
    const { proof } = await edit(...block);
    expect(proof!.warnings.find(({ warning }) => warning === 'below cost')!.lines).toBe(150);
  });

  it('takes the last edit back before it lands, and an earlier one for the same cell comes back', async () => {
    await edit([ids[0]!, 'price', '5.00']);
    await edit([ids[0]!, 'price', '6.00']);
    await edit([ids[0]!, 'price', '7.00'], [ids[1]!, 'price', '8.00']);
    const after = async () => (await lines((await hand())!.id)).map((line) => line.after);
    await server.call(calls.undoEdit);
    expect(await after()).toEqual(['£6.00']);
    await server.call(calls.undoEdit);
    expect(await after()).toEqual(['£5.00']);
    await server.call(calls.undoEdit);
    expect(await hand()).toBeNull();
    expect((await server.call(calls.undoEdit)).proof).toBeNull();
  });

  it('does again what was undone, one edit after another, until something else is proposed', async () => {
    await edit([ids[0]!, 'price', '5.00']);
    await edit([ids[0]!, 'price', '6.00'], [ids[1]!, 'name', 'Quill ink']);
    const before = await lines((await hand())!.id);
    await server.call(calls.undoEdit);
    await server.call(calls.undoEdit);
    expect(await hand()).toBeNull();
    await server.call(calls.redoEdit);
    const after = async () => (await lines((await hand())!.id)).map((line) => line.after).sort();
    expect(await after()).toEqual(['£5.00']);
    await server.call(calls.redoEdit);
    expect(await lines((await hand())!.id)).toEqual(before);
    expect((await refusalOf(server.call(calls.redoEdit))).status).toBe(409);
    // The earlier proposal for the cell comes back here too.
    await server.call(calls.undoEdit);
    expect(await after()).toEqual(['£5.00']);
    await edit([ids[2]!, 'price', '9.00']);
    expect((await refusalOf(server.call(calls.redoEdit))).title).toContain('nothing to do again');
  });

  it('does nothing again of a proof that was discarded, or of one before the last', async () => {
    await edit([ids[0]!, 'price', '5.00']);
    await edit([ids[0]!, 'price', '6.00']);
    await server.call(calls.undoEdit);
    await server.call(calls.discardProof, { params: { id: (await hand())!.id } });
    expect((await refusalOf(server.call(calls.redoEdit))).status).toBe(409);
    await edit([ids[0]!, 'price', '5.00']);
    await server.call(calls.undoEdit);
    await edit([ids[1]!, 'price', '5.00']);
    await server.land((await hand())!.id);
    expect((await refusalOf(server.call(calls.redoEdit))).status).toBe(409);
  });

  it('is put away when a value is typed back to what stands in the shop', async () => {
    const name = (await value(ids[0]!, 'name'))!;
    await edit([ids[0]!, 'name', 'Another name']);
    const { proof, pending } = await edit([ids[0]!, 'name', name]);
    expect(proof).toBeNull();
    expect(pending).toEqual([]);
  });

  it('lands in one transaction, with a line in the journal and in the history of each SKU', async () => {
    await edit([ids[0]!, 'price', '77.50']);
    const { proof } = await edit([ids[0]!, 'name', 'New name'], [ids[3]!, 'stock', '42']);
    const { landing } = await land(proof!.id);
    expect(await value(ids[0]!, 'price')).toBe('7750');
    expect(await value(ids[0]!, 'name')).toBe('New name');
    expect(await value(ids[3]!, 'stock')).toBe('42');
    const journal = await server.call(calls.listLandings);
    expect(journal.landings[0]).toEqual(
      jasmine.objectContaining({ id: landing, person: 'Ada Teasel', title: 'Cells × 2', lines: 3, takenBackBy: null }),
    );
    const detail = await server.call(calls.getSku, { params: { id: ids[0]! } });
    expect(detail.history.map(({ field, after }) => [field, after])).toEqual([
      ['name', 'New name'],
      ['price', '£77.50'],
    ]);
    expect(await hand()).toBeNull();
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('changes stock by a movement, with person and reason, never by its sum', async () => {
    const { proof } = await edit([ids[0]!, 'stock', '7']);
    const before = Number(await value(ids[0]!, 'stock'));
    await land(proof!.id);
    const { rows } = await server.db.pool.query(
      'select quantity, reason, p.name from stock_movement m join person p on p.id = m.person_id where sku_id = $1 order by m.id desc limit 1',
      [ids[0]],
    );
    expect(rows[0]).toEqual({ quantity: 7 - before, reason: 'correction', name: 'Ada Teasel' });
  });

  it('replaces categories as its line shows them, and all that hangs on them', async () => {
    const { proof } = await edit([ids[0]!, 'category', 'Paper | Desk > Storage']);
    expect((await lines(proof!.id))[0]!.after).toBe('Paper | Desk > Storage');
    await land(proof!.id);
    const { rows } = await server.db.pool.query<{ code: string }>('select code from sku where id = $1', [ids[0]]);
    for (const place of ['Paper', 'Desk', 'Desk > Storage'])
      expect(await server.codes(`in ${place} code is ${rows[0]!.code}`))
        .withContext(place)
        .toHaveSize(1);
    expect(await server.codes(`in Ink code is ${rows[0]!.code}`)).toEqual([]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('leaves out what it is told to: a line, or all of a group', async () => {
    const { proof } = await edit([ids[0]!, 'price', '5'], [ids[1]!, 'price', '6'], [ids[1]!, 'own:1', 'Teal']);
    const id = proof!.id;
    await server.call(calls.leaveOut, { params: { id }, body: { out: true, filter: { field: 'price' } } });
    const one = { kind: 'sku', id: ids[1]!, field: 'price' } as const;
    const { proof: now } = await server.call(calls.leaveOut, { params: { id }, body: { out: false, lines: [one] } });
    expect([now.lines, now.leftOut]).toEqual([2, 1]);
    const untouched = await value(ids[0]!, 'price');
    await land(id);
    expect(await value(ids[0]!, 'price')).toBe(untouched);
    expect(await value(ids[1]!, 'price')).toBe('600');
    expect(await value(ids[1]!, 'own:1')).toBe(await choice('Teal'));
  });

  it('counts edits of one kind as one source, and shows its lines', async () => {
    await edit([ids[0]!, 'price', '5']);
    await edit([ids[1]!, 'price', '6'], [ids[1]!, 'own:1', 'Teal']);
    const pasted = [{ kind: 'sku' as const, id: ids[2]!, field: 'price' as const, text: '7' }];
    const { proof } = await server.call(calls.editCells, { body: { title: 'Pasted', edits: pasted } });
    expect(proof!.sources).toEqual([
      { title: 'Cells', lines: 3 },
      { title: 'Pasted', lines: 1 },
    ]);
    expect(await lines(proof!.id, { source: 'Cells' })).toHaveSize(3);
    expect((await lines(proof!.id, { source: 'Pasted' })).map(({ after }) => after)).toEqual(['£7.00']);
  });

  it('lands nothing when a value has changed since, shows those lines and leaves them to choose', async () => {
    const { proof } = await edit([ids[0]!, 'price', '5.00'], [ids[1]!, 'price', '6.00']);
    await setPrice(ids[0]!, 4321);
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    const refusal = await refusalOf(land(proof!.id));
    expect(refusal.status).toBe(409);
    expect(refusal.title).toContain('1 value has changed since');
    expect(await value(ids[1]!, 'price')).not.toBe('600');

    const [changed] = await lines(proof!.id, { warning: 'changed since' });
    expect(changed).toEqual(jasmine.objectContaining({ id: ids[0], before: '£43.21', after: '£5.00', leftOut: true }));
    await land(proof!.id);
    expect([await value(ids[0]!, 'price'), await value(ids[1]!, 'price')]).toEqual(['4321', '600']);
  });

  it('is stopped by a code that another SKU has, also within the same proof', async () => {
    const { rows } = await server.db.pool.query<{ code: string }>('select code from sku where id = $1', [ids[5]]);
    const { proof } = await edit([ids[0]!, 'code', rows[0]!.code.toLowerCase()], [ids[1]!, 'code', 'NEW-1']);
    expect(proof!.warnings).toContain({ warning: 'code in use', stops: true, lines: 1 });
    const refusal = await refusalOf(land(proof!.id));
    expect(refusal.places).toEqual([{ code: 'code-in-use', value: rows[0]!.code.toLowerCase() }]);
    expect(await value(ids[1]!, 'code')).not.toBe('NEW-1');
  });

  it('lets a code go to another SKU of the proof once nobody else wants it', async () => {
    const inUse = (proof: Awaited<ReturnType<typeof hand>>) =>
      proof!.warnings.find(({ warning }) => warning === 'code in use')?.lines ?? 0;
    await edit([ids[0]!, 'code', 'NEW-1']);
    expect(inUse((await edit([ids[1]!, 'code', 'new-1'])).proof)).toBe(2);
    expect(inUse((await edit([ids[1]!, 'code', 'NEW-2'])).proof)).toBe(0);
    expect(inUse((await server.call(calls.undoEdit)).proof)).toBe(2);
    const { proof } = await server.call(calls.leaveOut, {
      params: { id: (await hand())!.id },
      body: { out: true, lines: [{ kind: 'sku' as const, id: ids[1]!, field: 'code' }] },
    });
    expect((await land(proof.id)).landing).not.toBeNull();
    expect(await value(ids[0]!, 'code')).toBe('NEW-1');
  });

  it('swaps the codes of two SKUs, and takes the swap back', async () => {
    const codes = [(await value(ids[0]!, 'code'))!, (await value(ids[1]!, 'code'))!];
    const { proof } = await edit([ids[0]!, 'code', codes[1]!], [ids[1]!, 'code', codes[0]!]);
    expect(proof!.warnings.map(({ warning }) => warning)).not.toContain('code in use');
    const { landing } = await land(proof!.id);
    expect([await value(ids[1]!, 'code'), await value(ids[0]!, 'code')]).toEqual(codes);
    const back = { proof: await server.takeBack(landing!) };
    await land(back.proof.id);
    expect([await value(ids[0]!, 'code'), await value(ids[1]!, 'code')]).toEqual(codes);
  });

  it('looks again at what an undone edit had changed, and at nothing else', async () => {
    await server.db.pool.query('update price set regular = 1200, cost = 600 where sku_id = any($1)', [ids]);
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    await edit([ids[0]!, 'price', '5.00'], [ids[1]!, 'price', '12.50']);
    const { proof } = await edit([ids[1]!, 'price', '4.00']);
    const below = async (id: string) => (await lines(id, { warning: 'below cost' })).map((line) => line.id).sort();
    expect(await below(proof!.id)).toEqual([ids[0]!, ids[1]!].sort());
    await server.call(calls.undoEdit);
    expect(await below(proof!.id)).toEqual([ids[0]!]);
  });

  it('can be discarded, and is then closed', async () => {
    const { proof } = await edit([ids[0]!, 'price', '5.00']);
    await server.call(calls.discardProof, { params: { id: proof!.id } });
    expect(await hand()).toBeNull();
    expect((await refusalOf(land(proof!.id))).status).toBe(409);
    expect((await refusalOf(server.call(calls.getProof, { params: { id: '4711' } }))).status).toBe(404);
  });

  it('has nothing to land when every line is left out', async () => {
    const { proof } = await edit([ids[0]!, 'price', '5.00']);
    const all = { out: true, filter: {} };
    await server.call(calls.leaveOut, { params: { id: proof!.id }, body: all });
    expect((await refusalOf(land(proof!.id))).title).toContain('nothing to land');
  });

  it('looks over what tax rates do to the margin, of goods that stand and of new ones', async () => {
    await server.db.pool.query('update price set regular = 1200, cost = 700 where sku_id = any($1)', [ids]);
    await server.db.pool.query('update product set tax_bp = 2000');
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    const rate = async (text: string) => (await edit([ids[0]!, 'taxRate', text])).proof!;
    // 12.00 with 20 % is 10.00 net: margin 30 %. With 50 % it is 8.00 net: 12.5 %. With 80 % 6.67 net: below cost.
    const half = await rate('50 %');
    expect(half.warnings).toEqual([{ warning: 'below floor', stops: false, lines: 1 }]);
    expect([half.marginBefore, half.marginAfter]).toEqual([3000, 1250]);
    expect((await rate('80 %')).warnings).toEqual([{ warning: 'below cost', stops: false, lines: 1 }]);
    expect((await rate('5 %')).warnings).toEqual([]);
    const dearer = await edit([ids[0]!, 'taxRate', '80 %'], [ids[0]!, 'price', '40.00']);
    expect(dearer.proof!.warnings.map(({ warning }) => warning)).not.toContain('below cost');

    const file = await server.upload('new.csv', 'code,name,price,cost,taxRate\nZZ-1,Quill,12.00,7.00,80\n');
    const columns = ['code', 'name', 'price', 'cost', 'taxRate'] as const;
    const body = { columns: [...columns], decimalSign: '.' as const, makeProducts: true, makeNames: true };
    const { work } = await server.call(calls.readImport, { params: { id: file.id }, body });
    const { proof } = await server.call(calls.getProof, { params: { id: (await server.finished(work)).result! } });
    expect(proof.warnings.map(({ warning }) => warning))
      .withContext('by the rate that they come with')
      .toEqual(['below cost']);
  });

  it('tells of stock below zero', async () => {
    const low = await edit([ids[0]!, 'stock', '-3']);
    expect(low.proof!.warnings).toEqual([{ warning: 'stock below zero', stops: false, lines: 1 }]);
    expect((await edit([ids[0]!, 'stock', '3'])).proof!.warnings).toEqual([]);
  });

  it('takes a cell in again when it is typed again, with what stands there now as its before', async () => {
    const { proof } = await edit([ids[0]!, 'price', '99.00']);
    const line = { kind: 'sku', id: ids[0]!, field: 'price' } as const;
    await server.call(calls.leaveOut, { params: { id: proof!.id }, body: { out: true, lines: [line] } });
    expect((await edit([ids[0]!, 'price', '99.00'])).proof!.lines)
      .withContext('the same again')
      .toBe(1);
    await setPrice(ids[0]!, 3333);
    await server.db.pool.query('update shelf_facts set price = 3333 where sku_id = $1', [ids[0]]);
    expect((await refusalOf(land(proof!.id))).status).toBe(409);
    expect((await lines(proof!.id))[0]).toEqual(
      jasmine.objectContaining({ leftOut: true, warnings: jasmine.arrayContaining(['changed since']) }),
    );
    await edit([ids[0]!, 'price', '98.00']);
    expect(await lines(proof!.id)).toEqual([
      jasmine.objectContaining({ before: '£33.33', after: '£98.00', leftOut: false }),
    ]);
    expect((await lines(proof!.id))[0]!.warnings).not.toContain('changed since');
    await land(proof!.id);
    expect(await value(ids[0]!, 'price')).toBe('9800');
  });

  it('understands a change typed into a cell, of what the cell shows', async () => {
    await server.db.pool.query('update price set regular = 1000 where sku_id = $1', [ids[0]]);
    await inTransaction(server.db, async (tx) => (await import('../../../db/shelf.ts')).rebuildShelf(tx));
    const typed = async (text: string) => (await edit([ids[0]!, 'price', text])).pending[0]?.after;
    expect(await typed('+10%')).toBe('1100');
    expect(await typed('*2'))
      .withContext('of what is proposed, not of what stands')
      .toBe('2200');
    expect(await typed('+1')).toBe('2300');
    expect((await refusalOf(edit([ids[0]!, 'cost', '+x']))).detail).toContain('is not an amount');
  });

  it('proofs that nobody wants are put away together; the one in hand and those that landed stay', async () => {
    const proofOf = async (code: string) => {
      const { id } = await server.upload('list.csv', `code,name,price\n${code},Quill,5\n`);
      const body = { columns: ['code' as const, 'name' as const, 'price' as const], decimalSign: '.' as const };
      const { work } = await server.call(calls.readImport, {
        params: { id },
        body: { ...body, makeProducts: true, makeNames: true },
      });
      return (await server.finished(work)).result!;
    };
    const wanted = [await proofOf('ZZ-1'), await proofOf('ZZ-2'), await proofOf('ZZ-3')];
    await land(wanted[2]!);
    expect(await server.call(calls.discardProofs, { body: { ids: wanted } })).toEqual({ discarded: 2 });
    expect((await server.call(calls.listProofs)).proofs).toEqual([]);
  });
});
