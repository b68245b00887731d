import * as z from 'zod';
import { workSchema } from './schemas.ts';

/** What the server tells every open browser by server-sent events at `/api/events`. */
export const eventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('work'), work: workSchema }),
  z.object({ kind: z.literal('landed'), landing: z.string() }),
  z.object({ kind: z.literal('hand') }),
]);
export type ServerEvent = z.infer<typeof eventSchema>;
