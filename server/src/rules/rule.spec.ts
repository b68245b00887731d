import { calls } from '@ivory/contract';
import { type Rule } from '@ivory/core';
import { readStep } from '@ivory/core/rules';
import { ruleOf, testAsking } from '@ivory/core/testing';
import { parse } from 'csv-parse/sync';
import { inTransaction } from '../db/connect.ts';
import { staleShelf } from '../db/shelf.ts';
import { readShop } from '../asked/names.ts';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

const testShop = testAsking();
const TO_99 = 'round regular price to .99';
const FLOOR = 'within margin of regular price at least 30 %';
const raise = (percent: number): Rule => ruleOf(`raise regular price by ${percent} %\n${TO_99}`, testShop);
const lower = (percent: number, ...guards: string[]): Rule =>
  ruleOf([`lower regular price by ${percent} %`, TO_99, ...guards].join('\n'), testShop);

describe('a rule over a whole set', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const preview = (question: string, rule: Rule) => server.call(calls.previewRule, { body: { question, rule } });
  const put = async (question: string, rule: Rule) =>
    (await server.call(calls.putRule, { body: { question, title: 'A rule', rule } })).proof;
  const opened = async (body: Parameters<typeof list>[0]) => (await list(body)).skus;
  const list = (of: unknown) =>
    server.call(calls.openList, { body: { title: 'Opened', of: of as { kind: 'landing'; id: string } } });

  it('says for every SKU what becomes of it: it changes, it stays, or a guard stops it', async () => {
    const effect = await preview('in Ink', lower(10, FLOOR, 'within regular price changes by at most 10.5 %'));
    const { changes, stays, stopped, failed } = effect.sku;
    expect(changes + stays + stopped + failed).toBe(effect.skus);
    expect(effect.guards.every((guard) => guard.stopped > 0)).toBeTrue();
    expect(effect.spread!.marginAfter!).toBeLessThan(effect.spread!.marginBefore!);
    const bars = effect.spread!.prices.reduce((sum, { after }) => sum + after, 0);
    expect(bars).toBe(effect.skus);
  });

  it('says which rows of a table met nothing, and which of these are on no goods of the shop', async () => {
    const inks = (await server.codes('in Ink')).slice(0, 2);
    const [pen] = await server.codes('not in Ink');
    const codes = [...inks, pen!].map((code) => code.toLowerCase());
    const table = {
      slot: 'by',
      by: 'code' as const,
      rows: [...codes, 'nowhere'].map((code) => [code, '100'] as const),
      bands: false,
    };
    const effect = await preview('in Ink', { steps: [{ do: 'raise', field: 'price', slots: {}, table }], guards: [] });
    expect(effect.sku.changes).toBe(2);
    expect(effect.unmet).toEqual([
      {
        step: 0,
        rows: 2,
        inNoGoods: 1,
        first: [
          { row: 2, isInGoods: true },
          { row: 3, isInGoods: false },
        ],
      },
    ]);
  });

  it('says how many a guard took to its limit, and opens them', async () => {
    const rule = lower(10, 'within regular price changes by at most 5 %, else trim');
    const effect = await preview('in Ink', rule);
    const { trimmed } = effect.guards[0]!;
    expect(trimmed).toBeGreaterThan(0);
    const of = { kind: 'rule', question: 'in Ink', rule };
    expect(await opened({ ...of, count: { of: 'trimmed', place: 0 } })).toBe(trimmed);
  });

  it('puts into the proof exactly what it showed', async () => {
    const rule = lower(10, FLOOR);
    const effect = await preview('in Ink', rule);
    const proof = (await put('in Ink', rule))!;
    expect([proof.lines, proof.skus]).toEqual([effect.sku.changes, effect.sku.changes]);
    const { lines } = await server.call(calls.getProofLines, { params: { id: proof.id }, query: { count: 500 } });
    for (const sample of effect.samples.filter(({ outcome }) => outcome === 'changes')) {
      const line = lines.find(({ id }) => id === sample.id)!;
      expect([line.before, line.after]).toEqual([sample.values[0]!.before, sample.values[0]!.after]);
    }
  });

  it('opens every number as exactly its rows', async () => {
    const rule = lower(10, FLOOR);
    const effect = await preview('in Ink', rule);
    const of = { kind: 'rule', question: 'in Ink', rule };
    expect(await opened({ ...of, count: { of: 'changes' } })).toBe(effect.sku.changes);
    expect(await opened({ ...of, count: { of: 'guard', place: 0 } })).toBe(effect.guards[0]!.stopped);
    for (const [bar, { after }] of effect.spread!.margins.entries())
      expect(await opened({ ...of, count: { of: 'margins', bar } })).toBe(after);

    const changed = await list({ ...of, count: { of: 'changes' } });
    const answer = await server.call(calls.answerQuestion, { body: { question: changed.question } });
    expect(answer.counts.skus).toBe(effect.sku.changes);
    await put('in Ink', rule);
    const again = await server.call(calls.answerQuestion, { body: { question: changed.question } });
    const place = 3 + again.columns.indexOf('price');
    expect(new Set(again.pending.map(({ id }) => id))).toEqual(new Set(answer.rows.map((row) => row[0]!)));
    expect(again.rows.every((row) => row[place] !== null)).toBeTrue();
  });

  it('opens the SKUs of a proof, of one of its groups, and of a landing', async () => {
    const proof = (await put('in Ink', raise(60)))!;
    const large = proof.warnings.find(({ warning }) => warning === 'large change')!;
    expect(await opened({ kind: 'proof', id: proof.id, filter: {} })).toBe(proof.skus);
    expect(await opened({ kind: 'proof', id: proof.id, filter: { warning: 'large change' } })).toBe(large.lines);
    const { landing } = await server.call(calls.landProof, { params: { id: proof.id } });
    expect(await opened({ kind: 'landing', id: landing! })).toBe(proof.skus);
  });

  it('shows what its proof does to prices and margins, and opens every bar on both sides', async () => {
    const rule = lower(10, FLOOR);
    const proof = (await put('in Ink', rule))!;
    const spread = await server.call(calls.getProofSpread, { params: { id: proof.id } });
    const sum = (side: 'before' | 'after') => spread.prices.reduce((all, bar) => all + bar[side], 0);
    expect([sum('before'), sum('after')]).toEqual([proof.skus, proof.skus]);
    for (const of of ['prices', 'margins'] as const)
      for (const side of ['before', 'after'] as const)
        for (const [bar, counts] of spread[of].entries())
          expect(await opened({ kind: 'proof bar', id: proof.id, of, bar, side })).toBe(counts[side]);

    // What is left out is not done, and so not counted.
    await server.call(calls.leaveOut, { params: { id: proof.id }, body: { out: true, filter: { field: 'price' } } });
    const left = await server.call(calls.getProofSpread, { params: { id: proof.id } });
    expect(left.prices.every(({ before, after }) => before + after === 0)).toBeTrue();
  });

  it('gives its proof as a file, whole or by group', async () => {
    const proof = (await put('in Ink', raise(60)))!;
    const [first] = (await server.call(calls.getProofLines, { params: { id: proof.id } })).lines;
    const { id, kind, field } = first!;
    await server.call(calls.leaveOut, { params: { id: proof.id }, body: { out: true, lines: [{ id, kind, field }] } });
    const file = async (query = ''): Promise<string[][]> =>
      parse(await (await server.fetch(`/api/proofs/${proof.id}/lines.csv${query}`)).text());
    const [headings, ...lines] = await file();
    expect(headings).toEqual(['Kind', 'Code', 'Name', 'What', 'Before', 'After', 'To look at', 'Left out']);
    expect(lines).toHaveSize(proof.lines);
    expect(lines.find(([, code]) => code === first!.code)).toEqual([
      'sku',
      first!.code!,
      first!.name,
      'regular price',
      first!.before!,
      first!.after!,
      first!.warnings.join(', '),
      'yes',
    ]);
    const large = proof.warnings.find(({ warning }) => warning === 'large change')!;
    expect(await file('?warning=large%20change')).toHaveSize(large.lines + 1);
    expect((await refusalOf(file('?warning=odd'))).status).toBe(422);
    expect((await refusalOf(server.fetch('/api/proofs/999999/lines.csv'))).status).toBe(404);
  });

  it('never makes a price negative: those rows are stopped, and said', async () => {
    const rule = ruleOf('lower regular price by 10', testShop);
    const effect = await preview('', rule);
    expect(effect.failures['below nothing']).toBeGreaterThan(0);
    const proof = (await put('', rule))!;
    // What comes to nothing is landed once a person agrees.
    const nothing = proof.warnings.find(({ warning }) => warning === 'price of nothing');
    if (nothing) await server.agreeAndLand('price of nothing');
    else await server.land(proof.id);
    const { rows } = await server.db.pool.query<{ least: string }>('select min(regular) as least from price');
    expect(Number(rows[0]!.least)).toBeGreaterThanOrEqual(0);
  });

  it('replaces what was proposed before for the same cell, and gives it back when undone', async () => {
    const [first] = (await server.call(calls.answerQuestion, { body: { question: 'in Ink' } })).rows;
    const sku = first![0]!;
    await server.edits('By hand', [{ sku, field: 'price', text: '1.00' }]);
    const set = ruleOf('set regular price to 50', testShop);
    const proof = (await put('in Ink', set))!;
    const priceOf = async () => {
      const { lines } = await server.call(calls.getProofLines, { params: { id: proof.id }, query: { count: 500 } });
      return lines.find(({ id }) => id === sku)?.after;
    };
    expect(await priceOf()).toBe('£50.00');
    await server.call(calls.undoEdit);
    expect(await priceOf()).toBe('£1.00');
  });

  it('begins from what is proposed, says how many rows it meets, and takes its place or leaves them alone where that is chosen', async () => {
    const [first, second] = (await server.call(calls.answerQuestion, { body: { question: 'in Ink' } })).rows;
    const [a, b] = [first![0]!, second![0]!];
    const stood = await server.value(a, 'price');
    await server.edits('By hand', [
      { sku: a, field: 'price', text: '10.00' },
      { sku: b, field: 'price', text: '20.00' },
    ]);
    const raise = ruleOf('raise regular price by 10 %', testShop);
    const afters = async () => {
      const { proof } = await server.call(calls.getHandProof);
      const { lines } = await server.call(calls.getProofLines, { params: { id: proof!.id }, query: { count: 500 } });
      return [a, b].map((sku) => lines.find(({ id, field }) => id === sku && field === 'price')!);
    };
    expect((await preview('in Ink', raise)).inHand).toBe(2);
    await put('in Ink', raise);
    expect((await afters()).map(({ after }) => after)).toEqual(['£11.00', '£22.00']);
    expect((await afters())[0]!.before)
      .withContext('what stands in the shop is what was before')
      .toBe(`£${(Number(stood) / 100).toFixed(2)}`);
    // An earlier rule, and another on top of it: 10 % more, up to .95.
    await put('in Ink', ruleOf('round regular price up to .95', testShop));
    expect((await afters()).map(({ after }) => after)).toEqual(['£11.95', '£22.95']);
    const body = { question: 'in Ink', title: 'Else', rule: ruleOf('set regular price to 50', testShop) };
    await server.call(calls.putRule, { body: { ...body, onHand: 'without' } });
    expect((await afters()).map(({ after }) => after)).toEqual(['£11.95', '£22.95']);
    await server.call(calls.putRule, { body: { ...body, rule: raise, onHand: 'instead' } });
    expect((await afters())[0]!.after).toBe(`£${(Math.round(Number(stood) * 1.1) / 100).toFixed(2)}`);
  });

  it('adds to a set what an earlier step proposed, and not in its place', async () => {
    const step = (values: string) => ({ do: 'add to' as const, field: 'tags' as const, values });
    const { rows } = await server.db.pool.query<{ name: string }>('select name from tag order by id limit 2');
    for (const { name } of rows) await server.call(calls.putStep, { body: { question: 'in Ink', step: step(name) } });
    const { proof } = await server.call(calls.getHandProof);
    await server.land(proof!.id);
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'in Ink' } });
    const both = `in Ink tags is "${rows[0]!.name}" tags is "${rows[1]!.name}"`;
    expect((await server.call(calls.answerQuestion, { body: { question: both } })).counts.skus).toBe(counts.skus);
  });

  it('that changes nothing leaves no proof behind', async () => {
    expect(await put('price is 0', raise(10))).toBeNull();
  });

  it('with a question that does not read, or an amount that is none, is refused', async () => {
    expect((await refusalOf(put('in Inc', raise(10)))).places![0]!.code).toBe('category-unknown');
    const bad = (slots: Record<string, string>, field = 'price') =>
      put('', { steps: [{ do: 'raise', field: field as 'price', slots }], guards: [] });
    for (const slots of [{ by: 'abc' }, { by: '' }, { by: '5%%' }, { to: '5' }] as Record<string, string>[])
      expect((await refusalOf(bad(slots))).status)
        .withContext(JSON.stringify(slots))
        .toBe(422);
    expect((await refusalOf(bad({ by: '5' }, 'name'))).places![0]!.code).toBe('step-field');
    expect((await refusalOf(bad({ by: '5' }, 'own:999'))).places![0]!.code).toBe('slot-field');
    const { steps } = raise(10);
    const where = JSON.stringify({ kind: 'compare', field: 'brand', comparison: 'is', values: ['99999'] });
    expect((await refusalOf(put('', { steps: [{ ...steps[0]!, where }], guards: [] }))).status).toBe(422);
  });

  describe('on other fields', () => {
    const shown = async (question: string, ...lines: string[]) =>
      preview(question, await server.rule(lines.join('\n')));
    const landed = async (question: string, ...lines: string[]) => {
      const proof = (await put(question, await server.rule(lines.join('\n'))))!;
      return { proof, landing: await server.land(proof.id) };
    };
    const column = async (sql: string) => (await server.db.pool.query<{ x: unknown }>(sql)).rows.map(({ x }) => x);

    it('takes the brand out of names whatever its spelling, product by product, and is taken back', async () => {
      const names = 'select p.name as x from product p order by p.id';
      const plain = await column(names);
      await landed('brand is filled', 'write name from "{name} – {brand}’s"', 'change name to capitals');
      const effect = await shown('brand is filled', 'remove the brand from name');
      expect(effect.product.changes).toBeGreaterThan(50);
      expect(effect.sku).toEqual({ changes: 0, stays: 0, stopped: 0, failed: 0 });
      expect(effect.fields.map(({ field, of }) => [field, of])).toEqual([['name', 'lengths']]);
      const { proof, landing } = await landed('brand is filled', 'remove the brand from name');
      expect([proof.lines, proof.products]).toEqual([effect.product.changes, effect.product.changes]);
      const without = (await column(names)) as string[];
      expect(without.map((name) => name.toUpperCase())).toEqual((plain as string[]).map((name) => name.toUpperCase()));
      await server.land((await server.takeBack(landing)).id);
      expect((await column(names)).filter((name) => (name as string).includes(' – ')).length).toBe(proof.lines);
      expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    });

    it('does several things to products and SKUs at once, each where its condition holds', async () => {
      const effect = await shown(
        'in Ink',
        'set stage to Resting where brand is filled',
        'set weight to 77 where stage is Resting',
      );
      expect(effect.product.changes).toBeGreaterThan(0);
      const { proof } = await landed(
        'in Ink',
        'set stage to Resting where brand is filled',
        'set weight to 77 where stage is Resting',
      );
      expect(proof.fields.map(({ field }) => field).sort()).toEqual(['stage', 'weight']);
      const odd = await server.codes('in Ink stage is Resting not weight is 77');
      expect(odd).toEqual([]);
      expect(await server.codes('in Ink brand is filled not stage is Resting')).toEqual([]);
    });

    it('adds tags, moves categories, and says in numbers what is so already', async () => {
      await server.call(calls.makeThings, { body: { kind: 'tag', things: [{ name: 'Cold days' }] } });
      await server.land((await server.call(calls.getHandProof)).proof!.id);
      const first = await landed('in Ink', 'add Cold days to tags');
      expect(first.proof.fields.map(({ field }) => field)).toEqual(['tags']);
      const again = await shown('', 'add Cold days to tags');
      expect(again.product.stays).toBe(first.proof.lines);
      expect(again.fields[0]!.bars.find(({ called }) => called === 'Cold days')!.before).toBe(first.proof.lines);
      expect(await server.codes('in Ink not tags is "Cold days"')).toEqual([]);
    });

    it('counts stock up by movements', async () => {
      const [code] = await server.codes('stock > 3');
      const sku = await server.sku(code!);
      const before = Number(await server.value(sku, 'stock'));
      await landed(`code is "${code}"`, 'raise stock by 5');
      expect(Number(await server.value(sku, 'stock'))).toBe(before + 5);
    });

    it('works on descriptions and other words that stand beside the goods', async () => {
      await landed(
        'in Ink',
        'write page title from "{name} – ink"',
        'replace "ink" by "INK" in description exactly as written',
      );
      const titles = await column(
        `select w.page_title as x from product_words w join product p on p.id = w.product_id where w.page_title = p.name || ' – ink'`,
      );
      expect(titles.length).toBeGreaterThan(10);
    });

    it('does not use a code twice, and leaves what follows from others', async () => {
      const effect = await shown('in Ink', 'set MPN to SAME-1', 'within MPN not used twice');
      expect(effect.sku.changes).toBe(1);
      expect(effect.guards[0]!.stopped).toBe(effect.skus - 1);
      const codes = await shown('in Ink', 'set code to TAKEN-1', 'within code not used twice');
      expect(codes.sku.changes).toBe(1);
    });

    it('is done where its condition answers just as the question line does', async () => {
      const conditions = [
        'ink blue',
        'in Paper',
        'assortment is "Winter letters"',
        'not assortment is "Gift table"',
        'gap is "no weight", "no GTIN"',
        'margin < 40 brand is filled',
        'tags is "Staff pick" or colour is Blue',
        'stock is 0 stage is "On sale"',
        'description is empty',
      ];
      for (const condition of conditions) {
        const asked = (await server.call(calls.answerQuestion, { body: { question: condition } })).counts.skus;
        const effect = await shown('', `set MPN to "MET" where ${condition}`);
        expect(asked).withContext(condition).toBeGreaterThan(0);
        expect(effect.sku.changes).withContext(condition).toBe(asked);
      }
      const list = { kind: 'compare' as const, field: 'list' as const, comparison: 'is' as const, values: ['1'] };
      const step = { do: 'set' as const, field: 'mpn' as const, slots: { value: 'X' }, where: JSON.stringify(list) };
      expect((await refusalOf(put('', { steps: [step], guards: [] }))).status).toBe(422);
    });

    it('takes values from a table', async () => {
      const some = (await server.codes('in Ink')).slice(0, 3);
      const shop = await readShop(server.db);
      const text = some.map((code, i) => `${code}\t${i + 1}.50`).join('\n');
      const draft = {
        do: 'set' as const,
        field: 'price' as const,
        texts: {},
        where: '',
        table: { slot: 'value', by: 'code' as const, text, bands: false },
      };
      const step = readStep(draft, shop).value!;
      const proof = (await put('', { steps: [step], guards: [] }))!;
      expect(proof.lines).toBe(3);
      await server.land(proof.id);
      expect(await server.value(await server.sku(some[2]!), 'price')).toBe('350');
    });
  });
});
