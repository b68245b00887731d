import { inject } from '@angular/core';
import { type AnswerOf, calls } from '@ivory/contract';
import {
  type Asking,
  buildRegister,
  CategoryTree,
  currencyOf,
  localDay,
  type Moment,
  momentOf,
  namesBehind,
  NameList,
  rulesOf,
} from '@ivory/core';
import { Actions, createEffect, ofType, ROOT_EFFECTS_INIT } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';
import { catchError, EMPTY, map, switchMap } from 'rxjs';
import { Api } from '../api/api.ts';
import { moment } from '../api/moment.ts';

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

/** Until the shop is there. */
const NOTHING: Asking = {
  register: buildRegister('', { fields: [], outlets: [] }),
  names: { currency: currencyOf('GBP'), lists: new Map(), categories: new CategoryTree([]) },
  rules: new Map(),
  today: 0,
};

/** What questions and values of a shop are read and shown with. */
export function askingOf(shop: Shop, at: Moment = momentOf(Date.now())): Asking {
  const lists = Object.entries(shop.lists).map(([key, entries]) => {
    const others = entries.flatMap(({ id, alsoCalled }) => (alsoCalled ? [[id, alsoCalled] as const] : []));
    return [key, new NameList(new Map(entries.map(({ id, name }) => [id, name])), new Map(others))] as const;
  });
  const asking = {
    // Goods have a price in each sale.
    register: buildRegister(shop.version, { ...shop, sales: shop.lists['sale'] ?? [] }),
    names: {
      currency: currencyOf(shop.currency),
      lists: new Map(lists),
      categories: new CategoryTree(shop.categories),
    },
    today: localDay(at, shop.timeZone),
  };
  return { ...asking, rules: rulesOf(shop.rules, asking) };
}

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
    /** The zone of the shop's clock. */
    selectTimeZone: createSelector(selectShop, (shop) => shop?.timeZone ?? 'UTC'),
    /** The name of the customer group whose prices are looked at. */
    selectGroupName: createSelector(selectShop, moment.selectGroup, (shop, group) =>
      group === null || !shop
        ? undefined
        : namesBehind({ kind: 'customerGroup' }, askingOf(shop).names).byId.get(group),
    ),
    selectAsking: createSelector(selectShop, moment.selectAt, (shop, at) =>
      shop ? askingOf(shop, at ?? undefined) : NOTHING,
    ),
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
