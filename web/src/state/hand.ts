import { inject } from '@angular/core';
import { calls, type ProblemDetails, type ProofSummary } from '@ivory/contract';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import { catchError, map, mergeMap, of, switchMap } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { InTurn } from './inTurn.ts';

export const HandActions = createActionGroup({
  source: 'Proof in hand',
  events: {
    /** Cells were taken in; the sheet has their rows already. */
    Edited: props<{ proof: ProofSummary | null }>(),
    /** The proof is another than the sheet shows: undone, discarded, a rule put in. */
    Changed: props<{ proof: ProofSummary | null }>(),
    /** It is to be looked at again, for something went well here. */
    Look: emptyProps(),
    /** The same, for something was done elsewhere: what was refused here stays in sight. */
    Follow: emptyProps(),
    Found: props<{ proof: ProofSummary | null }>(),
    Undo: emptyProps(),
    Refused: props<{ problem: ProblemDetails }>(),
    'Put problem away': emptyProps(),
  },
});

/** The proof in hand, and whatever was refused last. `version` rises whenever the sheet must read its rows again. */
export const hand = createFeature({
  name: 'hand',
  reducer: createReducer(
    { proof: null as ProofSummary | null, version: 0, problem: null as ProblemDetails | null },
    on(HandActions.edited, (state, { proof }) => ({ ...state, proof, problem: null })),
    on(HandActions.changed, (state, { proof }) => ({ ...state, proof, problem: null, version: state.version + 1 })),
    on(HandActions.look, (state) => ({ ...state, problem: null })),
    on(HandActions.found, (state, { proof }) => ({ ...state, proof, version: state.version + 1 })),
    on(HandActions.refused, (state, { problem }) => ({ ...state, problem })),
    on(HandActions.putProblemAway, (state) => ({ ...state, problem: null })),
  ),
});

export const lookAtHand = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ROOT_EFFECTS_INIT, HandActions.look, HandActions.follow),
      switchMap(() =>
        api.call(calls.getHandProof).pipe(
          map(({ proof }) => HandActions.found({ proof })),
          catchError((error: unknown) => of(HandActions.refused({ problem: detailsOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

export const undo = createEffect(
  (actions = inject(Actions), api = inject(Api), inTurn = inject(InTurn)) =>
    actions.pipe(
      ofType(HandActions.undo),
      mergeMap(() =>
        inTurn.run(api.call(calls.undoEdit)).pipe(
          map(({ proof }) => HandActions.changed({ proof })),
          catchError((error: unknown) => of(HandActions.refused({ problem: detailsOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);
