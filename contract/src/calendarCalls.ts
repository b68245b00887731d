import * as z from 'zod';
import { call } from './call.ts';
import { idSchema, summaryOrNothing } from './schemas.ts';

/** A sale as the calendar shows it. */
const calendarSaleSchema = z.object({
  id: idSchema,
  name: z.string(),
  /** Days since 1970 on which it begins and ends; null where it is open. */
  from: z.number().nullable(),
  until: z.number().nullable(),
  /** What it takes off, in canonical text. */
  reduction: z.string().nullable(),
  group: z.string().nullable(),
  above: z.boolean(),
  note: z.string(),
  skus: z.number(),
  /** Its days as the proof in hand would have them, where that changes one of them. */
  proposed: z.object({ from: z.number().nullable(), until: z.number().nullable() }).nullable(),
  /** The question that opens what is in it. */
  question: z.string(),
});
export type CalendarSale = z.infer<typeof calendarSaleSchema>;

/** The formula of an outlet, as the calendar shows it. */
const calendarFormulaSchema = z.object({
  id: idSchema,
  name: z.string(),
  /** As it is read, and from which price it works. */
  formula: z.string(),
  basedOn: z.string(),
  outlets: z.array(z.string()),
  from: z.number().nullable(),
  until: z.number().nullable(),
});
export type CalendarFormula = z.infer<typeof calendarFormulaSchema>;

/** Proposes a sale once more a year later, with all its goods as they are in it. */
export const copySale = call('POST', '/api/hand/sales/copy', {
  body: z.object({ sale: idSchema }),
  answer: summaryOrNothing.extend({ id: idSchema }),
});

/** The formulas that outlets have, and all sales of the shop, in the order in which they begin. */
export const getCalendar = call('GET', '/api/calendar', {
  answer: z.object({ sales: z.array(calendarSaleSchema), formulas: z.array(calendarFormulaSchema) }),
});
