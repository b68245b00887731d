import { LATEST_MOMENT_MS } from '@ivory/core';
import * as z from 'zod';
import { call } from './call.ts';
import { idParams, idSchema } from '../schemas.ts';

const moment = z.number().int().min(0).max(LATEST_MOMENT_MS).nullable();

/**
 * When a proof lands and when it is taken back, in milliseconds since 1970 UTC; it lands by hand where `at` is null. `whenChanged` is what
 * becomes of it when values changed meanwhile: it waits for a person, or the rest lands.
 */
export const planningSchema = z.object({ at: moment, back: moment, whenChanged: z.enum(['wait', 'rest']) });
export type Planning = z.infer<typeof planningSchema>;

export const plannedSchema = z.object({
  id: idSchema,
  proof: idSchema,
  title: z.string(),
  lines: z.number(),
  at: z.string().nullable(),
  back: z.string().nullable(),
  whenChanged: planningSchema.shape.whenChanged,
  /** `landed` is to be taken back; `waits` waits for a person, `why` says what for. */
  state: z.enum(['planned', 'landed', 'waits', 'over', 'called off']),
  why: z.string().nullable(),
  landing: idSchema.nullable(),
  /** The proof that takes it back, once that was proposed. */
  backProof: idSchema.nullable(),
  person: z.string(),
});
export type Planned = z.infer<typeof plannedSchema>;

const answer = z.object({ planned: plannedSchema });

/** Landings that are planned, or to be taken back, or wait for a person, in the order in which something happens. */
export const listPlanned = call('GET', '/api/planned', { answer: z.object({ planned: z.array(plannedSchema) }) });
export const planProof = call('POST', '/api/proofs/:id/plan', { params: idParams, body: planningSchema, answer });
export const movePlanned = call('POST', '/api/planned/:id', { params: idParams, body: planningSchema, answer });
/** What had not landed is set aside; what had landed stays. */
export const callOff = call('POST', '/api/planned/:id/call-off', { params: idParams, answer: z.object({}) });
