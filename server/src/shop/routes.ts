import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type House } from '../http/house.ts';
import { seenAt } from '../http/lookedAt.ts';
import { serve } from '../http/route.ts';
import { basketOf, placeOrder } from './orders.ts';
import { shopAssortmentProducts, shopCategories, shopProduct, shopProducts, shopSearch } from './storefrontApi.ts';

export function shopRoutes(app: Hono, { db, person }: House): void {
  serve(app, calls.shopCategories, ({ moment }) => shopCategories(seenAt(db, moment)));
  serve(app, calls.shopAssortmentProducts, ({ params, query, moment }) =>
    shopAssortmentProducts(seenAt(db, moment), params.id, query.from, query.count),
  );
  serve(app, calls.shopProducts, ({ params, query, moment }) =>
    shopProducts(seenAt(db, moment), params.id, query.from, query.count),
  );
  serve(app, calls.shopBasket, ({ body, moment }) => basketOf(seenAt(db, moment), body.lines));
  serve(app, calls.placeOrder, ({ body }) => placeOrder(db, person.id, body));
  serve(app, calls.shopSearch, ({ query, moment }) => shopSearch(seenAt(db, moment), query.q, query.from, query.count));
  serve(app, calls.shopProduct, ({ params, moment }) => shopProduct(seenAt(db, moment), params.slug));
}
