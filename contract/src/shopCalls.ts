import * as z from 'zod';
import { call } from './call.ts';
import { idParams, idSchema, valueSchema, windowQuery } from './schemas.ts';

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
  answer: z.object({ shop: z.string(), categories: z.array(shopCategory), assortments: z.array(shopAssortment) }),
});
const shownProperty = z.object({ name: z.string(), value: z.string() });
const shopVariant = z.object({
  code: z.string(),
  options: z.array(shownProperty),
  price: z.string(),
  was: z.string().nullable(),
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
  /** In their order, each with its text for who does not see it. */
  pictures: z.array(z.object({ key: z.string(), alternative: z.string() })),
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
