import * as z from 'zod';
import { call } from './call.ts';
import {
  done,
  idParams,
  idSchema,
  kindSchema,
  landingSchema,
  lineFieldSchema,
  PROOF_KINDS,
  proofSummarySchema,
  shownLineSchema,
  windowQuery,
  workSchema,
} from '../schemas.ts';

const someWords = z.string().trim().max(200).optional();
/** A day, as days since 1970. */
const day = z.coerce.number().int().min(-100_000).max(3_000_000).optional();

/** Which landings: by words of their titles and notes, where they come from, what they changed, and when. */
export const landingFilterSchema = z.object({
  words: someWords,
  source: z.enum(PROOF_KINDS).optional(),
  /** Who landed it, by the name or a part of it. */
  by: someWords,
  /** A field of a kind of which any line is. */
  kind: kindSchema.optional(),
  field: lineFieldSchema.optional(),
  /** The code of an SKU that it, or its product, was changed of. */
  code: someWords,
  since: day,
  until: day,
});
export type LandingFilter = z.output<typeof landingFilterSchema>;

export const listLandings = call('GET', '/api/journal', {
  query: landingFilterSchema.extend(windowQuery.shape),
  answer: z.object({ total: z.number(), landings: z.array(landingSchema) }),
});

/** What landings are asked for by, the latest first: their titles and names, or who landed them. */
export const listLandingTexts = call('GET', '/api/journal/texts', {
  query: z.object({ field: z.enum(['landedIn', 'changedBy']) }),
  answer: z.object({ texts: z.array(z.string()) }),
});

/** Lines of one landing: all, those of a field, those of goods in whose name or code words stand. */
export const getLandingLines = call('GET', '/api/journal/:id/lines', {
  params: idParams,
  query: windowQuery.extend({ kind: kindSchema.optional(), field: lineFieldSchema.optional(), words: someWords }),
  answer: z.object({
    landing: landingSchema,
    /** How many lines the filter names. */
    total: z.number(),
    lines: z.array(shownLineSchema),
    /** The fields of the whole landing, with their lines. */
    fields: z.array(z.object({ kind: kindSchema, field: lineFieldSchema, called: z.string(), lines: z.number() })),
  }),
});

/** Gives a landing a name and a note; blank text takes them away. */
export const noteLanding = call('POST', '/api/journal/:id/note', {
  params: idParams,
  body: z.object({ name: z.string().trim().max(200), note: z.string().trim().max(2_000) }),
  answer: done,
});

const linePlace = z.object({ kind: kindSchema, id: idSchema, field: lineFieldSchema });
/** What of a landing is taken back: single lines, or all lines of fields. */
export const takeBackOnlySchema = z.union([
  z.object({ lines: z.array(linePlace).min(1).max(5_000) }),
  z.object({
    fields: z
      .array(linePlace.omit({ id: true }))
      .min(1)
      .max(200),
  }),
]);
export type TakeBackOnly = z.infer<typeof takeBackOnlySchema>;

/**
 * Proposes the inverse of a landing, or of a part of it; what has changed since is left out and marked. At once when small, as work when
 * large.
 */
export const takeBack = call('POST', '/api/journal/:id/take-back', {
  params: idParams,
  body: z.object({ only: takeBackOnlySchema.optional() }),
  answer: z.object({ proof: proofSummarySchema.nullable(), work: workSchema.nullable() }),
});
