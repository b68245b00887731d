import { tries } from '@ivory/core/testing';
import { calls } from '@ivory/contract';
import { type KindKey } from '@ivory/core';
import fc from 'fast-check';
import { inTransaction } from '../../../db/connect.ts';
import { staleShelf } from '../../../db/shelf.ts';
import { startTestServer, refusalOf, type TestServer } from '../../../testing/index.ts';
import { moveThings } from './moveThings.ts';

describe('a tree that is laid out', () => {
  let server: TestServer;
  beforeEach(async () => (server = await startTestServer()));
  afterEach(() => server.close());

  interface Where {
    readonly into?: string | null;
    readonly before?: string | null;
    readonly propose?: boolean;
  }
  const move = (ids: string[], where: Where = {}, kind: KindKey = 'category') =>
    server.call(calls.moveThings, { body: { kind, ids, ...where } });
  const make = async (name: string, parent = '') =>
    (await server.call(calls.makeThings, { body: { kind: 'category', things: [{ name, parent }] } })).ids[0]!;
  const hand = async () => (await server.call(calls.getHandProof)).proof;
  const landHand = async () => server.land((await hand())!.id);
  const categories = async () => (await server.call(calls.getShop)).categories;
  const id = async (name: string) => (await categories()).find((one) => one.name === name)!.id;
  /** The tree as text, in its order: a line for each category. */
  const tree = async () => {
    const { rows } = await server.db.pool.query<{ line: string }>(`
      select id || ' in ' || coalesce(parent_id::text, '-') || ': ' || name as line
      from category order by coalesce(parent_id, 0), place, id`);
    return rows.map(({ line }) => line);
  };
  const under = async (parent: string | null) =>
    (await categories()).filter((one) => one.parent === parent).map(({ name }) => name);

  it('moves a branch with all that lies below it, and says how many products get another path', async () => {
    const before = await tree();
    const [bottled, paper] = [await id('Bottled'), await id('Paper')];
    const { counts } = await server.call(calls.answerQuestion, { body: { question: 'in Bottled' } });
    const weighed = await move([bottled], { into: paper, propose: false });
    expect(weighed).toEqual({ proof: null, below: 3, products: counts.products });
    const { proof } = await move([bottled], { into: paper });
    expect(proof!.sources.map(({ title }) => title)).toEqual(['Move Bottled to Paper']);
    const landing = await landHand();
    expect((await under(paper)).at(-1)).toBe('Bottled');
    expect(
      (await server.call(calls.answerQuestion, { body: { question: 'in Paper in Bottled' } })).counts.products,
    ).toBe(counts.products);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
    await server.land((await server.takeBack(landing)).id);
    expect(await tree()).toEqual(before);
  });

  it('orders siblings, several at once, and changes no more places than it must', async () => {
    const roots = await under(null);
    const [ink, pens] = [await id('Ink'), await id('Pens')];
    const { proof } = await move([ink, pens], { before: null });
    await landHand();
    expect(await under(null)).toEqual([...roots.filter((name) => !['Ink', 'Pens'].includes(name)), 'Ink', 'Pens']);
    expect(proof!.lines).withContext('those that moved alone').toBe(2);
    await move([pens], { before: ink });
    await landHand();
    expect((await under(null)).slice(-2)).toEqual(['Pens', 'Ink']);
  });

  it('moves what is only proposed, and makes it where it was moved to', async () => {
    const samplers = await make('Samplers', 'Ink');
    const fresh = await make('Fresh', 'Ink > Samplers');
    await move([samplers], { into: await id('Paper') });
    await landHand();
    const all = await categories();
    expect(all.find((one) => one.id === samplers)!.parent).toBe(await id('Paper'));
    expect(all.find((one) => one.id === fresh)!.parent).toBe(samplers);
  });

  it('refuses a branch in itself, siblings of one name, a tree that is too deep, and what has no order', async () => {
    const [ink, bottled, paper] = [await id('Ink'), await id('Bottled'), await id('Paper')];
    const title = async (work: Promise<unknown>) => (await refusalOf(work)).title;
    expect(await title(move([ink], { into: bottled }))).toContain('cannot lie in itself');
    expect(await title(move([ink], { into: ink }))).toContain('cannot lie in itself');
    await make('BÓTTLED', 'Paper');
    expect(await title(move([bottled], { into: paper }))).toContain('“BÓTTLED” there already');
    let parent = 'Paper';
    for (let level = 2; level <= 7; level++) {
      await make(`Level ${level}`, parent);
      parent += ` > Level ${level}`;
    }
    await landHand();
    expect(await title(move([bottled], { into: await id('Level 7') }))).toContain('8 levels down at most');
    expect(await title(move(['1'], {}, 'brand'))).toContain('no order of their own');
    expect(await title(move(['999999']))).toContain('not there any more');
    expect(await hand())
      .withContext('nothing was left behind')
      .toBeNull();
  });

  it('stays a tree when two people each move one branch into the other', async () => {
    const [ink, paper] = [await id('Ink'), await id('Paper')];
    const { rows } = await server.db.pool.query<{ id: string }>(
      `insert into person (name) values ('Bram Sedge') returning id`,
    );
    await moveThings(server.db, rows[0]!.id, {
      kind: 'category',
      ids: [paper],
      into: ink,
      before: null,
      propose: true,
    });
    await move([ink], { into: paper });
    const proofs = await server.call(calls.listProofs);
    const [first, second] = proofs.proofs.map((proof) => proof.id);
    await server.land(first!);
    const refused = await refusalOf(server.call(calls.landProof, { params: { id: second! } }));
    expect([refused.status, refused.title]).toEqual([422, jasmine.stringContaining('would lie in itself')]);
    expect(await inTransaction(server.db, staleShelf)).toEqual([]);
  });

  it('orders the values of an option, and stock places in their levels', async () => {
    const of = { params: { kind: 'choice' as const }, query: { of: '1' } };
    const values = async () => (await server.call(calls.listThings, of)).things.map((one) => one.id);
    const [first, second, ...rest] = await values();
    await move([first!], { before: null }, 'choice');
    expect(await values())
      .withContext('as it is proposed')
      .toEqual([second!, ...rest, first!]);
    await landHand();
    expect((await values()).at(-1)).toBe(first);
    const { things } = await server.call(calls.listThings, { params: { kind: 'stockPlace' } });
    const place = (name: string) => things.find((one) => one.values.includes(name))!.id;
    await move([place('Bay A')], { into: place('Shop floor') }, 'stockPlace');
    await landHand();
    const moved = await server.call(calls.getThing, { params: { kind: 'stockPlace', id: place('Bay A') } });
    expect(moved.thing.values[moved.columns.indexOf('parent')]).toBe(place('Shop floor'));
  });

  it('orders assortments, as the front page of the shop shows them', async () => {
    const order = async () => (await server.call(calls.shopCategories)).assortments.map(({ name }) => name);
    const { lists } = await server.call(calls.getShop);
    const named = (name: string) => lists['assortment']!.find((one) => one.name === name)!.id;
    expect(await order()).toEqual(['Winter letters', 'Gift table']);
    const made = (
      await server.call(calls.makeThings, {
        body: { kind: 'assortment', things: [{ name: 'First of all', ownPage: 'yes' }] },
      })
    ).ids[0]!;
    await move([named('Gift table')], { before: named('Winter letters') }, 'assortment');
    await move([made], { before: named('Gift table') }, 'assortment');
    const landing = await landHand();
    expect(await order()).toEqual(['First of all', 'Gift table', 'Winter letters']);
    await server.land((await server.takeBack(landing)).id);
    expect(await order()).toEqual(['Winter letters', 'Gift table']);
  });

  it('is still a tree after whatever is done to it, and what it was when all of that is taken back', async () => {
    const step = fc.record({
      do: fc.constantFrom('move', 'move', 'make', 'rename', 'delete'),
      which: fc.nat(),
      into: fc.nat(),
      before: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 8 }), async (steps) => {
        const start = await tree();
        const landings: string[] = [];
        for (const [i, { do: verb, which, into, before }] of steps.entries()) {
          const all = await categories();
          const one = all[which % all.length]!;
          const other = all[into % all.length]!;
          const done =
            verb === 'move'
              ? move([one.id], before ? { into: other.parent, before: other.id } : { into: other.id })
              : verb === 'make'
                ? server.call(calls.makeThings, {
                    body: {
                      kind: 'category',
                      things: [{ name: `Made ${i}`, ...(before && { parent: pathOf(all, one.id) }) }],
                    },
                  })
                : verb === 'rename'
                  ? server.set('category', one.id, 'name', `Named ${i}`)
                  : server.call(calls.removeThings, { body: { kind: 'category', ids: [one.id], into: null } });
          // What cannot be done is refused, and changes nothing.
          const possible = await done.then(
            () => true,
            () => false,
          );
          const proof = await hand();
          if (!possible || !proof) continue;
          const landing = await server.land(proof.id).catch(() => undefined);
          if (landing === undefined) await server.call(calls.discardProof, { params: { id: proof.id } });
          else landings.push(landing);
          const { rows } = await server.db.pool.query<{ lost: string }>(
            'select count(*) as lost from category c where c.id <> all (select unnest(category_ancestors(c.id))) or cardinality(category_ancestors(c.id)) > 60',
          );
          expect(rows[0]!.lost).toBe('0');
        }
        expect(await inTransaction(server.db, staleShelf)).toEqual([]);
        for (const landing of landings.toReversed()) await server.land((await server.takeBack(landing)).id);
        expect(await tree()).toEqual(start);
      }),
      { numRuns: tries(10), endOnFailure: true },
    );
  });
});

/** The path of a category, among all of them. */
function pathOf(all: readonly { id: string; parent: string | null; name: string }[], id: string): string {
  const one = all.find((category) => category.id === id)!;
  return one.parent === null ? one.name : `${pathOf(all, one.parent)} > ${one.name}`;
}
