import {
  FAILURES,
  FIELD_KEY_SHAPE,
  type FieldKey,
  GUARD_DOES,
  GUARD_KEYS,
  KIND_KEYS,
  WARNING_KEYS,
  MOST_TABLE_ROWS,
  OWN_TYPES,
  type LineField,
  REPLIES,
  VERBS,
} from '@ivory/core';
import * as z from 'zod';

/** The answer of what has nothing to tell. */
export const done = z.object({});
export const idSchema = z.string().regex(/^\d{1,18}$/);
export const idParams = z.object({ id: idSchema });
/** The key of a field: of a shape that keys have; whether the shop has such a field, its register knows. */
export const fieldKeySchema = z.string().regex(FIELD_KEY_SHAPE) as unknown as z.ZodType<FieldKey, FieldKey>;
/** What a line is about: a field, or `exists` for the thing itself. */
export const lineFieldSchema = fieldKeySchema as z.ZodType<LineField, LineField>;
export const kindSchema = z.enum(KIND_KEYS);
export const warningKeySchema = z.enum(WARNING_KEYS);
/** Canonical text, see `FieldValue` in core. */
export const valueSchema = z.string().nullable();
/** No shop has so many rows; further on, the place of a row is no number that the database counts with. */
const FURTHEST_ROW = 100_000_000;
export const windowQuery = z.object({
  from: z.coerce.number().int().min(0).max(FURTHEST_ROW).default(0),
  count: z.coerce.number().int().min(1).max(500).default(200),
});

const slotsSchema = z.record(z.string().max(30), z.string().max(20_000));
const stepSchema = z.object({
  do: z.enum(VERBS),
  field: fieldKeySchema,
  slots: slotsSchema,
  /** A question as it is kept. */
  where: z.string().max(20_000).exactOptional(),
  /** Of a step on a product: every SKU at hand must answer it, and not just any. */
  whereEvery: z.literal(true).exactOptional(),
  table: z
    .object({
      slot: z.string().max(30),
      by: fieldKeySchema,
      rows: z
        .array(z.tuple([z.string().max(2_000), z.string().max(2_000)]).readonly())
        .max(MOST_TABLE_ROWS)
        .readonly(),
      bands: z.boolean(),
    })
    .exactOptional(),
});
const guardSchema = z.object({
  guard: z.enum(GUARD_KEYS),
  field: fieldKeySchema,
  slots: slotsSchema,
  does: z.enum(GUARD_DOES),
});
/** A rule: what is done, and within which guards. What its slots say stands in canonical text. */
export const ruleSchema = z.object({
  steps: z.array(stepSchema).max(20).readonly(),
  guards: z.array(guardSchema).max(20).readonly(),
});

const sortedBy = z.object({ field: fieldKeySchema, down: z.boolean() });
/** By which field rows are sorted, and by which others those that are alike in it. */
export const sortSchema = sortedBy.extend({ then: z.array(sortedBy).max(4).readonly().optional() });
export type Sort = z.infer<typeof sortSchema>;

export const questionText = z
  .string()
  .refine((text) => text.length <= 4_000, 'A question has at most 4,000 characters.');
/** What the rows of an answer are of. By product, one whose SKUs answer as one has a row of its own. */
export const rowsOfSchema = z.enum(['SKUs', 'products']);
export type RowsOf = z.infer<typeof rowsOfSchema>;
/** The fields that rows are to have; all that are not too long for a row where none are named. Those that the shop does not have do not come. */
const columnsAsked = z.array(fieldKeySchema).max(200);
export const askSchema = z.object({
  question: questionText,
  sort: sortSchema.default({ field: 'name', down: false }),
  of: rowsOfSchema.default('SKUs'),
  columns: columnsAsked.optional(),
});
/** A window of rows, with the fields that they are to have, divided by commas. */
export const rowsQuery = windowQuery.extend({
  columns: z
    .string()
    .max(8_000)
    .transform((keys) => keys.split(',').filter(Boolean) as FieldKey[])
    .pipe(columnsAsked)
    .optional(),
});

/** A row of the sheet: SKU id, product id, key of its picture, then the values of the `columns` that came with it. */
export const sheetRowSchema = z.array(valueSchema);
export type SheetRow = z.infer<typeof sheetRowSchema>;

/** A value that the proof in hand changes on rows that were asked for. */
export const pendingSchema = z.object({
  kind: kindSchema,
  id: idSchema,
  field: fieldKeySchema,
  after: valueSchema,
  /** The value as people read it, where it names something that only the proof makes. */
  called: z.string().nullable(),
  warnings: z.array(warningKeySchema),
  /** Of an SKU, where the rows are of products: whose it is. */
  product: idSchema.optional(),
});
export type Pending = z.infer<typeof pendingSchema>;

/** What the SKUs behind the row of a product differ in: how many have a value, and how many different ones there are; of numbers, 2 says that there are several. */
const differingSchema = z.object({
  field: fieldKeySchema,
  filled: z.number(),
  different: z.number(),
  /** Of numbers the lowest and the highest; of others the first dozen. */
  values: z.array(z.string()),
});
export type Differing = z.infer<typeof differingSchema>;

/** A row that stands for several SKUs of a product: its place among the rows, how many of its SKUs answer, and of how many. */
const severalSchema = z.object({
  row: z.number(),
  here: z.number(),
  all: z.number(),
  differing: z.array(differingSchema),
});
export type Several = z.infer<typeof severalSchema>;

export const rowsSchema = z.object({
  /** The fields of the rows, in the order of their values. */
  columns: z.array(fieldKeySchema),
  rows: z.array(sheetRowSchema),
  pending: z.array(pendingSchema),
  /** Of rows by product: those that stand for several SKUs. Their values are what those agree in, and empty where they do not. */
  several: z.array(severalSchema).default([]),
});
export type Rows = z.infer<typeof rowsSchema>;

export const countsSchema = z.object({
  products: z.number(),
  skus: z.number(),
  /** Stock at cost, in minor units. */
  stockAtCost: z.string(),
});
export type Counts = z.infer<typeof countsSchema>;

export const answerSchema = z.object({
  /** The question in its plainest written form. */
  question: z.string(),
  /** Its conditions one by one, as the question line shows them. */
  conditions: z.array(z.string()),
  /** Ranges that were written backwards, as they were read. */
  turned: z.array(z.string()),
  counts: countsSchema,
  of: rowsOfSchema,
  ...rowsSchema.shape,
  /** The version of the register that it was answered with; another than one has means that one is behind. */
  register: z.string(),
});
export type Answer = z.infer<typeof answerSchema>;

/** A question near to one that nothing answers, the condition that makes the difference, and how many SKUs answer it. */
export const nearQuestionSchema = z.object({ condition: z.string(), question: z.string(), skus: z.number() });
export type NearQuestion = z.infer<typeof nearQuestionSchema>;

export const spineSchema = z.object({
  /** Distinct products in each category and below, under the question. */
  categories: z.record(idSchema, z.number()),
  /** Distinct products in each assortment, under the question. */
  assortments: z.record(idSchema, z.number()),
  /** SKUs with each gap, under the question. */
  gaps: z.array(z.object({ gap: z.string(), name: z.string(), skus: z.number() })),
  /** Sets that are kept, with the SKUs of each whatever the question; one that does not read any more has no question. */
  sets: z.array(
    z.object({ id: idSchema, name: z.string(), note: z.string(), question: z.string().nullable(), skus: z.number() }),
  ),
});
export type SpineCounts = z.infer<typeof spineSchema>;

/** Where a proof comes from: edits and rules in hand, one that was set aside under a name, an import, a landing that is taken back, … */
export const PROOF_KINDS = ['hand', 'aside', 'planned', 'import', 'take back', 'following', 'order'] as const;

const barSchema = z.object({ before: z.number(), after: z.number() });
/** SKUs by price and by margin before and after a change, in the bars of core's `PRICE_EDGES` and `MARGIN_EDGES`. */
export const spreadSchema = z.object({ prices: z.array(barSchema), margins: z.array(barSchema) });
export type Spread = z.infer<typeof spreadSchema>;

const tallySchema = z.object({ changes: z.number(), stays: z.number(), stopped: z.number(), failed: z.number() });
/** A thing with what a rule does to it; values as people read them. */
const ruleSampleSchema = z.object({
  kind: z.enum(['product', 'sku']),
  id: idSchema,
  code: z.string(),
  name: z.string(),
  outcome: z.enum(['changes', 'stays', 'stopped', 'failed']),
  values: z.array(z.object({ field: fieldKeySchema, before: z.string(), after: z.string() })),
  /** In basis points; null without a cost, and of rules that change no prices. */
  marginBefore: z.number().nullable(),
  marginAfter: z.number().nullable(),
  /** It goes the other way than the rule says. */
  contrary: z.boolean(),
  /** The place of the guard that stops it, and whether because it cannot know. */
  stoppedBy: z.number().nullable(),
  isUnknown: z.boolean(),
  failed: z.enum(FAILURES).nullable(),
});
/** What a rule makes of rows that the proof in hand changes already: it begins from what is proposed, takes its place, or leaves them alone. */
export const onHandSchema = z.enum(['on top', 'instead', 'without']);
export type OnHand = z.infer<typeof onHandSchema>;

export const effectSchema = z.object({
  /** SKUs of the set. */
  skus: z.number(),
  /** Products and SKUs that the proof in hand changes already in a field that the rule changes. */
  inHand: z.number(),
  /** How many products and SKUs have each outcome; of what the rule does not change none are counted. */
  product: tallySchema,
  sku: tallySchema,
  /**
   * By the guards of the rule: stopped, stopped as something is not known, taken to the limit, told of; and raised, but below the floor
   * all the same.
   */
  guards: z.array(
    z.object({
      stopped: z.number(),
      unknown: z.number(),
      trimmed: z.number(),
      told: z.number(),
      below: z.number(),
    }),
  ),
  /**
   * Rows of the tables of steps, by the places of these, that met nothing in the set: how many, of these the ones whose value no goods
   * of the shop have, and the first of both by their places in the table.
   */
  unmet: z.array(
    z.object({
      step: z.number(),
      rows: z.number(),
      inNoGoods: z.number(),
      first: z.array(z.object({ row: z.number(), isInGoods: z.boolean() })),
    }),
  ),
  failures: z.record(z.enum(FAILURES), z.number()),
  /** Of those that change. */
  contrary: z.number(),
  /** Of rules that change prices or costs, and without steps. */
  spread: spreadSchema.extend({ marginBefore: z.number().nullable(), marginAfter: z.number().nullable() }).nullable(),
  fields: z.array(
    z.object({
      field: fieldKeySchema,
      of: z.enum(['sizes', 'lengths', 'values']),
      bars: z.array(z.object({ bar: z.string(), called: z.string(), before: z.number(), after: z.number() })),
    }),
  ),
  samples: z.array(ruleSampleSchema),
});
export type Effect = z.infer<typeof effectSchema>;

export const proofSummarySchema = z.object({
  id: idSchema,
  title: z.string(),
  kind: z.enum(PROOF_KINDS),
  /** What was noted of one that was set aside. */
  note: z.string(),
  state: z.enum(['gathering', 'open', 'landing', 'landed', 'discarded']),
  at: z.string(),
  lines: z.number(),
  /** SKUs of the shop that its lines touch; those that it makes; products whose own values it touches. */
  skus: z.number(),
  newSkus: z.number(),
  products: z.number(),
  leftOut: z.number(),
  marginBefore: z.number().nullable(),
  marginAfter: z.number().nullable(),
  /** `agreed`: of what stops until a person agrees, how many of these lines were agreed to. */
  warnings: z.array(
    z.object({ warning: warningKeySchema, stops: z.boolean(), lines: z.number(), agreed: z.number().optional() }),
  ),
  fields: z.array(z.object({ kind: kindSchema, field: lineFieldSchema, called: z.string(), lines: z.number() })),
  /** Edits of the same title are one source. */
  sources: z.array(z.object({ title: z.string(), lines: z.number() })),
  /** Things that it makes, or gives another name: choosers offer them, and what refers to them is shown by them. At most 2,000. */
  makes: z.array(
    z.object({
      kind: kindSchema,
      id: idSchema,
      name: z.string(),
      of: z.string().nullable(),
      type: z.enum(OWN_TYPES.map(({ key }) => key)).nullable(),
      unit: z.string().nullable(),
    }),
  ),
  /** The import it came from. */
  importId: idSchema.nullable(),
});
export type ProofSummary = z.infer<typeof proofSummarySchema>;

/** A line as shown: values as text for reading. */
export const shownLineSchema = z.object({
  kind: kindSchema,
  id: idSchema,
  field: lineFieldSchema,
  /** What the field is called. */
  called: z.string(),
  code: z.string().nullable(),
  name: z.string(),
  before: z.string().nullable(),
  after: z.string().nullable(),
  /** Of a price in a sale: what it comes to, and the lowest price of the thirty days before. */
  inSale: z.object({ price: z.string(), prior: z.string().nullable() }).optional(),
  /** The line takes the thing itself away. */
  goes: z.boolean(),
  /** The proof makes the thing or takes it away: all its lines are left out together. */
  together: z.boolean(),
  warnings: z.array(warningKeySchema),
  leftOut: z.boolean(),
});
export type ShownLine = z.infer<typeof shownLineSchema>;

export const lineFilterSchema = z.object({
  warning: warningKeySchema.optional(),
  kind: kindSchema.optional(),
  field: lineFieldSchema.optional(),
  source: z.string().max(1_000).optional(),
  /** Lines of what shoppers can see. */
  shoppers: z.literal('true').optional(),
  /** Lines of goods that answer this question as the shop stands; of what is made, and of other things, those that are called so. */
  find: z.string().trim().max(4_000).optional(),
  leftOut: z
    .enum(['true', 'false'])
    .transform((text) => text === 'true')
    .optional(),
});

export const barPlaceSchema = z.object({ of: z.enum(['prices', 'margins']), bar: z.number().int().min(0).max(50) });
const guardPlace = z.number().int().min(0).max(20);
export const effectCountSchema = z.union([
  z.object({ of: z.enum(['changes', 'stays', 'stopped', 'failed', 'contrary']) }),
  z.object({ of: z.enum(['guard', 'unknown', 'trimmed', 'told', 'below floor']), place: guardPlace }),
  z.object({ of: z.literal('failure'), why: z.enum(FAILURES) }),
  z.object({ of: z.literal('value'), field: z.string().max(60), bar: z.string().max(20_000) }),
  barPlaceSchema,
]);
export const workSchema = z.object({
  id: idSchema,
  kind: z.enum(['import', 'land', 'take back', 'deliver', 'pictures']),
  title: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'failed', 'stopped']),
  done: z.number(),
  total: z.number().nullable(),
  note: z.string().nullable(),
  /** What it made: a proof, a landing, a delivery. */
  result: idSchema.nullable(),
});
export type Work = z.infer<typeof workSchema>;

export const landingSchema = z.object({
  id: idSchema,
  at: z.string(),
  person: z.string(),
  /** The name that a person gave it, or what it was proposed as. */
  title: z.string(),
  note: z.string(),
  kind: z.string(),
  lines: z.number(),
  skus: z.number(),
  takesBack: idSchema.nullable(),
  takenBackBy: idSchema.nullable(),
  /** Its lines that were not taken back. */
  leftToTakeBack: z.number(),
});
export type Landing = z.infer<typeof landingSchema>;

export const replySchema = z.object({
  outlet: z.string(),
  delivery: idSchema,
  at: z.string(),
  state: z.enum(REPLIES),
  messages: z.array(z.string()),
});

/** A product, as people tell it from others: by the code of its first SKU. */
export const productSchema = z.object({ id: idSchema, code: z.string(), name: z.string() });

/** A picture as pages show it: its key is that of its original. */
export const pictureSchema = z.object({
  id: idSchema,
  key: z.string(),
  name: z.string(),
  alternative: valueSchema,
  format: z.string(),
  width: z.number(),
  height: z.number(),
  bytes: z.number(),
});

/** Assortments that goods are in or kept out of, and when a landing put them in by hand. */
export const membershipSchema = z.array(
  z.object({
    id: idSchema,
    name: z.string(),
    why: z.enum(['by hand', 'by rule', 'kept out']),
    at: z.string().nullable(),
  }),
);

/** The name of a field of a kind, where it stands as a key. */
export const fieldNameSchema = z.string().max(40);

/** What there is in the proof in hand after a change to it. */
export const summaryOrNothing = z.object({ proof: proofSummarySchema.nullable() });
