import * as z from 'zod';
import { call } from './call.ts';
import { placeSchema } from '../problemDetails.ts';
import {
  fieldNameSchema,
  idParams,
  idSchema,
  membershipSchema,
  pictureSchema,
  productSchema,
  questionText,
  summaryOrNothing,
  windowQuery,
} from '../schemas.ts';

/** What a picture that was handed in became; `isNew` says whether its bytes came for the first time. */
const keptPictureSchema = z.object({ picture: pictureSchema, isNew: z.boolean() });
export type KeptPicture = z.infer<typeof keptPictureSchema>;

/** Takes a picture from its address on the web. */
export const fetchPicture = call('POST', '/api/pictures/from', {
  body: z.object({ address: z.string().trim().min(1).max(2_000) }),
  answer: keptPictureSchema,
});

/** What the folio of a product shows beside its fields, which `getThing` has. */
/**
 * A sale that is not over and that SKUs of a product are in, by the shop or by the proof in hand. Prices are canonical texts; `proposed`: what
 * the proof in hand makes of one.
 */
const productSaleSchema = z.object({
  id: idSchema,
  name: z.string(),
  from: z.number().nullable(),
  fromTime: z.number().nullable(),
  until: z.number().nullable(),
  untilTime: z.number().nullable(),
  group: z.string().nullable(),
  fromPieces: z.number().nullable(),
  prices: z.array(
    z.object({
      sku: idSchema,
      code: z.string(),
      price: z.string().nullable(),
      proposed: z.string().nullable().optional(),
      /** What it comes to, where it is as the sale says; null where that takes nothing off. */
      comesTo: z.string().nullable(),
    }),
  ),
});

export const getProduct = call('GET', '/api/products/:id', {
  params: idParams,
  answer: z.object({
    skus: z.number(),
    /** What is missing, by the gap, and on how many of its SKUs. */
    gaps: z.array(z.object({ gap: z.string(), name: z.string(), skus: z.number() })),
    /** What shoppers can do with each SKU now; `from` is the day from which it is bought, as days since 1970. */
    selling: z.array(
      z.object({
        id: idSchema,
        code: z.string(),
        state: z.string(),
        why: z.string().optional(),
        from: z.number().nullable().optional(),
      }),
    ),
    assortments: membershipSchema,
    sales: z.array(productSaleSchema),
    /** The pattern of names of its main category, or of one above. */
    namePattern: z.string().nullable(),
    shopAddress: z.string(),
  }),
});

const textsOfThing = z.record(fieldNameSchema, z.string().max(20_000));
/** Proposes a product and its first SKU, each with the texts of its fields; address and code are worked out where none is given. */
export const makeProduct = call('POST', '/api/hand/products', {
  body: z.object({ texts: textsOfThing, sku: textsOfThing.default({}) }),
  answer: summaryOrNothing.extend({ product: idSchema, sku: idSchema }),
});
/** How codes are made where none is given: by a pattern such as `{base}-{colour:3}-{size}`, or by counting up from a code. */
const codesSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('pattern'), pattern: z.string().trim().min(1).max(100) }),
  z.object({ by: z.literal('counting'), from: z.string().trim().min(1).max(64) }),
]);
export type CodesBy = z.infer<typeof codesSchema>;
/** A code that is given, and the one that it would have been were that free. */
const givenCodeSchema = z.object({ code: z.string(), instead: z.string().nullable() });
export type GivenCode = z.infer<typeof givenCodeSchema>;
/**
 * Proposes goods by the row, each with the texts of its fields; rows of one name are variants of one product. Rows that cannot be
 * read are left out, and told by their place with what is wrong.
 */
export const makeRows = call('POST', '/api/hand/products/rows', {
  body: z.object({
    rows: z.array(textsOfThing).min(1).max(2_000),
    codes: codesSchema.optional(),
    propose: z.boolean().default(true),
  }),
  answer: summaryOrNothing.extend({
    made: z.number(),
    codes: z.array(givenCodeSchema),
    refused: z.array(z.object({ row: z.number(), places: z.array(placeSchema) })),
  }),
});
/** Proposes copies of a product with its variants, under these names. */
export const copyProduct = call('POST', '/api/hand/products/copy', {
  body: z.object({ product: idSchema, names: z.array(z.string().trim().min(1).max(200)).min(1).max(50) }),
  answer: summaryOrNothing.extend({ ids: z.array(idSchema) }),
});
/** Goods that were cleared away, those that were made last first. */
export const listCleared = call('GET', '/api/cleared', {
  query: windowQuery,
  answer: z.object({
    total: z.number(),
    products: z.array(productSchema.extend({ skus: z.number(), comesBack: z.boolean() })),
  }),
});
/**
 * Proposes further SKUs of a product. Codes are made by a pattern or by counting up; without `propose` it is only told which they would be, and
 * which those are that stand in their way.
 */
export const makeSkus = call('POST', '/api/hand/products/skus', {
  body: z.object({
    product: idSchema,
    skus: z.array(textsOfThing).min(1).max(2_000),
    codes: codesSchema.optional(),
    propose: z.boolean().default(true),
  }),
  answer: summaryOrNothing.extend({ ids: z.array(idSchema), codes: z.array(givenCodeSchema) }),
});
/**
 * Proposes that SKUs go, all of one product; what lies of them is moved out, their movements and their history stay. With
 * `keepStocked` those that have stock are kept. Without `propose` it is only counted.
 */
export const takeSkusAway = call('POST', '/api/hand/products/skus/away', {
  body: z.object({
    skus: z.array(idSchema).min(1).max(2_000),
    keepStocked: z.boolean().default(false),
    propose: z.boolean().default(true),
  }),
  /** How many go; how many of all have stock, and how many pieces; and how many were counted, sold or received before. */
  answer: summaryOrNothing.extend({
    skus: z.number(),
    stocked: z.number(),
    pieces: z.number(),
    moved: z.number(),
  }),
});
/** The next GTINs of the shop's own that no SKU has, in the shop or in the proof in hand. */
export const nextGtins = call('POST', '/api/gtins/next', {
  body: z.object({ count: z.number().int().min(1).max(2_000) }),
  answer: z.object({ gtins: z.array(z.string()) }),
});
/** What one product can hand on to others. */
export const COPIED_PARTS = ['attributes', 'parcel', 'shipping', 'customs', 'selling', 'variants'] as const;
/**
 * Proposes that the products of a question have what another product has in some parts; what it has not stays as it is with them.
 * Of its variants they get the combinations that they have not, made like those that they have. Without `propose` it is only counted.
 */
export const copyParts = call('POST', '/api/hand/products/parts', {
  body: z.object({
    product: idSchema,
    parts: z.array(z.enum(COPIED_PARTS)).min(1).max(COPIED_PARTS.length),
    question: questionText,
    propose: z.boolean().default(true),
  }),
  /** How many products change; how many have it so already; how many get no variants, as they vary by other options. */
  answer: summaryOrNothing.extend({ changes: z.number(), already: z.number(), varyOtherwise: z.number() }),
});
/** What a file that was handed in for goods became. */
export interface KeptFile {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
}
