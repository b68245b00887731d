import { asksFor } from '@ivory/core';
import * as z from 'zod';
import { call } from './call.ts';
import {
  done,
  idParams,
  idSchema,
  kindSchema,
  lineFieldSchema,
  lineFilterSchema,
  warningKeySchema,
  proofSummarySchema,
  shownLineSchema,
  spreadSchema,
  summaryOrNothing,
  windowQuery,
  workSchema,
} from '../schemas.ts';

/** Proofs that have not landed, newest first. */
export const listProofs = call('GET', '/api/proofs', { answer: z.object({ proofs: z.array(proofSummarySchema) }) });
export const getProof = call('GET', '/api/proofs/:id', {
  params: idParams,
  answer: z.object({ proof: proofSummarySchema }),
});
export const getProofLines = call('GET', '/api/proofs/:id/lines', {
  params: idParams,
  /** `by`: lines of one product stand together; otherwise what there is to look at comes first. */
  query: windowQuery.extend(lineFilterSchema.shape).extend({ by: z.literal('product').optional() }),
  answer: z.object({ total: z.number(), lines: z.array(shownLineSchema) }),
});
/** What a proof does to prices and margins: the SKUs that it reprices, before and after. */
export const getProofSpread = call('GET', '/api/proofs/:id/spread', { params: idParams, answer: spreadSchema });
const bothCounts = { before: z.number(), after: z.number() };
/** What a proof does to the goods that it touches: their stock at cost, how many an outlet would take, and the gaps that change. */
export const getProofEffect = call('GET', '/api/proofs/:id/effect', {
  params: idParams,
  answer: z.object({
    stock: z.object({ before: z.string(), after: z.string(), differs: z.boolean() }),
    ready: z.object(bothCounts),
    gaps: z.array(z.object({ gap: z.string(), called: z.string(), ...bothCounts })),
  }),
});
/** Leaves lines out of the landing or takes them in again: single ones, or all that a filter names. */
export const leaveOut = call('POST', '/api/proofs/:id/left-out', {
  params: idParams,
  body: z.object({
    out: z.boolean(),
    lines: z
      .array(z.object({ kind: kindSchema, id: idSchema, field: lineFieldSchema }))
      .max(5_000)
      .optional(),
    filter: lineFilterSchema.omit({ leftOut: true }).optional(),
  }),
  /** `kept`: how many lines of the filter are unchanged, since lines of a made or deleted thing are left out together. */
  answer: z.object({ proof: proofSummarySchema, kept: z.number() }),
});
/** Agrees, or does not any more, to what stops lines of a proof until a person does. */
export const agreeTo = call('POST', '/api/proofs/:id/agreed', {
  params: idParams,
  body: z.object({ warning: warningKeySchema.refine(asksFor, 'This asks for nothing.'), agreed: z.boolean() }),
  answer: z.object({ proof: proofSummarySchema }),
});
/** Lands a proof: at once and whole when small, as work with progress when large. */
export const landProof = call('POST', '/api/proofs/:id/land', {
  params: idParams,
  answer: z.object({ landing: idSchema.nullable(), work: workSchema.nullable() }),
});
export const discardProof = call('DELETE', '/api/proofs/:id', { params: idParams, answer: done });

/** Sets the proof in hand aside under a name: what is edited then gathers in a new one. Refuses a name that another has. */
export const setAside = call('POST', '/api/hand/aside', {
  body: z.object({ name: z.string().trim().min(1).max(120), note: z.string().trim().max(2_000).default('') }),
  answer: z.object({ proof: proofSummarySchema }),
});
/** Takes a proof up again that was set aside. Refuses while another is in hand. */
export const takeUp = call('POST', '/api/proofs/:id/take-up', { params: idParams, answer: summaryOrNothing });
/** Other proofs that are open and propose something for the same values, with how many of them. */
export const getProofsBeside = call('GET', '/api/proofs/:id/beside', {
  params: idParams,
  /** `at` and `back`: when it lands by itself, and when it is taken back; a season that is in the shop has only the second. */
  answer: z.object({
    proofs: z.array(
      z.object({
        id: idSchema,
        title: z.string(),
        values: z.number(),
        at: z.string().nullable(),
        back: z.string().nullable(),
      }),
    ),
  }),
});

/** Puts several proofs away; those that are not open any more stay as they are. Says how many went. */
export const discardProofs = call('POST', '/api/proofs/discard', {
  body: z.object({ ids: z.array(idSchema).min(1).max(1_000) }),
  answer: z.object({ discarded: z.number() }),
});
