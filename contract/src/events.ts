import * as z from 'zod';
import { workSchema } from './schemas.ts';

/** What the server tells every open browser by server-sent events at `/api/events`. */
export const eventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('work'), work: workSchema }),
  z.object({ kind: z.literal('landed'), landing: z.string() }),
  /** What is planned to land is another. */
  z.object({ kind: z.literal('planned') }),
  /** The proof in hand is another; `by` is the tab that made it so, as it named itself in the header `x-tab`. */
  z.object({ kind: z.literal('hand'), by: z.string().nullable() }),
]);
export type ServerEvent = z.infer<typeof eventSchema>;
