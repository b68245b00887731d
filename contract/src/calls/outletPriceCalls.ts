import { FORMULA_BASES } from '@ivory/core';
import * as z from 'zod';
import { call } from './call.ts';
import { FORMULA_COUNTS, formulaTrialSchema } from '../listOf.ts';
import { idParams, idSchema, valueSchema } from '../schemas.ts';

/** The outlets whose prices a proof would make by another formula, with what that says. */
export const listProofFormulas = call('GET', '/api/proofs/:id/formulas', {
  params: idParams,
  answer: z.object({
    formulas: z.array(
      z.object({ outlet: idSchema, name: z.string(), formula: z.string(), basedOn: z.enum(FORMULA_BASES) }),
    ),
  }),
});

/**
 * What a formula makes of prices: against what shoppers pay in the shop now, with the margin of all before and after. SKUs without a price
 * are not counted; those that keep a formula of their own are counted by that. Nothing is proposed.
 */
export const tryFormula = call('POST', '/api/formulas/try', {
  body: formulaTrialSchema,
  answer: z.object({
    /** The formula as it was understood. */
    formula: z.string(),
    skus: z.number(),
    counts: z.record(z.enum(FORMULA_COUNTS), z.number()),
    lowest: valueSchema,
    highest: valueSchema,
    /** In hundredths of a per cent. */
    marginBefore: z.number().nullable(),
    marginAfter: z.number().nullable(),
    samples: z.array(
      z.object({
        id: idSchema,
        code: z.string(),
        name: z.string(),
        from: z.string(),
        price: valueSchema,
        margin: z.number().nullable(),
      }),
    ),
  }),
});
