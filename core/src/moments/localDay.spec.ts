import { localDay } from './localDay.ts';
import { momentOf } from './moment.ts';

const day = (iso: string, zone: string) => localDay(momentOf(Date.parse(iso)), zone);
const date = (iso: string) => Date.parse(`${iso}T00:00:00Z`) / 86_400_000;

describe('the day of a moment', () => {
  it('begins at local midnight', () => {
    expect(day('2026-06-30T22:59:59Z', 'Europe/London')).toBe(date('2026-06-30'));
    expect(day('2026-06-30T23:00:00Z', 'Europe/London')).toBe(date('2026-07-01'));
    expect(day('2026-12-31T23:59:59Z', 'Europe/London')).toBe(date('2026-12-31'));
    expect(day('1970-01-01T00:00:00Z', 'America/New_York')).toBe(-1);
  });

  it('begins later where the clock has no midnight, and is missing where a zone skipped one (IANA time zone database)', () => {
    expect(day('2018-11-04T02:59:59Z', 'America/Sao_Paulo')).toBe(date('2018-11-03'));
    expect(day('2018-11-04T03:00:00Z', 'America/Sao_Paulo')).toBe(date('2018-11-04'));
    expect(day('2011-12-30T09:59:59Z', 'Pacific/Apia')).toBe(date('2011-12-29'));
    expect(day('2011-12-30T10:00:00Z', 'Pacific/Apia')).toBe(date('2011-12-31'));
  });
});
