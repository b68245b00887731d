import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { seenAt } from '../http/lookedAt.ts';
import { serve } from '../http/route.ts';
import { listOrders } from './listOrders.ts';
import { basketOf, placeOrder } from './orders.ts';
import { shopAssortmentProducts, shopCategories, shopProduct, shopProducts, shopSearch } from './storefrontApi.ts';

export function shopRoutes(app: Hono, { db }: AppContext): void {
  serve(app, calls.shopCategories, ({ looked }) => shopCategories(seenAt(db, looked)));
  serve(app, calls.shopAssortmentProducts, ({ params, query, looked }) =>
    shopAssortmentProducts(seenAt(db, looked), params.id, query.from, query.count),
  );
  serve(app, calls.shopProducts, ({ params, query, looked }) =>
    shopProducts(seenAt(db, looked), params.id, query.from, query.count),
  );
  serve(app, calls.shopBasket, ({ body, looked }) => basketOf(seenAt(db, looked), body.lines, body.country));
  serve(app, calls.listOrders, ({ query }) => listOrders(db, query));
  serve(app, calls.placeOrder, ({ body }) => placeOrder(db, body));
  serve(app, calls.shopSearch, ({ query, looked }) => shopSearch(seenAt(db, looked), query.q, query.from, query.count));
  serve(app, calls.shopProduct, ({ params, looked }) => shopProduct(seenAt(db, looked), params.slug));
}
