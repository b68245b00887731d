import * as z from 'zod';
import { call } from './call.ts';
import { idSchema, summaryOrNothing } from '../schemas.ts';

/** Days since 1970 on which something begins and ends; null where it is open. */
const daysSchema = z.object({ from: z.number().nullable(), until: z.number().nullable() });
/** Between which times of these days a sale runs, in minutes since midnight; null from the first midnight, and to the last. */
const timesSchema = daysSchema.extend({ fromTime: z.number().nullable(), untilTime: z.number().nullable() });
export type SaleTimes = z.infer<typeof timesSchema>;

/** A sale as the calendar shows it. */
const calendarSaleSchema = timesSchema.extend({
  id: idSchema,
  name: z.string(),
  /** The moments at which it begins and ends. */
  starts: z.string().nullable(),
  ends: z.string().nullable(),
  /** What it takes off, in canonical text. */
  reduction: z.string().nullable(),
  group: z.string().nullable(),
  above: z.boolean(),
  note: z.string(),
  skus: z.number(),
  /** When it runs as the proof in hand would have it, where that changes any of it. */
  proposed: timesSchema.nullable(),
  /** It is made by the proof in hand, and not in the shop before that lands: what is said of it is said there. */
  isNew: z.boolean(),
  /** The question that opens what is in it. */
  question: z.string(),
});
export type CalendarSale = z.infer<typeof calendarSaleSchema>;

/** The formula of an outlet, as the calendar shows it. */
const calendarFormulaSchema = daysSchema.extend({
  id: idSchema,
  name: z.string(),
  /** As it is read, and from which price it works. */
  formula: z.string(),
  basedOn: z.string(),
  outlets: z.array(z.string()),
  proposed: daysSchema.nullable(),
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
