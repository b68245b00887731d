import { FEED_FIELD_KEYS, type FieldKey, FORMULA_BASES, MATCHED_BY, STAGES } from '@ivory/core';
import * as z from 'zod';
import { call } from './call.ts';
import { keptSettingsSchema, outletSettingsSchema } from '../outletSettings.ts';
import {
  done,
  fieldKeySchema,
  idParams,
  idSchema,
  questionText,
  rowsOfSchema,
  sortSchema,
  windowQuery,
  workSchema,
} from '../schemas.ts';

// Files that come in, feeds that go out, and the work that both are.

/** How a file is to be read. */
export const importSettingsSchema = z.object({
  columns: z.array(fieldKeySchema.nullable()).max(200),
  decimalSign: z.enum(['.', ',']),
  /** Codes that the shop does not know become new products; otherwise their rows are refused. */
  makeProducts: z.boolean(),
  /** Categories, brands and other names that the shop does not know are made; otherwise their rows are refused. Values of options are always made. */
  makeNames: z.boolean(),
  stage: z.enum(STAGES).default('Preparing'),
  /** New rows of one name, brand, category and supplier whose options differ become variants of one product. */
  joinVariants: z.boolean().default(true),
  /** The column that says which product a row is of; rows that say the same are its variants. */
  productColumn: z.number().int().min(0).max(199).nullable().default(null),
});
export type ImportSettings = z.infer<typeof importSettingsSchema>;

export const importSchema = z.object({
  id: idSchema,
  fileName: z.string(),
  encoding: z.string(),
  delimiter: z.string(),
  /** The row of its headings, as a spreadsheet shows it; 0 when it has none. */
  headingRow: z.number(),
  /** By which its numbers seem to be written. */
  decimalSign: importSettingsSchema.shape.decimalSign,
  columns: z.array(
    z.object({
      heading: z.string(),
      field: fieldKeySchema.nullable(),
      by: z.enum(MATCHED_BY),
      samples: z.array(z.string()),
    }),
  ),
  state: z.enum(['uploaded', 'reading', 'read', 'failed']),
  proof: idSchema.nullable(),
  /** How it was read into that proof. */
  settings: importSettingsSchema.nullable(),
  counts: z.object({ new: z.number(), changed: z.number(), same: z.number(), refused: z.number() }).nullable(),
  /** New rows that share a product with other rows, and how many products those are; when it was read. */
  joined: z.object({ rows: z.number(), products: z.number() }).nullable(),
  /** Codes, GTINs and the like that had lost their leading zeros and were given them back, with an example. */
  zeros: z.object({ values: z.number(), from: z.string(), to: z.string() }).nullable(),
});
export type Import = z.infer<typeof importSchema>;

/** The file itself is the body of `POST /api/imports`, its name in the header `x-file-name`, percent-encoded. */
export const getImport = call('GET', '/api/imports/:id', { params: idParams, answer: importSchema });
/** The row that holds the headings; 0 when the first row is goods. */
export const chooseHeadings = call('PATCH', '/api/imports/:id', {
  params: idParams,
  body: z.object({ headingRow: z.number().int().min(0).max(200) }),
  answer: importSchema,
});
export const readImport = call('POST', '/api/imports/:id/read', {
  params: idParams,
  body: importSettingsSchema,
  answer: z.object({ work: workSchema }),
});
export const importRowSchema = z.object({
  row: z.number(),
  outcome: z.enum(['new', 'changed', 'same', 'refused']),
  code: z.string(),
  reasons: z.array(z.string()),
  cells: z.array(z.string()),
});
export const getImportRows = call('GET', '/api/imports/:id/rows', {
  params: idParams,
  query: windowQuery.extend({ outcome: importRowSchema.shape.outcome.optional() }),
  answer: z.object({ total: z.number(), rows: z.array(importRowSchema) }),
});

export const getWork = call('GET', '/api/works/:id', { params: idParams, answer: workSchema });
export const listWork = call('GET', '/api/works', { answer: z.object({ work: z.array(workSchema) }) });
export const stopWork = call('POST', '/api/works/:id/stop', { params: idParams, answer: workSchema });

export const deliverySchema = z.object({
  id: idSchema,
  at: z.string(),
  items: z.number(),
  bytes: z.number(),
  hash: z.string(),
  handedOver: z.boolean(),
  state: z.string(),
  note: z.string().nullable(),
  accepted: z.number(),
  warned: z.number(),
  refused: z.number(),
});
export type Delivery = z.infer<typeof deliverySchema>;
/** A formula that outlets can have. */
const outletFormulaSchema = z.object({
  id: idSchema,
  name: z.string(),
  formula: z.string(),
  basedOn: z.enum(FORMULA_BASES),
  /** Days since 1970 between which it holds; null where it is open. */
  from: z.number().nullable(),
  until: z.number().nullable(),
});
export type OutletFormula = z.infer<typeof outletFormulaSchema>;
export const outletSchema = z.object({
  id: idSchema,
  name: z.string(),
  settings: keptSettingsSchema,
  fields: z.array(
    z.object({ key: z.enum(FEED_FIELD_KEYS), need: z.enum(['required', 'advised']), longest: z.number().nullable() }),
  ),
  offered: z.object({ question: z.string(), skus: z.number() }),
  ready: z.object({ question: z.string(), skus: z.number() }),
  refusals: z.array(z.object({ reason: z.string(), field: z.string(), question: z.string(), skus: z.number() })),
  replies: z.array(z.object({ state: z.string(), question: z.string(), skus: z.number() })),
  deliveries: z.array(deliverySchema),
  /** How it comes to its prices: the formula that it has, as it is read, and the one that the proof in hand gives it. */
  formula: outletFormulaSchema.nullable(),
  proposed: z.object({ name: z.string().nullable() }).nullable(),
  /** SKUs that have a price or formula of their own on it. */
  own: z.object({ question: z.string(), skus: z.number() }),
});
export type Outlet = z.infer<typeof outletSchema>;
export const getOutlets = call('GET', '/api/outlets', {
  answer: z.object({ outlets: z.array(outletSchema), formulas: z.array(outletFormulaSchema) }),
});
export const setOutlet = call('PATCH', '/api/outlets/:id', {
  params: idParams,
  body: outletSettingsSchema,
  answer: done,
});
/**
 * What the file of an outlet says of an SKU at the moment that is looked at: field by field, by its name in schema.org and as the outlet calls it;
 * or why the file does not have it.
 */
export const tellOutlet = call('GET', '/api/outlets/:id/told', {
  params: idParams,
  query: z.object({ sku: idSchema }),
  answer: z.object({
    fields: z.array(z.object({ field: z.enum(FEED_FIELD_KEYS), name: z.string(), value: z.string() })),
    without: z.array(z.string()),
  }),
});

/** Writes the feed file; hands it to the outlet when told to. */
export const deliver = call('POST', '/api/outlets/:id/deliveries', {
  params: idParams,
  body: z.object({ handOver: z.boolean() }),
  answer: z.object({ work: workSchema }),
});

/**
 * The SKUs of a question as a CSV file: their codes and the columns that are named, in their order and in the order of the sheet. An
 * import of the file changes nothing, and of a file that was changed only what was changed.
 */
export const takeOut = call('GET', '/api/take-out.csv', {
  query: z.object({
    question: questionText.default(''),
    columns: z
      .string()
      .max(4_000)
      .transform((text) => text.split(',').filter(Boolean) as FieldKey[]),
    /** The order, as JSON; by name where nothing is said. */
    sort: z
      .string()
      .max(1_000)
      .default('{"field":"name","down":false}')
      .transform((text, context): unknown => {
        try {
          return JSON.parse(text);
        } catch {
          context.addIssue({ code: 'custom', message: 'The order does not read.' });
          return z.NEVER;
        }
      })
      .pipe(sortSchema),
    /** By product: a line for each, by the code of the first of its SKUs that answer, with what is the product's own. */
    of: rowsOfSchema.default('SKUs'),
    separator: z.enum(['comma', 'semicolon', 'tab']).default('comma'),
    decimalSign: z.enum(['.', ',']).default('.'),
    encoding: z.enum(['utf-8', 'utf-16le']).default('utf-8'),
    /** Codes, GTINs and other texts of digits: as they are, or so that a spreadsheet keeps them as text. */
    digits: z.enum(['plain', 'text']).default('plain'),
  }),
  answer: z.never(),
});
