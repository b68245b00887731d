import { calls } from '@ivory/contract';
import { type FieldKey, type KindKey } from '@ivory/core';
import { inTransaction } from '../../../db/connect.ts';
import { staleShelf } from '../../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';

describe('things of the shop', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const make = (kind: KindKey, ...things: Record<string, string>[]) =>
    server.call(calls.makeThings, { body: { kind, things } });
  const remove = async (kind: KindKey, ids: string[], into: string | null = null) =>
    (await server.call(calls.removeThings, { body: { kind, ids, into } })).proof!;
  const list = async (kind: KindKey, of?: string) => {
    const { columns, things } = await server.call(calls.listThings, {
      params: { kind },
      ...(of !== undefined && { query: { of } }),
    });
    const at = (key: FieldKey) => columns.indexOf(key);
    return things.map((thing) => ({
      ...thing,
      name: thing.values[at('name')] ?? null,
      value: (key: FieldKey) => thing.values[at(key)],
    }));
  };
  const named = async (kind: KindKey, name: string, of?: string) =>
    (await list(kind, of)).find((one) => one.name === name)!;
  const count = async (question: string) => (await server.call(calls.answerQuestion, { body: { question } })).counts;
  const hand = async () => (await server.call(calls.getHandProof)).proof!;
  const landHand = async () => server.land((await hand()).id);
  const isRight = async () => expect(await inTransaction(server.db, staleShelf)).toEqual([]);

  it('are a new attribute, needed in Pens: its gap is counted, filled, asked, found in history and taken back', async () => {
    const body = {
      kind: 'attribute' as const,
      things: [{ name: 'nib width', type: 'number', unit: 'mm', usedIn: 'Pens', neededIn: 'Pens' }],
    };
    const { ids, proof } = await server.call(calls.makeThings, { body });
    expect([ids.length, proof!.state]).toEqual([1, 'open']);
    const made = await server.land(proof!.id);
    const pens = await count('in Pens');
    expect((await count('gap is "no nib width"')).skus).toBe(pens.skus);

    const key = `own:${ids[0]!}` as FieldKey;
    const { rows } = await server.call(calls.answerQuestion, { body: { question: 'in Pens' } });
    const products = [...new Set(rows.map((row) => row[1]!))].slice(0, 40);
    const edits = products.map((id, i) => ({ kind: 'product' as const, id, field: key, text: `0.${4 + (i % 5)} mm` }));
    const pasted = await server.call(calls.editCells, { body: { title: 'Pasted', edits } });
    expect(pasted.pending.find(({ id }) => id === products[0])).toEqual(
      jasmine.objectContaining({ field: key, after: '400000' }),
    );
    const filled = await server.land(pasted.proof!.id);
    expect((await count('gap is "no nib width"')).products).toBe(pens.products - products.length);
    const thin = products.filter((_, i) => i % 5 < 2).length;
    expect((await count('nib width < 0.6')).products).toBe(thin);
    expect((await count('nib width < 0.6 in Pens not nib width is 0.4')).products).toBe(
      products.filter((_, i) => i % 5 === 1).length,
    );

    const sku = rows.find((row) => row[1] === products[0])![0]!;
    const { history } = await server.call(calls.getSku, { params: { id: sku } });
    expect(history[0]).toEqual(
      jasmine.objectContaining({ called: 'nib width', before: null, after: '0.4 mm', title: 'Pasted' }),
    );

    await server.land((await server.takeBack(filled)).id);
    expect((await count('nib width is filled')).skus).toBe(0);
    await server.land((await server.takeBack(made)).id);
    expect((await list('attribute')).map(({ name }) => name)).not.toContain('nib width');
    expect((await refusalOf(count('nib width < 0.6'))).places![0]!.code).toBe('field-unknown');
    await isRight();
  });

  it('with values keep them when their making is taken back: what goods have is not lost unasked', async () => {
    const { ids, proof } = await make('attribute', { name: 'ink flow', type: 'text' });
    const made = await server.land(proof!.id);
    await server.set('product', '1', `own:${ids[0]!}`, 'Wet');
    await landHand();
    const back = await server.takeBack(made);
    expect([back.lines, back.warnings.map(({ warning }) => warning)]).toEqual([0, ['changed since']]);
    // Deleting it says so, and takes its values along; taken back, they are there again.
    const gone = await server.land((await remove('attribute', ids)).id);
    expect((await refusalOf(count('ink flow is Wet'))).status).toBe(422);
    await server.land((await server.takeBack(gone)).id);
    expect((await count('ink flow is wet')).products).toBe(1);
  });

  it('are a brand that is renamed: what is asked and searched follows, and nothing of any product is touched', async () => {
    const { id } = await named('brand', 'Moss Lane');
    const before = await count('brand is "Moss Lane"');
    const proof = await server.set('brand', id, 'name', 'Fern Lane');
    expect([proof.lines, proof.fields]).toEqual([1, [{ kind: 'brand', field: 'name', called: 'name', lines: 1 }]]);
    expect(await count('brand is "Moss Lane"')).toEqual(before);
    const landing = await landHand();
    expect(await count('brand is "Fern Lane"')).toEqual(before);
    expect((await count('"fern lane"')).skus).toBe(before.skus);
    await isRight();
    const { rows } = await server.db.pool.query('select name from product where name in ($1, $2)', [
      'Fern Lane',
      'Moss Lane',
    ]);
    expect(rows).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect((await named('brand', 'Moss Lane')).id).toBe(id);
  });

  it('are two brands that are merged, and parted again by taking it back', async () => {
    const [one, other] = [await named('brand', 'Moss Lane'), await named('brand', 'Quillmere')];
    const [first, second] = [await count('brand is "Moss Lane"'), await count('brand is Quillmere')];
    const proof = await remove('brand', [one.id], other.id);
    expect(proof.sources[0]!.title).toBe('Merge Moss Lane into Quillmere');
    expect(proof.products).toBe(first.products);
    const landing = await server.land(proof.id);
    expect((await count('brand is Quillmere')).products).toBe(first.products + second.products);
    expect((await list('brand')).map(({ name }) => name)).not.toContain('Moss Lane');
    await isRight();
    await server.land((await server.takeBack(landing)).id);
    expect(await count('brand is "Moss Lane"')).toEqual(first);
    await isRight();
  });

  it('are a category that goes: its goods and what lies in it go to what it lay in', async () => {
    const bottled = await named('category', 'Bottled');
    const [within, ink] = [await count('in Bottled'), await count('in Ink')];
    const landing = await server.land((await remove('category', [bottled.id])).id);
    expect(await count('in Ink')).toEqual(ink);
    expect((await named('category', 'Iron gall')).value('parent')).toBe((await named('category', 'Ink')).id);
    await isRight();
    await server.land((await server.takeBack(landing)).id);
    expect(await count('in Bottled')).toEqual(within);
    await isRight();
  });

  it('are a branch that moves: whatever lies in it is found there', async () => {
    const [bottled, desk] = [await named('category', 'Bottled'), await count('in Desk')];
    const moved = await count('in Bottled');
    await server.set('category', bottled.id, 'parent', 'Desk');
    await landHand();
    expect((await count('in Desk')).products).toBe(desk.products + moved.products);
    await isRight();
    // A category cannot be moved under itself; the database says so too.
    const below = await named('category', 'Iron gall');
    const refused = await refusalOf(server.set('category', bottled.id, 'parent', 'Iron gall').then(landHand));
    expect([refused.status, below.id.length > 0]).toEqual([422, true]);
  });

  it('are values of an option: renamed everywhere, merged, and deleted from the goods that have them', async () => {
    const [blue, black] = [await named('choice', 'Blue', '1'), await named('choice', 'Black', '1')];
    const [blues, blacks] = [await count('colour is Blue'), await count('colour is Black')];
    expect(blue.used).toEqual({ products: blues.products, question: 'colour is Blue' });
    await server.set('choice', blue.id, 'name', 'Azure');
    await landHand();
    expect(await count('colour is Azure')).toEqual(blues);
    expect((await count('azure')).skus).toBe(blues.skus);
    await isRight();
    await server.land((await remove('choice', [blue.id], black.id)).id);
    expect((await count('colour is Black')).skus).toBe(blues.skus + blacks.skus);
    const gone = await server.land((await remove('choice', [black.id])).id);
    expect((await count('colour is empty')).skus).toBeGreaterThanOrEqual(blues.skus + blacks.skus);
    await isRight();
    await server.land((await server.takeBack(gone)).id);
    expect((await count('colour is Black')).skus).toBe(blues.skus + blacks.skus);
    await isRight();
  });

  it('are a whole option with its values, made and used in one proof', async () => {
    const { ids } = await make('option', { name: 'tip', feed: 'pattern' });
    const { ids: values } = await server.call(calls.makeThings, {
      body: { kind: 'choice', of: ids[0]!, things: [{ name: 'Fine' }, { name: 'Broad' }] },
    });
    expect((await list('option')).find(({ id }) => id === ids[0])).toEqual(jasmine.objectContaining({ made: true }));
    await landHand();
    await server.edit('1', `own:${ids[0]!}`, 'broad');
    await server.edit('2', `own:${ids[0]!}`, 'Stub');
    await landHand();
    expect((await count('tip is Broad')).skus).toBe(1);
    expect((await count('stub')).skus)
      .withContext('a value that was typed was made')
      .toBe(1);
    expect((await list('choice', ids[0])).map(({ name }) => name)).toEqual(['Fine', 'Broad', 'Stub']);
    const { values: counted } = await server.call(calls.countValues, {
      body: { question: '', field: `own:${ids[0]!}` },
    });
    expect(counted).toEqual([
      { value: values[1]!, name: 'Broad', skus: 1 },
      { value: jasmine.any(String) as unknown as string, name: 'Stub', skus: 1 },
    ]);
    await isRight();
  });

  it('that were made with a cell go when the cell gets another value', async () => {
    await server.edit('1', 'own:1', 'Tea');
    const proof = await server.edit('1', 'own:1', 'Teal');
    await server.land(proof.id);
    expect((await list('choice', '1')).map(({ name }) => name)).not.toContain('Tea');
  });

  it('are refused by the value that cannot be, and nothing of the rest is taken in', async () => {
    const refused = async (kind: KindKey, ...things: Record<string, string>[]) => {
      const { places, title } = await refusalOf(make(kind, ...things));
      return places?.map(({ code }) => code) ?? title;
    };
    expect(await refused('brand', { name: 'New' }, { name: '  ' })).toEqual(['required']);
    expect(await refused('brand', { name: 'moss LANE' })).toEqual(['name-in-use']);
    expect(await refused('tag', { name: 'x'.repeat(201) })).toEqual(['text-too-long']);
    expect(await refused('tag', { name: 'a\u202eb' })).toEqual(['text-unseen']);
    expect(await refused('attribute', { name: 'Stage' })).toEqual(['name-is-field']);
    expect(await refused('attribute', { name: 'colour' })).toEqual(['name-is-field']);
    expect(await refused('attribute', { name: 'flow', type: 'colour' })).toEqual(['choice-unknown']);
    expect(await refused('attribute', { name: 'flow', usedIn: 'Pons' })).toEqual(['category-unknown']);
    expect(await refused('choice', { name: 'Red' })).toContain('A value belongs to an option');
    expect(await refused('product', { name: 'Ink' })).toContain('not made here');
    expect(await refused('brand', { name: 'New', colour: 'Red' })).toContain('has no field colour');
    expect((await server.call(calls.getHandProof)).proof).toBeNull();
    const paper = (await list('attribute')).find(({ name }) => name === 'paper weight')!;
    for (const [text, code] of [
      ['80 g', 'unit-unknown'],
      ['heavy', 'number-unreadable'],
    ] as const)
      expect((await refusalOf(server.edit('1', `own:${paper.id}`, text))).places![0]!.code).toBe(code);
    expect((await refusalOf(server.set('attribute', paper.id, 'type', 'text'))).places![0]!.code).toBe(
      'field-read-only',
    );
    const { id } = await named('brand', 'Moss Lane');
    expect((await refusalOf(remove('brand', [id], id))).status).toBe(422);
    const bottled = await named('category', 'Bottled');
    const below = await named('category', 'Iron gall');
    expect((await refusalOf(remove('category', [bottled.id], below.id))).title).toContain('lies below');
  });

  it('are an attribute of another type: what would not fit is told before, the rest is kept, and all is as it was when taken back', async () => {
    const finish = (await server.call(calls.getShop)).fields.find(({ name }) => name === 'finish')!;
    const key = `own:${finish.id}` as FieldKey;
    const { rows } = await server.call(calls.answerQuestion, { body: { question: 'in Desk finish is filled' } });
    const [first, second] = [...new Set(rows.map((row) => row[1]!))];
    await server.set('product', first!, key, '0.6 mm');
    await server.set('product', second!, key, '1,200');
    await landHand();
    const filled = await count('finish is filled');
    const change = (propose: boolean, type: 'number' | 'choice' = 'number', unit = 'mm') =>
      server.call(calls.changeType, { body: { id: finish.id, type, unit, propose } });
    const weighed = await change(false);
    expect([weighed.fits, weighed.proof]).toEqual([2, null]);
    expect(weighed.unfit.reduce((sum, { products }) => sum + products, 0)).toBe(filled.products - 2);
    expect(weighed.unfit[0]!.why).toContain('is not a number for the finish');

    await change(true);
    const landing = await landHand();
    expect((await count('finish is filled')).products).toBe(2);
    expect((await count('finish < 1')).products).toBe(1);
    await isRight();
    await server.land((await server.takeBack(landing)).id);
    expect(await count('finish is filled')).toEqual(filled);
    expect((await count('finish is "0.6 mm"')).products).toBe(1);

    // As one choice every text fits, and becomes a choice.
    expect((await change(true, 'choice', '')).unfit).toEqual([]);
    await landHand();
    expect(await count('finish is filled')).toEqual(filled);
    expect((await count('finish is "0.6 mm"')).products).toBe(1);
    await isRight();
  });

  it('that goods got meanwhile are not deleted unasked', async () => {
    const gift = await named('tag', 'Last few');
    const proof = await remove('tag', [gift.id]);
    const { rows } = await server.db.pool.query<{ id: string }>(
      'select product_id as id from product_own where tags is null order by 1 limit 1',
    );
    // Another window lands a tag on a product that had none.
    await server.db.pool.query(`update product_own set tags = $1 where product_id = $2`, [[gift.id], rows[0]!.id]);
    expect((await refusalOf(server.land(proof.id))).status).toBe(409);
    expect((await named('tag', 'Last few')).id).toBe(gift.id);
  });

  it('that are gone cannot be given any more', async () => {
    const gift = await named('tag', 'Last few');
    const file = await server.upload('tags.csv', `code,tags\n${(await server.codes('tags is empty'))[0]!},Last few\n`);
    const { work } = await server.call(calls.readImport, {
      params: { id: file.id },
      body: { columns: ['code', 'tags'], decimalSign: '.', makeProducts: false, makeNames: false },
    });
    const { result } = await server.finished(work);
    await server.land((await remove('tag', [gift.id])).id);
    const { lines } = await server.call(calls.getProofLines, { params: { id: result! }, query: {} });
    expect(lines.map(({ after, warnings, leftOut }) => [after, warnings, leftOut])).toEqual([
      ['Last few', ['thing gone'], true],
    ] as never);
    expect((await refusalOf(server.land(result!))).title).toContain('every line is left out');
  });

  describe('a step on a set', () => {
    const step = (question: string, body: Parameters<typeof put>[1]) => put(question, body);
    const put = (
      question: string,
      step:
        | { do: 'add to' | 'take from' | 'replace all'; values: string; field: FieldKey }
        | { do: 'move'; from: string; values: string; field: FieldKey },
    ) => server.call(calls.putStep, { body: { question, step } });

    it('adds to what each has, and counts those that have it already', async () => {
      const [all, had] = [await count('in Ink'), await count('in Ink tags is Gift')];
      const body = { question: 'in Ink', step: { do: 'add to', field: 'tags', values: 'Gift' } as const };
      const seen = await server.call(calls.putStep, { body: { ...body, propose: false } });
      expect([seen.changes, seen.proof]).toEqual([all.products - had.products, null]);
      const { changes, already, proof } = await server.call(calls.putStep, { body });
      expect([changes, already]).toEqual([all.products - had.products, had.products]);
      const landing = await server.land(proof!.id);
      expect((await count('in Ink tags is Gift')).products).toBe(all.products);
      await server.land((await server.takeBack(landing)).id);
      expect(await count('in Ink tags is Gift')).toEqual(had);
      await isRight();
    });

    it('keeps the four verbs for categories apart', async () => {
      const places = async (id: string) =>
        (
          await server.db.pool.query<{ c: string }>(
            `select string_agg(c.name, ' | ' order by p.place) as c from placement p join category c on c.id = p.category_id where product_id = $1`,
            [id],
          )
        ).rows[0]!.c;
      const { rows } = await server.call(calls.answerQuestion, {
        body: { question: 'category is "Ink > Bottled > Dye"' },
      });
      const [sku, product] = rows[0]!;
      const question = `code is ${(await server.value(sku!, 'code'))!}`;
      const after = async (body: Parameters<typeof put>[1]) => {
        const { proof } = await step(question, body);
        if (proof) await server.land(proof.id);
        return places(product!);
      };
      const field = 'category' as const;
      expect(await after({ do: 'add to', field, values: 'Desk > Storage' })).toBe('Dye | Storage');
      expect(await after({ do: 'move', field, from: 'Dye', values: 'Pigment' })).toBe('Pigment | Storage');
      expect(await after({ do: 'take from', field, values: 'Desk > Storage' })).toBe('Pigment');
      expect(await after({ do: 'replace all', field, values: 'Paper | Desk' })).toBe('Paper | Desk');
      expect(await after({ do: 'move', field, from: 'Dye', values: 'Pigment' }))
        .withContext('it is not there')
        .toBe('Paper | Desk');
      await isRight();
    });

    it('is refused for fields that hold one thing, and for what there is not', async () => {
      expect((await refusalOf(step('', { do: 'add to', field: 'brand', values: 'Moss Lane' }))).status).toBe(422);
      expect((await refusalOf(step('', { do: 'add to', field: 'tags', values: 'Gft' }))).places![0]).toEqual(
        jasmine.objectContaining({ code: 'reference-unknown', expected: 'Gift' }),
      );
    });
  });

  it('sets of two people both arrive', async () => {
    const { id } = (
      await server.db.pool.query<{ id: string }>('select product_id as id from product_own where tags is null limit 1')
    ).rows[0]!;
    const proof = await server.set('product', id, 'tags', 'Gift');
    const staff = await named('tag', 'Staff pick');
    await server.db.pool.query('update product_own set tags = $1 where product_id = $2', [[staff.id], id]);
    await server.land(proof.id);
    const { rows } = await server.db.pool.query<{ tags: string[] }>(
      'select tags from product_own where product_id = $1',
      [id],
    );
    expect(rows[0]!.tags).toHaveSize(2);
  });
});
