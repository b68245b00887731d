import { tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { sql } from 'kysely';
import { startTestServer, type TestServer } from '../testing/index.ts';
import { inTransaction } from './connect.ts';
import { copyIn, copyOut } from './copy.ts';

describe('COPY', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  /** Rows written into a table of their own and read from it. */
  const thereAndBack = (batches: readonly (readonly (string | null)[])[][]) =>
    inTransaction(server.db, async (tx) => {
      await sql`create temp table copied (no serial, a text, b text) on commit drop`.execute(tx.q);
      const rows = await copyIn(tx.client, 'copied (a, b)', batches);
      const read = [];
      for await (const batch of copyOut(tx.client, tx.q, sql`select a, b from copied order by no`)) read.push(...batch);
      return { rows, read };
    });

  it('brings any text back as it was, and tells empty from null', async () => {
    const cell = fc.option(
      fc.string({ unit: fc.constantFrom('a', 'é', '\\', '\t', '\n', '\r', '\b', '\f', '\v', 'N', '"', '🖋', '') }),
    );
    const batches = fc.array(fc.array(fc.tuple(cell, cell), { maxLength: 5 }), { maxLength: 5 });
    await fc.assert(
      fc.asyncProperty(batches, async (written) => {
        const { rows, read } = await thereAndBack(written);
        expect(read).toEqual(written.flat());
        expect(rows).toBe(written.flat().length);
      }),
      { numRuns: tries(60) },
    );
  });

  it('says what the database refused, and leaves the connection usable', async () => {
    const bad = inTransaction(server.db, (tx) => copyIn(tx.client, 'price (sku_id)', [[['999999']], [['no number']]]));
    await expectAsync(bad).toBeRejectedWithError(/invalid input syntax for type bigint: "no number"/);
    expect((await thereAndBack([[['x', null]]])).read).toEqual([['x', null]]);
  });

  it('throws on what its rows throw, and writes nothing', async () => {
    const rows = function* () {
      yield [['1', '2']];
      throw new Error('no more rows');
    };
    const half = inTransaction(server.db, (tx) => copyIn(tx.client, 'price (sku_id, regular)', rows()));
    await expectAsync(half).toBeRejectedWithError('no more rows');
  });

  it('gives its connection up when it is not read to the end', async () => {
    const stopped = inTransaction(server.db, async (tx) => {
      for await (const batch of copyOut(
        tx.client,
        tx.q,
        sql`select repeat('x', 1000) from generate_series(1, 20000)`,
      )) {
        expect(batch.length).toBeGreaterThan(0);
        break;
      }
    });
    await stopped.catch(() => undefined);
    expect((await thereAndBack([[['still', 'there']]])).read).toEqual([['still', 'there']]);
  });
});
