import { tries } from '@ivory/core/testing';
import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { startTestServer, type TestServer } from '../testing/index.ts';

describe('the times of a sale on the clocks of a zone (IANA time zone database)', () => {
  let server: TestServer;
  beforeAll(async () => (server = await startTestServer()));
  afterAll(() => server.close());

  const shown = async (text: string, zone: string, isLast: boolean): Promise<string> => {
    const [date, clock] = text.split('T') as [string, string];
    const [hour, minute] = clock.split(':').map(Number);
    const { rows } = await server.db.pool.query<{ at: Date }>('select shown_at($1, $2, $3, $4) as at', [
      Date.parse(date) / 86_400_000,
      hour! * 60 + minute!,
      zone,
      isLast,
    ]);
    return rows[0]!.at.toISOString();
  };

  it('are the first of two where clocks are put back for a beginning, and the last for an end', async () => {
    const twice = '2026-10-25T01:30';
    expect(await shown(twice, 'Europe/London', false)).toBe('2026-10-25T00:30:00.000Z');
    expect(await shown(twice, 'Europe/London', true)).toBe('2026-10-25T01:30:00.000Z');
    const never = '2026-03-29T01:30';
    for (const isLast of [false, true])
      expect(await shown(never, 'Europe/London', isLast)).toBe('2026-03-29T01:30:00.000Z');
  });

  it('are what the Temporal reference library says, whatever the zone and the time', async () => {
    const zones = ['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kolkata', 'America/Havana', 'UTC'];
    const any = fc.integer({ min: Date.UTC(2020, 0) / 60_000, max: Date.UTC(2030, 0) / 60_000 });
    // Near the nights of change in London and New York in 2026.
    const near = fc
      .tuple(
        fc.constantFrom(...['2026-03-29', '2026-10-25', '2026-03-08', '2026-11-01']),
        fc.integer({ min: -200, max: 400 }),
      )
      .map(([day, minutes]) => Date.parse(day) / 60_000 + minutes);
    await fc.assert(
      fc.asyncProperty(fc.oneof(any, near), fc.constantFrom(...zones), fc.boolean(), async (minute, zone, isLast) => {
        const text = new Date(minute * 60_000).toISOString().slice(0, 16);
        const clock = Temporal.PlainDateTime.from(text);
        const [first, last] = (['earlier', 'later'] as const).map((disambiguation) =>
          clock.toZonedDateTime(zone, { disambiguation }),
        );
        // Where clocks skip a time it is moved forward by the gap; elsewhere the two are the same, or the time is shown twice.
        const isThere = first!.toPlainDateTime().equals(clock);
        const expected = isThere && !isLast ? first! : last!;
        expect(await shown(text, zone, isLast))
          .withContext(`${text} ${zone}`)
          .toBe(expected.toInstant().toString({ smallestUnit: 'millisecond' }));
      }),
      { numRuns: tries(200) },
    );
  });
});
