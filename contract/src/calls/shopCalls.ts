import { CHOSEN_BY } from '@ivory/core';
import * as z from 'zod';
import { call } from './call.ts';
import { countrySchema, shippingAnswerSchema } from './shippingCalls.ts';
import { idParams, idSchema, valueSchema, windowQuery } from '../schemas.ts';

// What the shop's own storefront reads: only what shoppers may see, as of now.

/** What the page of a category or an assortment says. */
const shopPage = { head: z.string(), foot: z.string(), pageTitle: z.string(), pageDescription: z.string() };
const shopCategory = z.object({
  id: idSchema,
  parent: idSchema.nullable(),
  name: z.string(),
  path: z.string(),
  inMenu: z.boolean(),
  ...shopPage,
  picture: valueSchema,
});
/** An assortment that shoppers meet somewhere, between the days for which it was given. */
const shopAssortment = z.object({
  id: idSchema,
  name: z.string(),
  slug: z.string(),
  inMenu: z.boolean(),
  frontRow: z.boolean(),
  headOf: z.array(idSchema),
  ...shopPage,
  picture: valueSchema,
});
export const shopCategories = call('GET', '/shop/categories', {
  answer: z.object({
    shop: z.string(),
    timeZone: z.string(),
    /** The customer group that it is looked at as; null as anybody. */
    seenBy: z.string().nullable(),
    categories: z.array(shopCategory),
    assortments: z.array(shopAssortment),
  }),
});
const shownProperty = z.object({ name: z.string(), value: z.string() });
const shopVariant = z.object({
  code: z.string(),
  /** With the colour of each value and the key of its picture, where the shop gave it any. */
  options: z.array(shownProperty.extend({ swatch: valueSchema, picture: valueSchema })),
  /** The key of a picture of its own. */
  picture: valueSchema,
  price: z.string(),
  was: z.string().nullable(),
  unitPrice: z.object({ price: z.string(), per: z.string() }).nullable(),
  /** What each piece costs whoever takes more of them, in the order of how many. */
  steps: z.array(z.object({ from: z.number(), price: z.string() })),
  /** Of a reduced price: the lowest of the thirty days before. */
  prior: z.string().nullable(),
  state: z.string(),
  /** What a set is put together of, and how many of each. */
  parts: z.array(z.object({ name: z.string(), times: z.number() })),
});
/** A device that goods fit, with the years in which it was built. */
const shownFit = z.object({
  maker: z.string(),
  model: z.string(),
  from: z.number().nullable(),
  to: z.number().nullable(),
  note: z.string(),
});
export const shopProductSchema = z.object({
  slug: z.string(),
  name: z.string(),
  brand: valueSchema,
  description: z.string(),
  picture: valueSchema,
  variants: z.array(shopVariant),
  /** Attributes that shoppers see. */
  attributes: z.array(shownProperty),
  category: idSchema.nullable(),
  fits: z.array(shownFit),
  summary: z.string(),
  points: z.array(z.string()),
  parcelHolds: z.array(z.string()),
  announcement: z.string(),
  /** What is said to the shopper, and while it cannot be bought, with the day from which it can. */
  note: z.string(),
  boughtNote: z.string(),
  boughtFrom: z.string().nullable(),
  hazard: z.string(),
  condition: z.string().nullable(),
  /** A text that the shopper may have put on it, of at most so many characters, and the surcharge. */
  personal: z.object({ longest: z.number(), charge: z.string() }).nullable(),
  pageTitle: z.string(),
  pageDescription: z.string(),
  /** In their order, each with its alternative text. */
  pictures: z.array(z.object({ key: z.string(), alternative: z.string() })),
  /** Files that shoppers can have, by the key of their bytes. */
  files: z.array(z.object({ name: z.string(), key: z.string(), bytes: z.number() })),
  /** How shoppers choose among its variants; a list where nothing is said. */
  chosenBy: z.enum(CHOSEN_BY).nullable(),
  /** Badges that stand on it today. */
  badges: z.array(z.string()),
});
/** A product as others lead to it. */
const shopLink = z.object({ slug: z.string(), name: z.string() });
export const shopProducts = call('GET', '/shop/categories/:id/products', {
  params: idParams,
  query: windowQuery,
  answer: z.object({ total: z.number(), products: z.array(shopProductSchema) }),
});
/** The goods that are found by words. */
export const shopSearch = call('GET', '/shop/search', {
  query: windowQuery.extend({ q: z.string().trim().min(1).max(200) }),
  answer: z.object({ total: z.number(), products: z.array(shopProductSchema) }),
});
/** The goods of an assortment that shoppers may see, in its order. */
export const shopAssortmentProducts = call('GET', '/shop/assortments/:id/products', {
  params: idParams,
  query: windowQuery,
  answer: z.object({ total: z.number(), products: z.array(shopProductSchema) }),
});
export const shopProduct = call('GET', '/shop/products/:slug', {
  params: z.object({ slug: z.string().max(200) }),
  /** With what goes well with it, in order. An address that it had before gives the one that it has now, and nothing else. */
  answer: z.union([shopProductSchema.extend({ goesWith: z.array(shopLink) }), z.object({ movedTo: z.string() })]),
});

/** What a shopper wants: so many of an SKU, with the text that is put on it where it can be. */
const wantedLine = z.object({
  code: z.string().trim().min(1).max(64),
  quantity: z.number().int().min(1).max(999),
  text: z.string().trim().max(1_000).default(''),
});
export type WantedLine = z.infer<typeof wantedLine>;
const MOST_LINES = 100;

/** A line of a basket as the shop answers it; amounts in minor units. */
const basketLine = wantedLine.extend({
  slug: z.string(),
  name: z.string(),
  options: z.array(shownProperty),
  /** Of one, with what its text costs. */
  price: z.string(),
  sum: z.string(),
  /** Why it cannot be had so, in words; null where it can. */
  problem: z.string().nullable(),
});
/** What a basket comes to now. SKUs that the shop does not show are told in `gone`. */
export const shopBasket = call('POST', '/shop/basket', {
  /** `country` is where it is to be shipped. */
  body: z.object({ lines: z.array(wantedLine).max(MOST_LINES), country: countrySchema.nullable().default(null) }),
  answer: z.object({
    lines: z.array(basketLine),
    gone: z.array(z.string()),
    total: z.string(),
    /** What shipping to the country costs, and with it the whole; null where no country is named, or nothing can be ordered. */
    shipping: shippingAnswerSchema.nullable(),
    withShipping: z.string().nullable(),
    /** Why it cannot be shipped there, in words for the shopper. */
    notShipped: z.string().nullable(),
    /** Where the shop ships to by any of its profiles, by code and name. */
    countries: z.array(z.object({ code: z.string(), name: z.string() })),
  }),
});
/**
 * Takes an order: its goods leave the stock at once, by a landing of its own, or nothing does when a line cannot be had as it is
 * wanted. The same key is the same order, however often it is sent.
 */
export const placeOrder = call('POST', '/shop/orders', {
  /** With a country, what shipping there costs is part of the total; refused where it is not shipped there. */
  body: z.object({
    key: z.string().min(8).max(100),
    lines: z.array(wantedLine).min(1).max(MOST_LINES),
    country: countrySchema.nullable().default(null),
  }),
  answer: z.object({ order: idSchema, total: z.string() }),
});

/** The orders of the shop, the latest first, for its own people; `before`: those before an order. */
export const listOrders = call('GET', '/api/orders', {
  query: z.object({ before: idSchema.optional(), count: z.coerce.number().int().min(1).max(200).default(50) }),
  answer: z.object({
    orders: z.array(
      z.object({
        id: idSchema,
        at: z.string(),
        /** Where it is shipped to, by its code; null where nothing was said, or of orders from before that was kept. */
        country: z.string().nullable(),
        lines: z.array(
          z.object({
            code: z.string(),
            name: z.string(),
            options: z.array(z.string()),
            quantity: z.number(),
            /** The text that the shopper wants on it; empty where there is none. */
            text: z.string(),
            sum: z.string(),
          }),
        ),
        /** What shipping costs, and the whole; amounts in minor units. */
        shipping: z.string().nullable(),
        total: z.string(),
        /** The landing by which its goods left the stock. */
        landing: idSchema.nullable(),
      }),
    ),
    /** Whether there are earlier ones. */
    more: z.boolean(),
  }),
});
