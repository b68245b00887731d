import { inject } from '@angular/core';
import { calls, type Work } from '@ivory/contract';
import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
  Store,
} from '@ngrx/store';
import { auditTime, catchError, EMPTY, filter, map, merge, mergeMap, share, switchMap, withLatestFrom } from 'rxjs';
import { Api, TAB } from '../api/api.ts';
import { serverEvents } from '../api/events.ts';
import { HandActions } from './handActions.ts';
import { SessionActions } from './session.ts';
import { WorkingSetActions } from './workingSet.ts';

export const WorkActions = createActionGroup({
  source: 'Work',
  events: {
    Begun: props<{ work: Work }>(),
    Told: props<{ work: Work }>(),
    Stop: props<{ id: string }>(),
    'Put away': props<{ id: string }>(),
    'Look again': emptyProps(),
  },
});

const works = createEntityAdapter<Work>({ sortComparer: (a, b) => Number(b.id) - Number(a.id) });
type State = EntityState<Work> & { readonly shown: readonly string[] };
const start: State = works.getInitialState({ shown: [] as readonly string[] });

/** Work that goes on without this page: imports, large landings, deliveries. Only what is still of interest is shown. */
export const atWork = createFeature({
  name: 'atWork',
  reducer: createReducer(
    start,
    on(WorkActions.begun, (state, { work }) =>
      // The server may have told of it already, and of its end, before it answered that it is begun.
      works.addOne(work, { ...state, shown: [...new Set([...state.shown, work.id])] }),
    ),
    on(WorkActions.told, (state, { work }) => {
      const running = work.state === 'running' || work.state === 'waiting';
      return works.upsertOne(work, running ? { ...state, shown: [...new Set([...state.shown, work.id])] } : state);
    }),
    on(WorkActions.putAway, (state, { id }) => ({ ...state, shown: state.shown.filter((shown) => shown !== id) })),
  ),
  extraSelectors: ({ selectEntities, selectShown }) => ({
    selectShownWork: createSelector(selectEntities, selectShown, (entities, shown) =>
      shown.flatMap((id) => entities[id] ?? []).filter(({ state }) => state !== 'done'),
    ),
  }),
});

const IS_OVER: readonly Work['state'][] = ['done', 'failed', 'stopped'];
export const isOver = (work: Work): boolean => IS_OVER.includes(work.state);

/** Reads running work at the start, and again after the connection was lost, when work may have ended unnoticed. */
export const findWork = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(ROOT_EFFECTS_INIT, WorkActions.lookAgain),
      switchMap(() => api.call(calls.listWork).pipe(catchError(() => EMPTY))),
      withLatestFrom(store.select(atWork.selectEntities)),
      mergeMap(([{ work }, known]) => {
        const wentOn = ({ id }: Work) => known[id] !== undefined && !isOver(known[id]);
        return work.filter((one) => !isOver(one) || wentOn(one)).map((one) => WorkActions.told({ work: one }));
      }),
    ),
  { functional: true },
);

const SETTLE = 300;

export const hearEvents = createEffect(
  (events = serverEvents()) => {
    const heard = events.pipe(share());
    const told = heard.pipe(
      mergeMap((event) => {
        if (event.kind === 'hand') return [];
        if (event.kind === 'work') return [WorkActions.told({ work: event.work })];
        if (event.kind === 'lost') return [SessionActions.lost()];
        const readAgain = [WorkingSetActions.askAgain(), HandActions.follow(), SessionActions.namesChanged()];
        return event.kind === 'missed' ? [SessionActions.found(), ...readAgain, WorkActions.lookAgain()] : readAgain;
      }),
    );
    // Another tab may edit cell after cell: the sheet here follows at leisure.
    const inHand = heard.pipe(
      filter((event) => event.kind === 'hand' && event.by !== TAB),
      auditTime(SETTLE),
      map(() => HandActions.follow()),
    );
    return merge(told, inHand);
  },
  { functional: true },
);

/** A delivery's replies stand in the sheet. */
export const askAfterDelivery = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(WorkActions.told),
      filter(({ work }) => work.kind === 'deliver' && work.state === 'done'),
      map(() => WorkingSetActions.askAgain()),
    ),
  { functional: true },
);

/** A large landing that did not land leaves the proof in hand open again. */
export const followAfterLanding = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(WorkActions.told),
      filter(({ work }) => work.kind === 'land' && (work.state === 'failed' || work.state === 'stopped')),
      map(() => HandActions.follow()),
    ),
  { functional: true },
);

export const stopWork = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(WorkActions.stop),
      mergeMap(({ id }) => api.call(calls.stopWork, { params: { id } }).pipe(catchError(() => EMPTY))),
      map((work) => WorkActions.told({ work })),
    ),
  { functional: true },
);
