import { inject } from '@angular/core';
import {
  type Answer,
  calls,
  type NearQuestion,
  type ProblemDetails,
  type RowsOf,
  type Sort,
  sortSchema,
  type SpineCounts,
} from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props, Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, map, of, switchMap, tap, withLatestFrom } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { ProblemActions } from './problemActions.ts';
import { whenIdle } from './whenIdle.ts';

export const WorkingSetActions = createActionGroup({
  source: 'Working set',
  events: {
    Ask: props<{ question: string }>(),
    Sort: props<{ sort: Sort }>(),
    /** The same set with rows of another kind. */
    'Show by': props<{ of: RowsOf }>(),
    /** Fields that rows must have; rows without them are read again. */
    Need: props<{ columns: readonly FieldKey[] }>(),
    /** The same question once more: what answers it has changed. */
    'Ask again': emptyProps(),
    Answered: props<{ answer: Answer }>(),
    'Not read': props<{ problem: ProblemDetails }>(),
    /** Nothing was found: what may have been meant. */
    Guessed: props<{ near: NearQuestions }>(),
    Counted: props<{ spine: SpineCounts }>(),
    /** The content of the spine changed. */
    'Count again': emptyProps(),
  },
});

/** Questions near to one that nothing answers: without one of its conditions, or with its words read another way. */
export interface NearQuestions {
  readonly without: readonly NearQuestion[];
  readonly read: readonly NearQuestion[];
}
const NONE_NEAR: NearQuestions = { without: [], read: [] };

interface WorkingSetState {
  /** As asked last; what stands in `answer` is the last that could be read. */
  readonly question: string;
  readonly sort: Sort;
  /** What the rows are of. */
  readonly of: RowsOf;
  /** The fields that rows must have; none while it is not known yet which the shop has. */
  readonly columns: readonly FieldKey[] | null;
  readonly answer: Answer | null;
  /** When nothing was found. */
  readonly near: NearQuestions;
  readonly spine: SpineCounts | null;
  readonly asking: boolean;
  readonly problem: ProblemDetails | null;
}

const ROWS_OF = 'ivory.rowsOf';
function keptRowsOf(): RowsOf {
  return localStorage.getItem(ROWS_OF) === 'products' ? 'products' : 'SKUs';
}

const SORT = 'ivory.sort';
const BY_NAME: Sort = { field: 'name', down: false };
/** The last order used in this browser; by name where it cannot be read. */
function keptSort(): Sort {
  try {
    const kept = sortSchema.safeParse(JSON.parse(localStorage.getItem(SORT) ?? 'null'));
    return kept.success ? kept.data : BY_NAME;
  } catch {
    return BY_NAME;
  }
}

const start: WorkingSetState = {
  question: '',
  sort: keptSort(),
  of: keptRowsOf(),
  columns: null,
  answer: null,
  near: NONE_NEAR,
  spine: null,
  asking: true,
  problem: null,
};

/** The goods in hand: a question, its order, and what answers it. It stays when the desk changes. */
export const workingSet = createFeature({
  name: 'workingSet',
  reducer: createReducer(
    start,
    on(WorkingSetActions.ask, (state, { question }) => ({ ...state, question, asking: true, problem: null })),
    on(WorkingSetActions.sort, (state, { sort }) => ({ ...state, sort, asking: true })),
    on(WorkingSetActions.showBy, (state, { of }) => ({ ...state, of, asking: true })),
    on(WorkingSetActions.need, (state, { columns }) => ({ ...state, columns })),
    on(WorkingSetActions.askAgain, (state) => ({ ...state, asking: true })),
    on(WorkingSetActions.answered, (state, { answer }) => ({
      ...state,
      answer,
      near: NONE_NEAR,
      question: answer.question,
      asking: false,
      problem: null,
    })),
    on(WorkingSetActions.notRead, (state, { problem }) => ({
      ...state,
      problem,
      asking: false,
      question: state.answer?.question ?? '',
    })),
    on(WorkingSetActions.guessed, (state, { near }) => ({ ...state, near })),
    on(WorkingSetActions.counted, (state, { spine }) => ({ ...state, spine })),
  ),
});

export const askQuestion = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(Api)) =>
    actions.pipe(
      ofType(
        ROOT_EFFECTS_INIT,
        WorkingSetActions.ask,
        WorkingSetActions.sort,
        WorkingSetActions.showBy,
        WorkingSetActions.askAgain,
      ),
      withLatestFrom(store.select(workingSet.selectWorkingSetState)),
      switchMap(([, { question, sort, of: rowsOf, columns }]) =>
        api.call(calls.answerQuestion, { body: { question, sort, of: rowsOf, columns: columns?.slice() } }).pipe(
          map((answer) => WorkingSetActions.answered({ answer })),
          catchError((error: unknown) => of(WorkingSetActions.notRead({ problem: detailsOf(error) }))),
        ),
      ),
    ),
  { functional: true },
);

/** Rows that lack required fields are read again. */
export const askForColumns = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(WorkingSetActions.need),
      withLatestFrom(store.select(workingSet.selectAnswer)),
      filter(([{ columns }, answer]) => answer !== null && columns.some((key) => !answer.columns.includes(key))),
      map(() => WorkingSetActions.askAgain()),
    ),
  { functional: true },
);

/** This browser keeps what rows are of. */
export const keepRowsOf = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(WorkingSetActions.showBy),
      tap(({ of: rowsOf }) => localStorage.setItem(ROWS_OF, rowsOf)),
    ),
  { functional: true, dispatch: false },
);

/** This browser keeps the order of rows. */
export const keepSort = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(WorkingSetActions.sort),
      tap(({ sort }) => localStorage.setItem(SORT, JSON.stringify(sort))),
    ),
  { functional: true, dispatch: false },
);

/** Status of a question that does not read, or that asks for what the shop does not have. */
const UNREADABLE = 422;

/** A first question that does not read, as an old address may hold, or an order by a field that is gone, leaves the whole range by name, and is said. */
export const askForEverything = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(WorkingSetActions.notRead),
      withLatestFrom(store.select(workingSet.selectAnswer)),
      filter(([{ problem }, answer]) => answer === null && problem.status === UNREADABLE),
      concatMap(([{ problem }]) => [
        ProblemActions.show({ problem }),
        WorkingSetActions.sort({ sort: BY_NAME }),
        WorkingSetActions.ask({ question: '' }),
      ]),
    ),
  { functional: true },
);

export const askNear = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(WorkingSetActions.answered),
      switchMap(({ answer: { question, counts } }) =>
        counts.skus > 0 || question === ''
          ? EMPTY
          : api.call(calls.nearQuestions, { body: { question } }).pipe(
              map((near) => WorkingSetActions.guessed({ near })),
              catchError(() => EMPTY),
            ),
      ),
    ),
  { functional: true },
);

export const countSpine = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(WorkingSetActions.answered, WorkingSetActions.countAgain),
      withLatestFrom(store.select(workingSet.selectAnswer)),
      map(([, answer]) => answer?.question ?? ''),
      switchMap((question) =>
        whenIdle().pipe(
          switchMap(() => api.call(calls.countSpine, { body: { question } })),
          map((spine) => WorkingSetActions.counted({ spine })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);
