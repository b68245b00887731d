import { calls, type PriceRuleWire } from '@ivory/contract';
import { parse } from 'csv-parse/sync';
import { openTestHouse, refusalOf, type TestHouse } from '../../testing/index.ts';

const raise = (percent: number, guards: PriceRuleWire['guards'] = {}): PriceRuleWire => ({
  steps: [
    { do: 'raise by', by: { kind: 'percent', percent: String(percent * 10_000) } },
    { do: 'round to', ending: '.99', direction: 'nearest' },
  ],
  guards,
});

const lower = (percent: number, guards: PriceRuleWire['guards'] = {}): PriceRuleWire => {
  const [, ending] = raise(percent).steps;
  return { steps: [{ do: 'lower by', by: { kind: 'percent', percent: String(percent * 10_000) } }, ending!], guards };
};

describe('a rule over a whole set', () => {
  let house: TestHouse;
  beforeEach(async () => (house = await openTestHouse()));
  afterEach(() => house.close());

  const preview = (question: string, rule: PriceRuleWire) =>
    house.call(calls.previewRule, { body: { question, rule } });
  const put = async (question: string, rule: PriceRuleWire) =>
    (await house.call(calls.putRule, { body: { question, title: 'A rule', rule } })).proof;
  const opened = async (body: Parameters<typeof list>[0]) => (await list(body)).skus;
  const list = (of: unknown) =>
    house.call(calls.openList, { body: { title: 'Opened', of: of as { kind: 'landing'; id: string } } });

  it('says for every SKU what becomes of it: it changes, it stays, or a guard stops it', async () => {
    const effect = await preview('in Ink', lower(10, { floorMargin: 3000, largestChange: '105000' }));
    const stopped = Object.values(effect.stopped).reduce((sum, skus) => sum + skus, 0);
    expect(effect.changes + effect.stays + stopped).toBe(effect.skus);
    expect(effect.stopped['floor margin']).toBeGreaterThan(0);
    expect(effect.stopped['largest change']).toBeGreaterThan(0);
    expect(effect.marginAfter!).toBeLessThan(effect.marginBefore!);
    const bars = effect.prices.reduce((sum, { after }) => sum + after, 0);
    expect(bars).toBe(effect.skus);
  });

  it('puts into the proof exactly what it showed', async () => {
    const rule = lower(10, { floorMargin: 3000 });
    const effect = await preview('in Ink', rule);
    const proof = (await put('in Ink', rule))!;
    expect([proof.lines, proof.skus]).toEqual([effect.changes, effect.changes]);
    const { lines } = await house.call(calls.getProofLines, { params: { id: proof.id }, query: { count: 500 } });
    for (const sample of effect.samples.filter(({ stoppedBy, before, after }) => !stoppedBy && before !== after)) {
      const line = lines.find(({ id }) => id === sample.id)!;
      expect(line.after).toBe('£' + (Number(sample.after) / 100).toFixed(2));
    }
  });

  it('opens every number as exactly its rows', async () => {
    const rule = lower(10, { floorMargin: 3000 });
    const effect = await preview('in Ink', rule);
    const of = { kind: 'rule', question: 'in Ink', rule };
    expect(await opened({ ...of, count: { of: 'changes' } })).toBe(effect.changes);
    expect(await opened({ ...of, count: { of: 'floor margin' } })).toBe(effect.stopped['floor margin']);
    for (const [bar, { after }] of effect.margins.entries())
      expect(await opened({ ...of, count: { of: 'margins', bar } })).toBe(after);

    const changed = await list({ ...of, count: { of: 'changes' } });
    const answer = await house.call(calls.answerQuestion, { body: { question: changed.question } });
    expect(answer.counts.skus).toBe(effect.changes);
    await put('in Ink', rule);
    const again = await house.call(calls.answerQuestion, { body: { question: changed.question } });
    const place = 3 + again.columns.indexOf('price');
    expect(new Set(again.pending.map(({ id }) => id))).toEqual(new Set(answer.rows.map((row) => row[0]!)));
    expect(again.rows.every((row) => row[place] !== null)).toBeTrue();
  });

  it('opens the SKUs of a proof, of one of its groups, and of a landing', async () => {
    const proof = (await put('in Ink', raise(60)))!;
    const large = proof.looks.find(({ look }) => look === 'large change')!;
    expect(await opened({ kind: 'proof', id: proof.id, filter: {} })).toBe(proof.skus);
    expect(await opened({ kind: 'proof', id: proof.id, filter: { look: 'large change' } })).toBe(large.lines);
    const { landing } = await house.call(calls.landProof, { params: { id: proof.id } });
    expect(await opened({ kind: 'landing', id: landing! })).toBe(proof.skus);
  });

  it('shows what its proof does to prices and margins, and opens every bar on both sides', async () => {
    const rule = lower(10, { floorMargin: 3000 });
    const proof = (await put('in Ink', rule))!;
    const spread = await house.call(calls.getProofSpread, { params: { id: proof.id } });
    const sum = (side: 'before' | 'after') => spread.prices.reduce((all, bar) => all + bar[side], 0);
    expect([sum('before'), sum('after')]).toEqual([proof.skus, proof.skus]);
    for (const of of ['prices', 'margins'] as const)
      for (const side of ['before', 'after'] as const)
        for (const [bar, counts] of spread[of].entries())
          expect(await opened({ kind: 'proof bar', id: proof.id, of, bar, side })).toBe(counts[side]);

    // What is left out is not done, and so not counted.
    await house.call(calls.leaveOut, { params: { id: proof.id }, body: { out: true, filter: { field: 'price' } } });
    const left = await house.call(calls.getProofSpread, { params: { id: proof.id } });
    expect(left.prices.every(({ before, after }) => before + after === 0)).toBeTrue();
  });

  it('gives its proof as a file, whole or by group', async () => {
    const proof = (await put('in Ink', raise(60)))!;
    const [first] = (await house.call(calls.getProofLines, { params: { id: proof.id } })).lines;
    const { id, kind, field } = first!;
    await house.call(calls.leaveOut, { params: { id: proof.id }, body: { out: true, lines: [{ id, kind, field }] } });
    const file = async (query = ''): Promise<string[][]> =>
      parse(await (await house.fetch(`/api/proofs/${proof.id}/lines.csv${query}`)).text());
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
      first!.looks.join(', '),
      'yes',
    ]);
    const large = proof.looks.find(({ look }) => look === 'large change')!;
    expect(await file('?look=large%20change')).toHaveSize(large.lines + 1);
    expect((await refusalOf(file('?look=odd'))).status).toBe(422);
    expect((await refusalOf(house.fetch('/api/proofs/999999/lines.csv'))).status).toBe(404);
  });

  it('never makes a price negative: those rows are stopped, and said', async () => {
    const rule: PriceRuleWire = { steps: [{ do: 'lower by', by: { kind: 'amount', amount: '1000' } }], guards: {} };
    const effect = await preview('', rule);
    expect(effect.stopped['below nothing']).toBeGreaterThan(0);
    const proof = (await put('', rule))!;
    await house.call(calls.landProof, { params: { id: proof.id } });
    const { rows } = await house.db.pool.query<{ least: string }>('select min(regular) as least from price');
    expect(Number(rows[0]!.least)).toBeGreaterThanOrEqual(0);
  });

  it('replaces what was proposed before for the same cell, and gives it back when undone', async () => {
    const [first] = (await house.call(calls.answerQuestion, { body: { question: 'in Ink' } })).rows;
    const sku = first![0]!;
    await house.edits('By hand', [{ sku, field: 'price', text: '1.00' }]);
    const set: PriceRuleWire = { steps: [{ do: 'set', to: '5000' }], guards: {} };
    const proof = (await put('in Ink', set))!;
    const priceOf = async () => {
      const { lines } = await house.call(calls.getProofLines, { params: { id: proof.id }, query: { count: 500 } });
      return lines.find(({ id }) => id === sku)?.after;
    };
    expect(await priceOf()).toBe('£50.00');
    await house.call(calls.undoEdit);
    expect(await priceOf()).toBe('£1.00');
  });

  it('that changes nothing leaves no proof behind', async () => {
    expect(await put('price is 0', raise(10))).toBeNull();
  });

  it('with a question that does not read, or an amount that is none, is refused', async () => {
    expect((await refusalOf(put('in Inc', raise(10)))).places![0]!.code).toBe('category-unknown');
    const bad = { steps: [{ do: 'set' as const, to: '-5' }], guards: {} };
    expect((await refusalOf(put('', bad))).status).toBe(422);
  });
});
