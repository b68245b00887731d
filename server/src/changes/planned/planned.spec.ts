import { calls, type Planned } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { startTestServer, refusalOf, type TestServer } from '../../testing/index.ts';
import { landDue } from './landDue.ts';

const HOUR = 60 * 60 * 1_000;
const START = Date.parse('2026-11-25T12:00Z');

describe('what is planned', () => {
  let server: TestServer;
  let now: number;
  let codes: Record<string, string>;

  beforeEach(async () => {
    now = START;
    server = await startTestServer({ clock: () => now });
    const { rows } = await server.db.pool.query<{ id: string; code: string }>('select id, code from sku where id <= 9');
    codes = Object.fromEntries(rows.map(({ id, code }) => [id, code]));
    await server.db.pool.query('update price set regular = 1000 where sku_id <= 9');
    await server.db.pool.query('update shelf_facts set price = 1000 where sku_id <= 9');
  });
  afterEach(() => server.close());

  type Cell = readonly [sku: string, field: FieldKey, text: string];
  /** Proposes cells and plans them, in hours from the start; the landing by hand where `at` is null. */
  async function plan(
    cells: readonly Cell[],
    {
      at,
      back = null,
      whenChanged = 'wait',
    }: { at: number | null; back?: number | null; whenChanged?: Planned['whenChanged'] },
  ): Promise<Planned> {
    const { proof } = await server.edits(
      'Planned',
      cells.map(([sku, field, text]) => ({ sku, field, text })),
    );
    const { planned } = await server.call(calls.planProof, {
      params: { id: proof!.id },
      body: { at: hours(at), back: hours(back), whenChanged },
    });
    return planned;
  }
  const hours = (from: number | null) => (from === null ? null : START + from * HOUR);
  const change = async (...cells: readonly Cell[]) => {
    const { proof } = await server.edits(
      'By hand',
      cells.map(([sku, field, text]) => ({ sku, field, text })),
    );
    return server.land(proof!.id);
  };
  const alive = async () => (await server.call(calls.listPlanned)).planned;
  const prices = (...skus: string[]) => Promise.all(skus.map((sku) => server.value(sku, 'price')));
  const landings = async () =>
    (await server.db.pool.query<{ kind: string; lines: number }>('select kind, lines from landing order by id')).rows;
  const until = async (hour: number) => {
    now = START + hour * HOUR;
    for (;;) {
      await landDue(server.db);
      // The server looks by itself too, and may be at it just then.
      const { rows } = await server.db.pool.query(
        `select from planned where state in ('planned', 'landed') and (case when landing_id is null then lands_at else back_at end) <= $1`,
        [new Date(now)],
      );
      if (rows.length === 0) return;
      await new Promise((go) => setTimeout(go, 20));
    }
  };

  it('waits, or lands without it, where what it names was deleted meanwhile', async () => {
    for (const whenChanged of ['wait', 'rest'] as const) {
      const body = { kind: 'tag' as const, things: [{ name: `For ${whenChanged}` }] };
      const [tag] = (await server.call(calls.makeThings, { body })).ids;
      await server.land((await server.call(calls.getHandProof)).proof!.id);
      const cells = [['1', 'tags', `For ${whenChanged}`] as const, ['2', 'price', '13.00'] as const];
      const at = Math.ceil((now - START) / HOUR) + 1;
      const { id } = await plan(cells, { at, whenChanged });
      await server.call(calls.removeThings, { body: { kind: 'tag', ids: [tag!], into: null } });
      await server.land((await server.call(calls.getHandProof)).proof!.id);
      await until(at);
      const waiting = (await alive()).find((one) => one.id === id);
      if (whenChanged === 'rest') {
        expect(waiting).toBeUndefined();
        expect(await prices('2')).toEqual(['1300']);
      } else expect([waiting!.state, waiting!.why]).toEqual(['waits', jasmine.stringContaining('gone')] as never);
    }
  });

  it('lands at its moment and not before, under the name of whoever planned it, while another proof is in hand', async () => {
    const { proof, title, lines } = await plan([['1', 'price', '12.00']], { at: 2 });
    expect([title, lines]).toEqual(['Planned', 1]);
    await server.edit('2', 'price', '13.00');
    expect((await server.call(calls.getHandProof)).proof!.id).not.toBe(proof);
    await until(1.99);
    expect(await prices('1')).toEqual(['1000']);
    await until(2);
    expect(await prices('1', '2')).toEqual(['1200', '1000']);
    expect(await alive()).toEqual([]);
    const { landings: listed } = await server.call(calls.listLandings, { query: { source: 'planned' } });
    expect(listed.map(({ title, person }) => [title, person])).toEqual([['Planned', 'Ada Teasel']]);
  });

  it('is a season where it is taken back: ten goods come to the front and go again by themselves', async () => {
    const { rows } = await server.db.pool.query<{ id: string }>(
      'select min(id) as id from sku group by product_id order by 1 limit 10',
    );
    const skus = rows.map(({ id }) => id);
    const { rows: row } = await server.db.pool.query<{ name: string }>(
      'select name from assortment where front_row limit 1',
    );
    const front = async () => (await server.codes(`assortment is "${row[0]!.name}"`)).length;
    const before = await front();
    await plan(
      skus.map((sku) => [sku, 'putIn', row[0]!.name]),
      { at: 24, back: 72 },
    );
    await until(24);
    expect(await front()).toBeGreaterThan(before);
    expect((await alive()).map(({ state }) => state)).toEqual(['landed']);
    await until(72);
    expect(await front()).toBe(before);
    expect(await alive()).toEqual([]);
    expect((await landings()).map(({ kind, lines }) => [kind, lines])).toEqual([
      ['planned', 10],
      ['take back', 10],
    ]);
  });

  it('may land by hand and be taken back by itself', async () => {
    const { proof } = await plan([['1', 'price', '12.00']], { at: null, back: 5 });
    await until(4);
    expect(await prices('1')).toEqual(['1000']);
    await server.land(proof);
    expect((await alive()).map(({ state, landing }) => [state, landing !== null])).toEqual([['landed', true]]);
    await until(5);
    expect(await prices('1')).toEqual(['1000']);
  });

  it('waits for a person where a value changed meanwhile, says so, and lands by hand', async () => {
    const { proof } = await plan(
      [
        ['1', 'price', '12.00'],
        ['2', 'price', '12.00'],
      ],
      { at: 2 },
    );
    await change(['1', 'price', '11.00']);
    await until(3);
    expect(await prices('1', '2')).toEqual(['1100', '1000']);
    const [waiting] = await alive();
    expect(waiting!.state).toBe('waits');
    expect(waiting!.why).toMatch(/^Nothing landed: 1 value has changed since/);
    await until(4);
    expect(await prices('2')).toEqual(['1000']);
    await server.land(proof);
    expect(await prices('1', '2')).toEqual(['1100', '1200']);
    expect(await alive()).toEqual([]);
  });

  it('lands the rest where that was chosen', async () => {
    const cells: Cell[] = [
      ['1', 'price', '12.00'],
      ['2', 'price', '12.00'],
    ];
    await plan(cells, { at: 2, whenChanged: 'rest' });
    await change(['1', 'price', '11.00']);
    await until(2);
    expect(await prices('1', '2')).toEqual(['1100', '1200']);
    expect(await alive()).toEqual([]);
    // Nothing is left of this one: it says so.
    await plan([['3', 'price', '12.00']], { at: 6, whenChanged: 'rest' });
    await change(['3', 'price', '11.00']);
    await until(6);
    expect((await alive()).map(({ state, why }) => [state, why])).toEqual([
      ['waits', 'There is nothing to land: every line is left out.'],
    ]);
  });

  it('is taken back in what nobody changed since, or waits with all of it, as was chosen', async () => {
    const cells: Cell[] = [
      ['1', 'price', '12.00'],
      ['2', 'price', '12.00'],
    ];
    await plan(cells, { at: 1, back: 3, whenChanged: 'rest' });
    await until(1);
    await change(['1', 'price', '15.00']);
    await until(3);
    expect(await prices('1', '2')).toEqual(['1500', '1000']);
    expect(await alive()).toEqual([]);

    await plan(
      [
        ['3', 'price', '12.00'],
        ['4', 'price', '12.00'],
      ],
      { at: 5, back: 7 },
    );
    await until(5);
    await change(['3', 'price', '15.00']);
    await until(7);
    expect(await prices('3', '4')).toEqual(['1500', '1200']);
    const [waiting] = await alive();
    expect([waiting!.state, waiting!.why]).toEqual([
      'waits',
      '1 value was changed since this landed. Look through what would be taken back, and land it.',
    ]);
    await server.land(waiting!.backProof!);
    expect(await prices('3', '4')).toEqual(['1500', '1000']);
    expect(await alive()).toEqual([]);
  });

  it('is over where somebody took all of it back before', async () => {
    await plan([['1', 'price', '12.00']], { at: 1, back: 3 });
    await until(1);
    const { landings: listed } = await server.call(calls.listLandings);
    const { proof } = await server.call(calls.takeBack, { params: { id: listed[0]!.id }, body: {} });
    await server.land(proof!.id);
    await until(3);
    expect(await prices('1')).toEqual(['1000']);
    expect(await alive()).toEqual([]);
  });

  it('is made good in order when its moment was missed, once, whoever else does so and wherever the clock goes', async () => {
    await plan([['1', 'price', '12.00']], { at: 4 });
    await plan([['2', 'price', '12.00']], { at: 2, back: 3 });
    await plan(
      [
        ['3', 'price', '12.00'],
        ['4', 'price', '12.00'],
      ],
      { at: 1 },
    );
    now = START + 10 * HOUR;
    await Promise.all([landDue(server.db), landDue(server.db), landDue(server.db)]);
    await landDue(server.db);
    expect(await landings()).toEqual([
      { kind: 'planned', lines: 2 },
      { kind: 'planned', lines: 1 },
      { kind: 'take back', lines: 1 },
      { kind: 'planned', lines: 1 },
    ]);
    await until(0);
    await until(10);
    expect(await landings()).toHaveSize(4);
    expect(await prices('1', '2', '3')).toEqual(['1200', '1000', '1200']);
  });

  it('is moved and called off; what had not landed is set aside under its name, and what had stays', async () => {
    const { id, proof } = await plan([['1', 'price', '12.00']], { at: 2 });
    const move = (at: number, back: number | null) =>
      server.call(calls.movePlanned, {
        params: { id },
        body: { at: hours(at), back: hours(back), whenChanged: 'wait' },
      });
    expect((await move(4, 6)).planned.back).toBe('2026-11-25T18:00:00.000Z');
    await until(3);
    expect(await prices('1')).toEqual(['1000']);
    await server.call(calls.callOff, { params: { id } });
    await until(7);
    expect(await prices('1')).toEqual(['1000']);
    expect(await alive()).toEqual([]);
    const { proofs } = await server.call(calls.listProofs);
    expect(proofs.map(({ id, kind, title }) => [id, kind, title])).toEqual([[proof, 'aside', 'Planned']]);
    expect((await refusalOf(move(9, null))).title).toMatch(/over, or was called off/);

    const { id: season } = await plan([['2', 'price', '12.00']], { at: 8, back: 9 });
    await until(8);
    await server.call(calls.callOff, { params: { id: season } });
    await until(10);
    expect(await prices('2')).toEqual(['1200']);
  });

  it('ends with its proof, when that is put away', async () => {
    const { proof } = await plan([['1', 'price', '12.00']], { at: 2 });
    await server.call(calls.discardProof, { params: { id: proof } });
    await until(3);
    expect([await alive(), await prices('1')]).toEqual([[], ['1000']]);
  });

  it('refuses moments that cannot be, what is planned already, and what has nothing to land', async () => {
    const refused = async (at: number | null, back: number | null) => {
      await server.edit('1', 'price', '12.00');
      const { id } = (await server.call(calls.getHandProof)).proof!;
      const body = { at: hours(at), back: hours(back), whenChanged: 'wait' as const };
      return (await refusalOf(server.call(calls.planProof, { params: { id }, body }))).title;
    };
    expect(await refused(-1, null)).toMatch(/has gone by/);
    expect(await refused(3, 2)).toMatch(/taken back before it lands/);
    expect(await refused(3, 3)).toMatch(/taken back before it lands/);
    expect(await refused(null, -2)).toMatch(/taken back before it lands/);
    expect(await refused(null, null)).toMatch(/Say when/);
    const { proof } = await plan([['2', 'price', '13.00']], { at: 5 });
    const body = { at: hours(7), back: null, whenChanged: 'wait' as const };
    expect((await refusalOf(server.call(calls.planProof, { params: { id: proof }, body }))).title).toMatch(
      /planned already/,
    );
  });

  it('waits where its goods are gone, or where what it would give is taken by then', async () => {
    await plan([['1', 'code', 'NEW-1']], { at: 2, whenChanged: 'rest' });
    await change(['2', 'code', 'NEW-1']);
    await until(2);
    expect((await alive()).map(({ state, why }) => [state, why!.slice(0, 15)])).toEqual([['waits', 'Nothing landed:']]);
    expect(await server.value('1', 'code')).toBe(codes['1']!);

    await plan([['5', 'price', '12.00']], { at: 4 });
    await server.call(calls.takeSkusAway, { body: { skus: ['5'] } });
    const { proof } = await server.call(calls.getHandProof);
    if (proof) await server.land(proof.id);
    await until(4);
    const states = (await alive()).map(({ state }) => state);
    expect(states.every((state) => state === 'waits')).toBeTrue();
  });

  /** Prices of SKU 1 in minor units after each hour, with seasons that are proposed at the start or when they begin. */
  async function course(
    seasons: readonly { price: string; at: number; back: number }[],
    { early = false, hand }: { early?: boolean; hand?: { price: string; at: number } } = {},
  ): Promise<(string | null)[]> {
    if (early) for (const { price, at, back } of seasons) await plan([['1', 'price', price]], { at, back });
    const shown: (string | null)[] = [];
    const last = Math.max(...seasons.map(({ back }) => back));
    for (let hour = 1; hour <= last; hour++) {
      await until(hour);
      if (hand?.at === hour) await change(['1', 'price', hand.price]);
      if (!early)
        for (const { price, at, back } of seasons.filter((season) => season.at === hour + 1))
          await plan([['1', 'price', price]], { at, back });
      shown.push(await server.value('1', 'price'));
    }
    expect((await alive()).filter(({ state }) => state === 'waits'))
      .withContext('nothing waits for a person')
      .toEqual([]);
    return shown;
  }

  for (const early of [true, false]) {
    describe(`as seasons on one value, proposed ${early ? 'all at the start' : 'each just before it begins'},`, () => {
      const [five, six, seven] = ['5.00', '6.00', '7.00'];

      it('two, where the first ends while the second lies on it: what stood before both comes back', async () => {
        const two = [
          { price: five, at: 2, back: 4 },
          { price: six, at: 3, back: 5 },
        ];
        expect(await course(two, { early })).toEqual(['1000', '500', '600', '600', '1000']);
      });

      it('two, one within the other: the outer comes back, and then what stood before', async () => {
        const two = [
          { price: five, at: 2, back: 5 },
          { price: six, at: 3, back: 4 },
        ];
        expect(await course(two, { early })).toEqual(['1000', '500', '600', '500', '1000']);
      });

      it('three, ending in the order in which they began, and in another', async () => {
        const three = (backs: readonly [number, number, number]) => [
          { price: five, at: 2, back: backs[0] },
          { price: six, at: 3, back: backs[1] },
          { price: seven, at: 4, back: backs[2] },
        ];
        expect(await course(three([5, 6, 7]), { early })).toEqual([
          ...['1000', '500', '600', '700', '700', '700', '1000'],
        ]);
      });

      it('three, the middle one last', async () => {
        const three = [
          { price: five, at: 2, back: 5 },
          { price: six, at: 3, back: 7 },
          { price: seven, at: 4, back: 6 },
        ];
        expect(await course(three, { early })).toEqual(['1000', '500', '600', '700', '700', '600', '1000']);
      });

      it('three, the first one last, the second before the third', async () => {
        const three = [
          { price: five, at: 2, back: 7 },
          { price: six, at: 3, back: 5 },
          { price: seven, at: 4, back: 6 },
        ];
        expect(await course(three, { early })).toEqual(['1000', '500', '600', '700', '700', '500', '1000']);
      });
    });
  }

  it('as a season below another leaves what a person changed between: that comes back when the other ends', async () => {
    const two = [
      { price: '5.00', at: 2, back: 5 },
      { price: '6.00', at: 4, back: 6 },
    ];
    expect(await course(two, { hand: { price: '8.00', at: 3 } })).toEqual(['1000', '500', '800', '600', '600', '800']);
  });

  it('says which values are in other plans too, and when those end', async () => {
    await plan([['1', 'price', '5.00']], { at: 2, back: 8 });
    await until(2);
    await plan(
      [
        ['1', 'price', '6.00'],
        ['2', 'price', '6.00'],
      ],
      { at: 3, back: 9 },
    );
    const { proof } = await server.edits('Third', [
      { sku: '1', field: 'price', text: '7.00' },
      { sku: '2', field: 'price', text: '7.00' },
    ]);
    const { proofs } = await server.call(calls.getProofsBeside, { params: { id: proof!.id } });
    const iso = (hour: number) => new Date(hours(hour)!).toISOString();
    expect(proofs.map(({ values, at, back }) => [values, at, back])).toEqual([
      [2, iso(3), iso(9)],
      [1, null, iso(8)],
    ]);
  });
});
