import { inject } from '@angular/core';
import { calls, type Planned } from '@ivory/contract';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, createSelector, on, props } from '@ngrx/store';
import { catchError, EMPTY, map, switchMap } from 'rxjs';
import { Api } from '../api/api.ts';
import { HandActions } from './handActions.ts';

export const PlannedActions = createActionGroup({
  source: 'Planned',
  events: { Found: props<{ planned: readonly Planned[] }>() },
});

/** Landings that are planned, or to be taken back, or wait for a person. */
export const planned = createFeature({
  name: 'planned',
  reducer: createReducer(
    { list: [] as readonly Planned[] },
    on(PlannedActions.found, (_state, { planned }) => ({ list: planned })),
  ),
  extraSelectors: ({ selectList }) => ({
    /** Whether a proof is planned to land, or takes back what was planned. */
    selectIsPlanned: createSelector(
      selectList,
      (list) => (id: string) => list.some(({ proof, backProof }) => proof === id || backProof === id),
    ),
    selectWaiting: createSelector(selectList, (list) => list.filter(({ state }) => state === 'waits')),
  }),
});

/** The proof that is to be looked through: what lands, or what takes it back; null where that is not proposed yet. */
export const proofOfPlan = ({ proof, landing, backProof }: Planned): string | null =>
  landing === null ? proof : backProof;

export const findPlanned = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ROOT_EFFECTS_INIT, HandActions.readAgain, HandActions.follow),
      switchMap(() => api.call(calls.listPlanned).pipe(catchError(() => EMPTY))),
      map(({ planned }) => PlannedActions.found({ planned })),
    ),
  { functional: true },
);
