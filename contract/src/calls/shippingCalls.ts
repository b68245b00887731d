import * as z from 'zod';
import { call } from './call.ts';
import { idSchema } from '../schemas.ts';

/** A country, by its code of two letters. */
export const countrySchema = z.string().regex(/^[A-Z]{2}$/);

export const shippingAnswerSchema = z.object({
  country: countrySchema,
  /** What shipping costs in minor units; null where it is not shipped there, or nobody can tell. */
  charge: z.string().nullable(),
  problem: z.enum(['no profile', 'not shipped there', 'no weight', 'too heavy']).nullable(),
  /** Of a problem: the profile by which it would ship, and what it weighs in grams. */
  profile: z.string().nullable(),
  weight: z.number().nullable(),
  /** How the charge comes about. */
  parts: z.array(
    z.object({
      profile: z.string(),
      /** The rate as it is written in the profile. */
      rate: z.string(),
      pieces: z.number(),
      firsts: z.number(),
      first: z.string(),
      further: z.string(),
      weight: z.number().nullable(),
      isFree: z.boolean(),
      charge: z.string(),
    }),
  ),
});
export type ShippingTold = z.infer<typeof shippingAnswerSchema>;

/** What it costs to ship pieces of SKUs to a country, and how; nothing is stored. */
export const tellShipping = call('POST', '/api/shipping', {
  body: z.object({
    country: countrySchema,
    lines: z
      .array(z.object({ sku: idSchema, pieces: z.number().int().min(1).max(999) }))
      .min(1)
      .max(100),
  }),
  answer: shippingAnswerSchema,
});
