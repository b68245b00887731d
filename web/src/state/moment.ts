import { createActionGroup, createFeature, createReducer, createSelector, on, props } from '@ngrx/store';
import { type Moment } from '@ivory/core';

export const MomentActions = createActionGroup({
  source: 'Moment',
  events: {
    /** Everything is looked at as it will be, or was, then; null is now. */
    'Look at': props<{ at: Moment | null }>(),
  },
});

/** The moment that the whole screen is looked at; a page that is opened anew begins with now. */
export const moment = createFeature({
  name: 'moment',
  reducer: createReducer(
    { at: null as Moment | null },
    on(MomentActions.lookAt, (_state, { at }) => ({ at })),
  ),
  extraSelectors: ({ selectAt }) => ({
    /** It was: what stands on record is shown and not changed. */
    selectIsPast: createSelector(selectAt, (at) => at !== null && at < Date.now()),
  }),
});
