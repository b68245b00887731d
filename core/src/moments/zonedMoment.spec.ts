import { tries } from '../testing/index.ts';
import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { momentOf } from './moment.ts';
import { zonedMoment, zonedTime } from './zonedMoment.ts';

const iso = (text: string, zone: string) => new Date(zonedMoment(text, zone)!).toISOString();

describe('the moment of a time on a clock (IANA time zone database)', () => {
  it('is local midnight for a date, in winter and in summer', () => {
    expect(iso('2026-12-01', 'Europe/London')).toBe('2026-12-01T00:00:00.000Z');
    expect(iso('2026-07-01', 'Europe/London')).toBe('2026-06-30T23:00:00.000Z');
  });

  it('is the first of two where clocks are put back, and moved forward by the gap where they skip it', () => {
    expect(iso('2026-10-25T01:30', 'Europe/London')).toBe('2026-10-25T00:30:00.000Z');
    expect(iso('2026-03-29T01:30', 'Europe/London')).toBe('2026-03-29T01:30:00.000Z');
    expect(iso('2025-10-26T02:30', 'Europe/Berlin')).toBe('2025-10-26T00:30:00.000Z');
  });

  it('is where the day begins, in zones whose midnight is left out', () => {
    expect(iso('2018-11-04', 'America/Sao_Paulo')).toBe('2018-11-04T03:00:00.000Z');
    expect(iso('2024-03-31', 'Asia/Beirut')).toBe('2024-03-30T22:00:00.000Z');
    expect(iso('2025-04-25', 'Africa/Cairo')).toBe('2025-04-24T22:00:00.000Z');
  });

  it('is none of a day that no calendar has', () => {
    for (const text of ['2027-02-29', '2026-13-01', '2026-12-01T25:00', 'tomorrow', ''])
      expect(zonedMoment(text, 'Europe/London')).withContext(text).toBeUndefined();
    expect(zonedMoment('2028-02-29', 'Europe/London')).toBeDefined();
  });

  it('is what the Temporal reference library says, whatever the zone and the time', () => {
    const zones = ['Europe/London', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kolkata', 'America/Havana', 'UTC'];
    const minutes = fc.integer({ min: Date.UTC(2015, 0) / 60_000, max: Date.UTC(2036, 0) / 60_000 });
    fc.assert(
      fc.property(minutes, fc.constantFrom(...zones), (minute, zone) => {
        const text = new Date(minute * 60_000).toISOString().slice(0, 16);
        const reference = Temporal.PlainDateTime.from(text).toZonedDateTime(zone, { disambiguation: 'compatible' });
        expect(zonedMoment(text, zone)).toBe(momentOf(reference.epochMilliseconds));
        const at = momentOf(minute * 60_000);
        const clock = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone).toPlainDateTime();
        expect(zonedTime(at, zone)).toBe(clock.toString({ smallestUnit: 'minute' }));
      }),
      { numRuns: tries(500) },
    );
  });
});
