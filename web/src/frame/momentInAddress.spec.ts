import { Location } from '@angular/common';
import { provideLocationMocks } from '@angular/common/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { momentOf } from '@ivory/core';
import { Actions } from '@ngrx/effects';
import { type Action, provideState, provideStore, Store } from '@ngrx/store';
import { Subject } from 'rxjs';
import { moment, MomentActions } from '../api/moment.ts';
import { MomentInAddress } from './momentInAddress.ts';

const EVE = '2026-12-24T08:00:00.000Z';
const AT_EVE = momentOf(Date.parse(EVE));

describe('the moment in the address', () => {
  let router: Router;
  let location: Location;
  let effects: Subject<Action>;
  const settled = () => new Promise((go) => setTimeout(go, 10));
  const looked = () => TestBed.inject(Store).selectSignal(moment.selectMomentState)();

  async function openAt(address: string): Promise<void> {
    effects = new Subject();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([{ path: '**', children: [] }]),
        provideLocationMocks(),
        provideStore(),
        provideState(moment),
        { provide: Actions, useValue: effects },
      ],
    });
    location = TestBed.inject(Location);
    location.go(address);
    TestBed.inject(MomentInAddress);
    router = TestBed.inject(Router);
    router.initialNavigation();
    await settled();
  }
  async function look(action: Action): Promise<void> {
    TestBed.inject(Store).dispatch(action);
    effects.next(action);
    await settled();
  }
  const saidBy = (name: string) => router.parseUrl(router.url).queryParamMap.get(name);

  it('is looked at when the application opens, beside the question', async () => {
    await openAt(`/prices?q=in%20Ink&at=${EVE}&as=2`);
    expect(looked()).toEqual({ at: AT_EVE, group: '2' });
    expect(saidBy('q')).toBe('in Ink');
  });

  it('stands there when it is chosen, goes along to the next page, and is gone with now', async () => {
    await openAt('/prices?q=in%20Ink');
    await look(MomentActions.lookAt({ at: AT_EVE }));
    await look(MomentActions.lookAs({ group: '2' }));
    expect([saidBy('at'), saidBy('as'), saidBy('q')]).toEqual([EVE, '2', 'in Ink']);
    await router.navigateByUrl('/calendar');
    await settled();
    expect(router.url.split('?')[0]).toBe('/calendar');
    expect([saidBy('at'), saidBy('as')]).toEqual([EVE, '2']);
    await look(MomentActions.lookAt({ at: null }));
    await look(MomentActions.lookAs({ group: null }));
    expect(router.url).toBe('/calendar');
  });

  it('is left by Back', async () => {
    await openAt('/range');
    await look(MomentActions.lookAt({ at: AT_EVE }));
    location.back();
    await settled();
    expect(looked().at).toBeNull();
    expect(router.url).toBe('/range');
  });

  it('is now, for anybody, where the address says what is none', async () => {
    for (const said of ['at=soon&as=everybody', 'at=9999-01-01T00:00Z&as=0', 'at=1900-01-01T00:00Z&as=-1']) {
      TestBed.resetTestingModule();
      await openAt(`/range?${said}`);
      expect(looked()).withContext(said).toEqual({ at: null, group: null });
    }
  });
});
