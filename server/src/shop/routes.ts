import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type House } from '../http/house.ts';
import { serve } from '../http/route.ts';
import { basketOf, placeOrder } from './orders.ts';
import { shopAssortmentProducts, shopCategories, shopProduct, shopProducts, shopSearch } from './storefrontApi.ts';

export function shopRoutes(app: Hono, { db, clock, person }: House): void {
  serve(app, calls.shopCategories, () => shopCategories(db, clock()));
  serve(app, calls.shopAssortmentProducts, ({ params, query }) =>
    shopAssortmentProducts(db, params.id, query.from, query.count, clock()),
  );
  serve(app, calls.shopProducts, ({ params, query }) => shopProducts(db, params.id, query.from, query.count, clock()));
  serve(app, calls.shopBasket, ({ body }) => basketOf(db, body.lines, clock()));
  serve(app, calls.placeOrder, ({ body }) => placeOrder(db, person.id, body, clock()));
  serve(app, calls.shopSearch, ({ query }) => shopSearch(db, query.q, query.from, query.count, clock()));
  serve(app, calls.shopProduct, ({ params }) => shopProduct(db, params.slug, clock()));
}
