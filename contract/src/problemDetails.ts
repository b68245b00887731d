import * as z from 'zod';

/** RFC 9457 problem details, as every refusal of the server looks; `places` says which value of what is wrong. */
export const placeSchema = z.object({
  code: z.string(),
  value: z.string().optional(),
  expected: z.string().optional(),
  row: z.string().optional(),
  field: z.string().optional(),
  called: z.string().optional(),
  at: z.number().optional(),
  length: z.number().optional(),
});
export const problemDetailsSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  detail: z.string().optional(),
  places: z.array(placeSchema).optional(),
});
export type ProblemDetails = z.infer<typeof problemDetailsSchema>;
