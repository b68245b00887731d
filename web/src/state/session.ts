import { inject } from '@angular/core';
import { type AnswerOf, calls } from '@ivory/contract';
import { CategoryTree, currencyOf, NameList, type Names } from '@ivory/core';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';
import { catchError, EMPTY, map, switchMap } from 'rxjs';
import { Api } from '../api/api.ts';

export type Shop = AnswerOf<typeof calls.getShop>;

export const SessionActions = createActionGroup({
  source: 'Session',
  events: {
    'Names changed': emptyProps(),
    Opened: props<{ shop: Shop }>(),
    /** The server does not answer, or does again. */
    Lost: emptyProps(),
    Found: emptyProps(),
  },
});

const NO_NAMES: Names = {
  currency: currencyOf('GBP'),
  brand: new NameList(new Map()),
  supplier: new NameList(new Map()),
  lists: new NameList(new Map()),
  categories: new CategoryTree([]),
};

/** The shop and who is at work in it. */
export const session = createFeature({
  name: 'session',
  reducer: createReducer(
    { shop: null as Shop | null, lost: false },
    on(SessionActions.opened, (state, { shop }) => ({ ...state, shop })),
    on(SessionActions.lost, (state) => ({ ...state, lost: true })),
    on(SessionActions.found, (state) => ({ ...state, lost: false })),
  ),
  extraSelectors: ({ selectShop }) => ({
    selectNames: createSelector(selectShop, (shop): Names => {
      if (!shop) return NO_NAMES;
      const list = (entries: readonly { id: string; name: string }[]) =>
        new NameList(new Map(entries.map(({ id, name }) => [id, name])));
      return {
        currency: currencyOf(shop.currency),
        brand: list(shop.brands),
        supplier: list(shop.suppliers),
        lists: list(shop.lists),
        categories: new CategoryTree(shop.categories),
      };
    }),
  }),
});

export const openSession = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(ROOT_EFFECTS_INIT, SessionActions.namesChanged),
      switchMap(() =>
        api.call(calls.getShop).pipe(
          map((shop) => SessionActions.opened({ shop })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);
