import { tries } from '@ivory/core/testing';
import {
  codeKey,
  fold,
  grossMargin,
  gtinCheckDigit,
  gtinHolds,
  isLike,
  LARGEST_AMOUNT,
  markup,
  money,
  profitOf,
} from '@ivory/core';
import fc from 'fast-check';
import { startTestServer, type TestServer } from '../../testing/index.ts';

/** Functions that stand in SQL too, for the sake of speed: both must say the same of everything. */
describe('the SQL twin of', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  const inSql = async (expression: string, ...values: unknown[]): Promise<unknown> => {
    const { rows } = await server.db.pool.query<{ v: unknown }>(`select ${expression} as v`, values);
    return rows[0]!.v;
  };
  // PostgreSQL holds no NUL in a text, and its version 15 knows Unicode 14: letters that came later fold there to themselves.
  const LATER =
    /[\0\u{1c89}\u{1c8a}\u{a7cb}-\u{a7dc}\u{a7f1}\u{10d50}-\u{10d85}\u{16ea0}-\u{16eff}\u{1ccd6}-\u{1ccf9}\u{1e030}-\u{1e08f}]/gu;
  const text = fc.string({ unit: 'grapheme', maxLength: 30 }).map((value) => value.replaceAll(LATER, ''));

  it('fold', async () => {
    await fc.assert(
      fc.asyncProperty(text, async (value) => {
        expect(await inSql('fold($1)', value)).toBe(fold(value));
      }),
      { numRuns: tries(300) },
    );
    for (const value of ['ΟΔΟΣ', 'Straße', 'İstanbul', ' a\u00a0 b\t', 'ﬁ', 'Ǆ', 'A\u0301'])
      expect(await inSql('fold($1)', value))
        .withContext(value)
        .toBe(fold(value));
  });

  it('codeKey, for every code that can be stored', async () => {
    await fc.assert(
      fc.asyncProperty(text, async (value) => {
        const code = value.trim();
        expect(await inSql('code_key($1)', code)).toBe(codeKey(code));
      }),
      { numRuns: tries(200) },
    );
  });

  it('gtinHolds', async () => {
    const likely = fc
      .tuple(fc.constantFrom(7, 11, 12, 13), fc.bigInt(0n, 10n ** 13n - 1n), fc.integer({ min: 0, max: 3 }))
      .map(([length, number, off]) => {
        const body = number.toString().padStart(length, '0').slice(-length);
        return `${body}${(gtinCheckDigit(body) + (off === 0 ? 1 : 0)) % 10}`;
      });
    await fc.assert(
      fc.asyncProperty(fc.oneof(likely, text), async (gtin) => {
        expect(await inSql('gtin_holds($1)', gtin)).toBe(gtinHolds(gtin));
      }),
      { numRuns: tries(300) },
    );
  });

  it('isLike: slips are counted as Levenshtein does (fuzzystrmatch, PostgreSQL’s own)', async () => {
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'é', '墨', '🖋'), minLength: 1, maxLength: 9 });
    const words = fc.array(word, { minLength: 1, maxLength: 4 }).map((some) => some.join(' '));
    await fc.assert(
      fc.asyncProperty(words, words, async (said, wanted) => {
        expect(await inSql('is_like($1, $2)', said, wanted)).toBe(isLike(said, wanted));
      }),
      { numRuns: tries(300) },
    );
  });

  it('markup and profitOf', async () => {
    const amount = fc.oneof(fc.bigInt(0n, 10n ** 5n), fc.bigInt(0n, LARGEST_AMOUNT));
    await fc.assert(
      fc.asyncProperty(amount, amount, fc.constantFrom(0, 500, 1900, 2000, 10_000), async (price, cost, rate) => {
        const values = [String(price), String(cost), rate];
        expect(await inSql('markup($1, $2, $3)', ...values)).toBe(markup(money(price), money(cost), rate) ?? null);
        expect(await inSql('profit($1, $2, $3)', ...values)).toBe(String(profitOf(money(price), money(cost), rate)));
      }),
      { numRuns: tries(200) },
    );
  });

  it('grossMargin', async () => {
    const amount = fc.oneof(fc.bigInt(0n, 10n ** 8n), fc.bigInt(0n, LARGEST_AMOUNT));
    await fc.assert(
      fc.asyncProperty(amount, amount, fc.constantFrom(0, 500, 1900, 2000, 10_000), async (price, cost, rate) => {
        expect(await inSql('gross_margin($1, $2, $3)', String(price), String(cost), rate)).toBe(
          grossMargin(money(price), money(cost), rate) ?? null,
        );
      }),
      { numRuns: tries(200) },
    );
  });
});
