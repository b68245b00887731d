import { listen, type StandIn } from '../listen.ts';
import { storefrontApp } from './app.ts';

/** Starts the storefront of the shop that is served at an address, asked anew at each page. */
export const startStorefront = (port: number, shop: () => string): Promise<StandIn> =>
  listen(storefrontApp(shop), port);
