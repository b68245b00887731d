import * as z from 'zod';
import { call } from './call.ts';
import { done, fieldKeySchema, idParams, idSchema, questionText, ruleSchema } from '../schemas.ts';

const name = z.string().trim().min(1).max(100);
const note = z.string().trim().max(500).default('');

/** Keeps a working set under a name; with the id of one that is kept, it takes its place. Refuses a name that another set has. */
export const keepSet = call('POST', '/api/kept/sets', {
  body: z.object({ id: idSchema.optional(), name, question: questionText, note }),
  answer: z.object({ id: idSchema }),
});
export const forgetSet = call('DELETE', '/api/kept/sets/:id', { params: idParams, answer: done });

/** The desks that show goods as a sheet. */
export const DESKS = ['range', 'prices', 'stock'] as const;
export type Desk = (typeof DESKS)[number];
const desk = z.enum(DESKS);

/** The columns of a desk: which there are, in what order, how wide in pixels, which are locked, and how many stay in sight. */
export const keptLayoutSchema = z.object({
  keys: z.array(fieldKeySchema).min(1).max(200),
  widths: z.record(z.string(), z.number().min(1).max(5_000)),
  locked: z.array(fieldKeySchema).max(200),
  staying: z.number().int().min(0).max(200),
  wraps: z.boolean(),
});

/** The columns of a desk that were kept under names, by these. */
export const listLayouts = call('GET', '/api/kept/layouts/:desk', {
  params: z.object({ desk }),
  answer: z.object({ layouts: z.array(z.object({ id: idSchema, name: z.string(), layout: keptLayoutSchema })) }),
});
/** Keeps columns under a name; those of the same name on the desk are taken over. */
export const keepLayout = call('POST', '/api/kept/layouts', {
  body: z.object({ desk, name, layout: keptLayoutSchema }),
  answer: z.object({ id: idSchema }),
});
export const forgetLayout = call('DELETE', '/api/kept/layouts/:id', { params: idParams, answer: done });

const keptRuleSchema = z.object({
  id: idSchema,
  name: z.string(),
  note: z.string(),
  /** The rows that it is for; null where it is for whatever set is in hand, and where its question does not read any more. */
  question: z.string().nullable(),
  rule: ruleSchema,
  /** When it was run last, and what it then changed; the latest first. */
  runs: z.array(z.object({ at: z.string(), changes: z.number() })),
});
export type KeptRule = z.infer<typeof keptRuleSchema>;
/** The rules that are kept, by their names. */
export const listRules = call('GET', '/api/kept/rules', { answer: z.object({ rules: z.array(keptRuleSchema) }) });
/** Keeps a rule under a name; with the id of one that is kept, it takes its place. Refuses a name that another rule has. */
export const keepRule = call('POST', '/api/kept/rules', {
  body: z.object({ id: idSchema.optional(), name, question: questionText.nullable(), rule: ruleSchema, note }),
  answer: z.object({ id: idSchema }),
});
export const forgetRule = call('DELETE', '/api/kept/rules/:id', { params: idParams, answer: done });
