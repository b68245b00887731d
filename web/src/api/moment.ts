import { createActionGroup, createFeature, createReducer, createSelector, on, props } from '@ngrx/store';
import { type Moment } from '@ivory/core';

export const MomentActions = createActionGroup({
  source: 'Moment',
  events: {
    /** Everything is looked at as it will be, or was, then; null is now. */
    'Look at': props<{ at: Moment | null }>(),
    /** Prices are those of a customer group, by its id; null is anybody. */
    'Look as': props<{ group: string | null }>(),
  },
});

/** The moment that the whole screen is looked at; a page that is opened anew begins with now. */
export const moment = createFeature({
  name: 'moment',
  reducer: createReducer(
    { at: null as Moment | null, group: null as string | null },
    on(MomentActions.lookAt, (state, { at }) => ({ ...state, at })),
    on(MomentActions.lookAs, (state, { group }) => ({ ...state, group })),
  ),
  extraSelectors: ({ selectAt }) => ({
    /** It was: what stands on record is shown and not changed. */
    selectIsPast: createSelector(selectAt, (at) => at !== null && at < Date.now()),
  }),
});

/** The address of a page of the shop, as it is at the moment and for the group that are looked at. */
export function inShopAt(address: string, at: Moment | null, group: string | null): string {
  const url = new URL(address);
  url.searchParams.set('at', at === null ? '' : String(at));
  url.searchParams.set('as', group ?? '');
  return url.href;
}
