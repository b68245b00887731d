import { Location } from '@angular/common';
import { provideLocationMocks } from '@angular/common/testing';
import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { Actions } from '@ngrx/effects';
import { type Action, type FeatureSlice, provideState, provideStore, Store } from '@ngrx/store';
import { Subject } from 'rxjs';

const settled = () => new Promise((go) => setTimeout(go, 10));

/** The application opened at an address, with one part of its state and the service that keeps it in the address. */
export interface OpenedAt {
  readonly router: Router;
  readonly location: Location;
  readonly settled: typeof settled;
  /** Does an action, and hands it to whoever listens to actions. */
  readonly act: (action: Action) => Promise<void>;
  /** As the button of the browser does. */
  readonly back: () => Promise<void>;
}

export async function openedAt<State>(
  address: string,
  feature: FeatureSlice<State>,
  keeps: Type<unknown>,
): Promise<OpenedAt> {
  const actions = new Subject<Action>();
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([{ path: '**', children: [] }]),
      provideLocationMocks(),
      provideStore(),
      provideState(feature),
      { provide: Actions, useValue: actions },
    ],
  });
  const location = TestBed.inject(Location);
  location.go(address);
  TestBed.inject(keeps);
  const router = TestBed.inject(Router);
  router.initialNavigation();
  await settled();
  const act = async (action: Action) => {
    TestBed.inject(Store).dispatch(action);
    actions.next(action);
    await settled();
  };
  const back = async () => {
    location.back();
    await settled();
  };
  return { router, location, settled, act, back };
}
