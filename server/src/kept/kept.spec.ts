import { calls } from '@ivory/contract';
import { startTestServer, refusalOf, type TestServer } from '../testing/index.ts';

describe('what is kept under names', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  const sets = async () => (await server.call(calls.countSpine, { body: { question: '' } })).sets;
  const keepSet = (name: string, question: string, more: { id?: string; note?: string } = {}) =>
    server.call(calls.keepSet, { body: { name, question, ...more } });
  const rules = async () => (await server.call(calls.listRules)).rules;

  it('a set is asked for by its question, with its count as it is now', async () => {
    const { id } = await keepSet('Cheap ink', 'in Ink price < 5', { note: 'For the front table' });
    const count = (await server.call(calls.answerQuestion, { body: { question: 'in Ink price < 5' } })).counts.skus;
    expect(await sets()).toEqual([
      { id, name: 'Cheap ink', note: 'For the front table', question: 'in Ink regular price < 5.00', skus: count },
    ]);
    await server.land((await server.set('category', '1', 'name', 'Inks')).id);
    expect((await sets())[0]!.question)
      .withContext('it follows what it names')
      .toBe('in Inks regular price < 5.00');
    await keepSet('Cheap inks', 'price < 6', { id });
    expect((await sets()).map(({ name, question }) => [name, question])).toEqual([
      ['Cheap inks', 'regular price < 6.00'],
    ]);
    await server.call(calls.forgetSet, { params: { id } });
    await server.call(calls.forgetSet, { params: { id } });
    expect(await sets()).toEqual([]);
  });

  it('has each name once, and only what reads', async () => {
    await keepSet('Cheap', 'price < 5');
    expect((await refusalOf(keepSet('CHEAP', 'price < 6'))).title).toContain('CHEAP');
    expect((await refusalOf(keepSet('Odd', 'in Inc'))).places![0]!.code).toBe('category-unknown');
    expect((await refusalOf(keepSet(' ', ''))).status).toBe(422);
    expect((await refusalOf(keepSet('Gone', '', { id: '999' }))).status).toBe(404);
  });

  it('a rule is kept with its rows, and tells when it was run and what it then changed', async () => {
    const rule = await server.rule('raise regular price by 4 %\nwithin regular price at most 900');
    const { id } = await server.call(calls.keepRule, {
      body: { name: 'Spring prices', question: 'in Ink', rule, note: 'Each March' },
    });
    expect(await rules()).toEqual([
      { id, name: 'Spring prices', note: 'Each March', question: 'in Ink', rule, runs: [] } as never,
    ]);
    const { proof } = await server.call(calls.putRule, { body: { question: 'in Ink', title: 'Up', rule, kept: id } });
    const [kept] = await rules();
    expect(kept!.runs.map(({ changes }) => changes)).toEqual([proof!.lines]);
    expect(Math.abs(Date.parse(kept!.runs[0]!.at) - Date.now())).toBeLessThan(60_000);
    const again = await server.call(calls.keepRule, {
      body: { id, name: 'Spring prices', question: null, rule, note: '' },
    });
    expect(again.id).toBe(id);
    expect((await rules())[0]!.question).toBeNull();
    await server.call(calls.forgetRule, { params: { id } });
    expect(await rules()).toEqual([]);
  });

  it('a rule that names what is gone says so when it is run, and is not kept so', async () => {
    await server.call(calls.makeThings, { body: { kind: 'tag', things: [{ name: 'Passing' }] } });
    await server.land((await server.call(calls.getHandProof)).proof!.id);
    const rule = await server.rule('add Passing to tags');
    const { id } = await server.call(calls.keepRule, { body: { name: 'Tag', question: null, rule } });
    const tag = rule.steps[0]!.slots['values']!;
    await server.call(calls.removeThings, { body: { kind: 'tag', ids: [tag], into: null } });
    await server.land((await server.call(calls.getHandProof)).proof!.id);
    expect((await rules()).map((one) => one.id)).toEqual([id]);
    const run = server.call(calls.putRule, { body: { question: '', title: 'Tag', rule } });
    expect((await refusalOf(run)).title).toBe('The rule cannot be run.');
    const kept = server.call(calls.keepRule, { body: { name: 'Tag 2', question: null, rule } });
    expect((await refusalOf(kept)).status).toBe(422);
  });
});

describe('columns of a desk that are kept', () => {
  it('stand by their names, each on its desk, and are taken over by the same name', async () => {
    const server = await startTestServer();
    const layout = {
      keys: ['code' as const, 'stock' as const],
      widths: { code: 120 },
      locked: [],
      staying: 1,
      wraps: false,
    };
    const keep = (name: string, desk: 'stock' | 'range', more: Partial<typeof layout> = {}) =>
      server.call(calls.keepLayout, { body: { desk, name, layout: { ...layout, ...more } } });
    const names = async (desk: 'stock' | 'range') =>
      (await server.call(calls.listLayouts, { params: { desk } })).layouts.map(({ name }) => name);
    await keep('To count', 'stock');
    const { id } = await keep('By brand', 'stock');
    await keep('To count', 'range');
    expect([await names('stock'), await names('range')]).toEqual([['By brand', 'To count'], ['To count']]);
    await keep('by brand', 'stock', { staying: 0, wraps: true });
    const { layouts } = await server.call(calls.listLayouts, { params: { desk: 'stock' } });
    expect(layouts[0]).toEqual({ id, name: 'by brand', layout: { ...layout, staying: 0, wraps: true } });
    await server.call(calls.forgetLayout, { params: { id } });
    expect(await names('stock')).toEqual(['To count']);
    expect((await refusalOf(keep('', 'stock'))).status).toBe(422);
    await server.close();
  });
});
