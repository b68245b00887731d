import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideMockStore } from '@ngrx/store/testing';
import { session, SessionActions } from '../state/session.ts';
import { shop } from '../testing/shop.ts';
import { share, size, whole } from './numbers.ts';
import { ShopTime } from '../state/shopTime.ts';

describe('numbers as people read them', () => {
  it('are grouped, and margins have one decimal at most', () => {
    expect(whole(1048)).toBe('1,048');
    expect([share(4123), share(3300), share(-20), share(null)]).toEqual(['41.2 %', '33 %', '−0.2 %', '–']);
    expect([size(900), size(660_400), size(12_345_678)]).toEqual(['1 kB', '661 kB', '12.3 MB']);
  });
});

describe('a moment', () => {
  const shown = (timeZone: string, iso: string) => {
    const slice = session.reducer(undefined, SessionActions.opened({ shop: { ...shop, timeZone } }));
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideMockStore({ initialState: { session: slice } })],
    });
    return TestBed.runInInjectionContext(() => new ShopTime().transform(iso));
  };

  it('is shown on the clock of the shop, also in summer (IANA time zone database)', () => {
    expect(shown('Europe/London', '2026-07-01T12:00:00Z')).toBe('1 Jul 2026, 13:00');
    TestBed.resetTestingModule();
    expect(shown('Europe/London', '2026-11-24T12:00:00Z')).toBe('24 Nov 2026, 12:00');
    TestBed.resetTestingModule();
    expect(shown('Asia/Tokyo', '2026-11-24T16:00:00Z')).toBe('25 Nov 2026, 01:00');
  });
});
