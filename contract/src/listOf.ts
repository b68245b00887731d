import { FORMULA_BASES } from '@ivory/core';
import * as z from 'zod';
import {
  barPlaceSchema,
  effectCountSchema,
  idSchema,
  lineFilterSchema,
  onHandSchema,
  questionText,
  ruleSchema,
} from './schemas.ts';

/** What of a formula's effect is counted: each opens as a list. */
export const FORMULA_COUNTS = ['higher', 'lower', 'same', 'without', 'belowCost', 'belowFloor'] as const;
export type FormulaCount = (typeof FORMULA_COUNTS)[number];

/** A formula that is tried on an outlet, as it is typed, over the goods of a question. */
export const formulaTrialSchema = z.object({
  outlet: idSchema,
  formula: z.string().max(2_000),
  basedOn: z.enum(FORMULA_BASES),
  question: questionText,
});
export type FormulaTrial = z.infer<typeof formulaTrialSchema>;

/** So many codes may be pasted into the question at once. */
export const MOST_PASTED_CODES = 20_000;

/** A number on a screen that opens as a list of SKUs, since no question asks for them. */
export const listOfSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('proof'), id: idSchema, filter: lineFilterSchema.omit({ leftOut: true }) }),
  z.object({
    kind: z.literal('proof bar'),
    id: idSchema,
    side: z.enum(['before', 'after']),
    ...barPlaceSchema.shape,
  }),
  z.object({ kind: z.literal('landing'), id: idSchema }),
  z.object({ kind: z.literal('delivery'), id: idSchema }),
  z.object({
    kind: z.literal('rule'),
    question: questionText,
    rule: ruleSchema,
    count: effectCountSchema,
    onHand: onHandSchema.default('on top'),
  }),
  /** A column of codes, or of GTINs, as it was pasted. */
  z.object({
    kind: z.literal('codes'),
    codes: z.array(z.string().trim().min(1).max(64)).min(1).max(MOST_PASTED_CODES),
  }),
  z.object({ kind: z.literal('formula'), ...formulaTrialSchema.shape, count: z.enum(FORMULA_COUNTS) }),
]);
export type ListOf = z.output<typeof listOfSchema>;
export type ListOfWire = z.input<typeof listOfSchema>;
