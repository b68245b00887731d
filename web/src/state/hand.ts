import { inject } from '@angular/core';
import { calls, type ProofSummary } from '@ivory/contract';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createFeature, createReducer, on } from '@ngrx/store';
import { catchError, map, mergeMap, of, switchMap } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { HandActions } from './handActions.ts';
import { InTurn } from './inTurn.ts';
import { ProblemActions } from './problemActions.ts';

/** The proof in hand. `version` rises whenever the sheet must read its rows again. */
export const hand = createFeature({
  name: 'hand',
  reducer: createReducer(
    { proof: null as ProofSummary | null, version: 0 },
    on(HandActions.edited, (state, { proof }) => ({ ...state, proof })),
    on(HandActions.changed, (state, { proof }) => ({ ...state, proof, version: state.version + 1 })),
    on(HandActions.found, (state, { proof }) => ({ ...state, proof, version: state.version + 1 })),
  ),
});

export const lookAtHand = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ROOT_EFFECTS_INIT, HandActions.readAgain, HandActions.follow),
      switchMap(() =>
        api.call(calls.getHandProof).pipe(
          map(({ proof }) => HandActions.found({ proof })),
          catchError((error: unknown) => of(ProblemActions.show({ problem: detailsOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

export const redo = createEffect(
  (actions = inject(Actions), api = inject(Api), inTurn = inject(InTurn)) =>
    actions.pipe(
      ofType(HandActions.redo),
      mergeMap(() => inTurn.run(api.call(calls.redoEdit)).pipe(map(told), catchError(refused))),
    ),
  { functional: true },
);

const told = ({ proof }: { proof: ProofSummary | null }) => HandActions.changed({ proof });
const refused = (error: unknown) => of(ProblemActions.show({ problem: detailsOf(error) }));

export const undo = createEffect(
  (actions = inject(Actions), api = inject(Api), inTurn = inject(InTurn)) =>
    actions.pipe(
      ofType(HandActions.undo),
      mergeMap(() => inTurn.run(api.call(calls.undoEdit)).pipe(map(told), catchError(refused))),
    ),
  { functional: true },
);
