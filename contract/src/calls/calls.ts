import { OWN_TYPES, WHEN_OUT } from '@ivory/core';
import * as z from 'zod';
import { listOfSchema } from '../listOf.ts';
import { call } from './call.ts';
import { placeSchema } from '../problemDetails.ts';
import {
  answerSchema,
  askSchema,
  effectSchema,
  fieldKeySchema,
  fieldNameSchema,
  idParams,
  idSchema,
  kindSchema,
  lineFieldSchema,
  onHandSchema,
  membershipSchema,
  nearQuestionSchema,
  pictureSchema,
  ruleSchema,
  productSchema,
  proofSummarySchema,
  questionText,
  replySchema,
  rowsQuery,
  rowsSchema,
  sheetRowSchema,
  spineSchema,
  summaryOrNothing,
  valueSchema,
} from '../schemas.ts';

const namedThing = z.object({ id: idSchema, name: z.string() });

/** An option or attribute of the shop. */
const ownFieldSchema = z.object({
  id: idSchema,
  kind: z.enum(['option', 'attribute']),
  name: z.string(),
  type: z.enum(OWN_TYPES.map(({ key }) => key)),
  unit: z.string().nullable(),
  slot: z.string().nullable(),
  alsoCalled: z.string().nullable(),
  usedIn: z.array(idSchema),
  neededIn: z.array(idSchema),
  shopperSees: z.boolean(),
  feed: z.string().nullable(),
});

/** The shop, its settings and the names behind references. */
export const getShop = call('GET', '/api/shop', {
  answer: z.object({
    name: z.string(),
    currency: z.string(),
    timeZone: z.string(),
    person: z.string(),
    floorMargin: z.number(),
    largeChange: z.number(),
    storefront: z.string(),
    /** Of its register: another after whatever changes a name or a field. */
    version: z.string(),
    fields: z.array(ownFieldSchema),
    outlets: z.array(namedThing),
    /** What it wants of goods besides what every shop does; see core's `GapNeeds`. */
    gapNeeds: z.object({ measuredIn: z.array(idSchema), shipped: z.boolean() }),
    /** What new products do when they are out of stock. */
    outDefault: z.enum(WHEN_OUT),
    /** What the levels of stock places are called, from the outermost in. */
    placeLevels: z.array(z.string()),
    /** Names by what they belong to: `brand`, `tag`, `choice 7`; in the order of the shop. */
    lists: z.record(z.string(), z.array(namedThing.extend({ alsoCalled: z.array(z.string()).optional() }))),
    categories: z.array(
      z.object({
        id: idSchema,
        parent: idSchema.nullable(),
        name: z.string(),
        place: z.number(),
        inMenu: z.boolean().optional(),
        alsoCalled: z.array(z.string()).optional(),
      }),
    ),
    /** The rules of assortments, as they are kept; and assortments that nothing in the shop leads to. */
    rules: z.array(z.object({ id: idSchema, rule: z.string() })),
    unplaced: z.array(idSchema),
  }),
});

/** Counts of the whole set and its first rows. */
export const answerQuestion = call('POST', '/api/answers', { body: askSchema, answer: answerSchema });

/**
 * When nothing answers a question: how many SKUs there would be without each of its conditions in turn, and with its plain
 * words read another way.
 */
export const nearQuestions = call('POST', '/api/answers/near', {
  body: z.object({ question: questionText }),
  answer: z.object({ without: z.array(nearQuestionSchema), read: z.array(nearQuestionSchema) }),
});

/**
 * A snapshot of the ids that answer a question, so that any place in it can be read at once: of the SKUs, or of their products, each
 * at the place of its first.
 */
export const makeSet = call('POST', '/api/sets', {
  body: askSchema.omit({ columns: true }),
  answer: z.object({ id: idSchema, total: z.number() }),
});
export const readSet = call('GET', '/api/sets/:id/rows', { params: idParams, query: rowsQuery, answer: rowsSchema });

/** The SKUs of a product that answer a question, in the order of their options. */
export const listVariants = call('POST', '/api/answers/variants', {
  body: askSchema.pick({ question: true, columns: true }).extend({ product: idSchema }),
  answer: rowsSchema,
});

/** How many SKUs have each value of a field that has named values, under a question; the most frequent first. */
export const countValues = call('POST', '/api/answers/values', {
  body: z.object({ question: questionText, field: fieldKeySchema }),
  answer: z.object({ values: z.array(z.object({ value: z.string(), name: z.string(), skus: z.number() })) }),
});

/** Counts beside categories and gaps under a question. */
export const countSpine = call('POST', '/api/spine', {
  body: z.object({ question: questionText }),
  answer: spineSchema,
});

/** What landed on a thing, the latest first. */
const historySchema = z.array(
  z.object({
    landing: idSchema,
    at: z.string(),
    title: z.string(),
    field: lineFieldSchema,
    called: z.string(),
    before: z.string().nullable(),
    after: z.string().nullable(),
  }),
);

/** One SKU in detail. */
export const getSku = call('GET', '/api/skus/:id', {
  params: idParams,
  answer: z.object({
    columns: rowsSchema.shape.columns,
    row: sheetRowSchema,
    description: z.string(),
    variants: z.number(),
    pending: rowsSchema.shape.pending,
    /** `from` is the day from which it is bought, where it is not bought yet. */
    availability: z.object({ state: z.string(), why: z.string().nullable(), from: z.number().nullable() }),
    /** The moment lies before anything was on record of what was charged: nothing is known of prices then. */
    beforeRecord: z.boolean(),
    candidates: z.array(
      z.object({
        price: z.string(),
        source: z.enum(['regular', 'sale']),
        name: z.string().nullable(),
        start: z.string().nullable(),
        end: z.string().nullable(),
        above: z.boolean(),
        group: z.string().nullable(),
        /** Of how many pieces on it holds; null from the first. */
        least: z.number().nullable(),
        why: z.string(),
        wins: z.boolean(),
      }),
    ),
    /** The lowest price of the thirty days before the reduction that holds, with when that began; null where there is none. */
    prior: z.object({ price: z.string(), began: z.string(), since: z.string() }).nullable(),
    /** What a usual quantity of it costs, where it is sold by measure. */
    unitPrice: z.object({ price: z.string(), per: z.string() }).nullable(),
    /** What was charged in the year until the moment, in steps; a step without a price is a time that is not on record. */
    charged: z.array(z.object({ at: z.string(), price: valueSchema, name: valueSchema })),
    /** What each outlet asks, by which formula and from which price; without a formula as in the shop, without a price nothing. */
    onOutlets: z.array(
      z.object({
        outlet: z.string(),
        price: valueSchema,
        formula: z.string().nullable(),
        basedOn: z.string().nullable(),
        /** The formula is the SKU's own. */
        isOwn: z.boolean(),
      }),
    ),
    replies: z.array(replySchema),
    /** The assortments that it is in, and by what; when it was put in by hand, if a landing did that. */
    assortments: membershipSchema,
    /** What goes well with its product, in order. */
    goesWith: z.array(productSchema),
    /** What the proof in hand puts there; and what else might: products of its brand and category. */
    proposedWith: z.array(productSchema),
    suggested: z.array(productSchema),
    /** Of a set: what it is put together of, each with how many of it there are in the shop. */
    parts: z.array(productSchema.extend({ times: z.number(), stock: z.number(), isOff: z.boolean() })),
    /** The sets that it is a part of. */
    partOf: z.array(productSchema),
    history: historySchema,
    shopAddress: z.string(),
  }),
});

/** What one number of a thing was over time, the oldest value first; empty where it never changed. */
export const getValueHistory = call('GET', '/api/history/:kind/:id/:field', {
  params: z.object({ kind: kindSchema, id: idSchema, field: fieldKeySchema }),
  answer: z.object({
    points: z.array(z.object({ at: z.string().nullable(), value: valueSchema, shown: z.string() })),
  }),
});

/** The products before and behind one in a snapshot of products, and its place among them. */
export const getBeside = call('GET', '/api/sets/:id/beside/:product', {
  params: z.object({ id: idSchema, product: idSchema }),
  answer: z.object({
    previous: idSchema.nullable(),
    next: idSchema.nullable(),
    place: z.number(),
    total: z.number(),
  }),
});

/** What a rule does to the whole set, nothing stored. Without steps it is simply what the set looks like. */
export const previewRule = call('POST', '/api/rules/preview', {
  body: z.object({ question: questionText, rule: ruleSchema, onHand: onHandSchema.default('on top') }),
  answer: effectSchema,
});

/** Opens a number as a list of exactly the SKUs that it counts, and gives the question that asks for them. */
export const openList = call('POST', '/api/lists', {
  body: z.object({ title: z.string().trim().min(1).max(120), of: listOfSchema }),
  /** `notFound`: of a column of codes, those that no SKU has. */
  answer: z.object({ question: z.string(), skus: z.number(), notFound: z.array(z.string()) }),
});

const setField = { field: fieldKeySchema };
const setText = z.string().trim().min(1).max(4_000);
/** The verbs for fields that hold several things: one does not do what another does. */
const setStepSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('add to'), ...setField, values: setText }),
  z.object({ do: z.literal('take from'), ...setField, values: setText }),
  /** `below`: also from what lies below the categories that it moves from. */
  z.object({ do: z.literal('move'), ...setField, from: setText, values: setText, below: z.boolean().optional() }),
  z.object({ do: z.literal('replace all'), ...setField, values: setText }),
]);
export type SetStep = z.infer<typeof setStepSchema>;

/** The proof in hand: what cells and rules have gathered. */
export const getHandProof = call('GET', '/api/hand', { answer: summaryOrNothing });
/** What the proof in hand makes of the things of a kind, line by line. */
export const getHandLines = call('GET', '/api/hand/lines/:kind', {
  params: z.object({ kind: kindSchema }),
  answer: z.object({ lines: z.array(z.object({ id: idSchema, field: lineFieldSchema, after: valueSchema })) }),
});
export const editCells = call('POST', '/api/hand/edits', {
  body: z.object({
    title: z.string().max(200),
    /** Brands, suppliers, tags and the like that a cell names and the shop does not have are made with it. Values of options always are. */
    make: z.boolean().default(false),
    /** Which SKUs of a product an edit is of, where it gives a product a value that its SKUs have: those that answer. */
    question: questionText.default(''),
    /** Takes what fits in, and tells what does not; otherwise nothing is taken in where one cell cannot be. */
    partly: z.boolean().default(false),
    edits: z
      // Longer than any field takes, so that the field itself says what is too long.
      .array(z.object({ kind: kindSchema, id: idSchema, field: fieldKeySchema, text: z.string().max(100_000) }))
      .min(1)
      .max(20_000),
  }),
  answer: z.object({
    proof: proofSummarySchema.nullable(),
    pending: rowsSchema.shape.pending,
    /** Cells that were not taken in, each with what is wrong with it. */
    refused: z.array(z.object({ kind: kindSchema, id: idSchema, field: fieldKeySchema, place: placeSchema })),
  }),
});
/** Does something to a set of goods at once: adds to a set field, takes from it, moves from one value to another, replaces all. */
export const putStep = call('POST', '/api/hand/steps', {
  body: z.object({
    /** For all that answer it, or for `products` alone. */
    question: questionText,
    products: z.array(idSchema).min(1).max(5_000).optional(),
    step: setStepSchema,
    /** Without it, it is only counted. */
    propose: z.boolean().default(true),
  }),
  /** How many products would change, how many are so already, and how many get another main category. */
  answer: summaryOrNothing.extend({ changes: z.number(), already: z.number(), otherMain: z.number() }),
});

const thingSchema = z.object({
  id: idSchema,
  values: z.array(valueSchema),
  /** How many goods have it, and the question that opens them; null where no goods can. */
  used: z.object({ products: z.number(), question: z.string() }).nullable(),
  /** How many other things of the shop name it, by their kinds: sales for a customer group, rules of assortments, outlets. */
  usedBy: z.array(z.object({ kind: kindSchema, things: z.number() })),
  /** The proof in hand makes it, or takes it away. */
  made: z.boolean(),
  goes: z.boolean(),
});

/** What there is of each kind that stands on the page of lists. */
export const countThings = call('GET', '/api/things', {
  answer: z.object({ kinds: z.array(z.object({ kind: kindSchema, things: z.number() })) }),
});
/** Things of a kind, in the order of the shop: those that are there, and those that the proof in hand makes. */
export const listThings = call('GET', '/api/things/:kind', {
  params: z.object({ kind: kindSchema }),
  /** Of values: those of one option or attribute. */
  query: z.object({ of: idSchema.optional() }),
  answer: z.object({
    columns: z.array(fieldKeySchema),
    things: z.array(thingSchema),
    pending: rowsSchema.shape.pending,
  }),
});
/** One thing with all its fields, as its folio shows it. */
export const getThing = call('GET', '/api/things/:kind/:id', {
  params: z.object({ kind: kindSchema, id: idSchema }),
  answer: z.object({
    columns: z.array(fieldKeySchema),
    thing: thingSchema,
    pending: rowsSchema.shape.pending,
    history: historySchema,
    /** The products that its values hold, and the pictures. */
    products: z.array(productSchema),
    pictures: z.array(pictureSchema),
  }),
});
/**
 * Proposes that things of a kind which has an order stand elsewhere: in `into` (of a tree; null is the top), before the thing
 * `before` or behind all. Without `propose` it is only counted.
 */
export const moveThings = call('POST', '/api/hand/things/move', {
  body: z.object({
    kind: kindSchema,
    ids: z.array(idSchema).min(1).max(1_000),
    into: idSchema.nullable().default(null),
    before: idSchema.nullable().default(null),
    propose: z.boolean().default(true),
  }),
  /** How many things lie below those that move, and how many products get another path with them. */
  answer: summaryOrNothing.extend({ below: z.number(), products: z.number() }),
});
/**
 * Proposes that an attribute is of another type: another attribute of its name takes its place, with the values that can be read so.
 * Without `propose` it is only said which cannot.
 */
export const changeType = call('POST', '/api/hand/things/type', {
  body: z.object({
    id: idSchema,
    type: z.enum(OWN_TYPES.map(({ key }) => key)),
    unit: z.string().max(20).default(''),
    propose: z.boolean().default(true),
  }),
  /** How many products keep their value and how many lose it, and the most frequent values that would be lost. */
  answer: summaryOrNothing.extend({
    fits: z.number(),
    lost: z.number(),
    unfit: z.array(z.object({ value: z.string(), products: z.number(), why: z.string() })),
  }),
});
/** Proposes new things of a kind: texts by field. `of` is the option or attribute that a value is of. */
export const makeThings = call('POST', '/api/hand/things', {
  body: z.object({
    kind: kindSchema,
    of: idSchema.nullable().default(null),
    things: z
      .array(z.record(fieldNameSchema, z.string().max(10_000)))
      .min(1)
      .max(1_000),
  }),
  answer: summaryOrNothing.extend({ ids: z.array(idSchema) }),
});
/**
 * Proposes the categories of paths, as `Ink > Bottled`, below `into` or from the top: each step that the shop does not have. Refuses all where
 * one is no path, and where nothing is missing.
 */
export const makePaths = call('POST', '/api/hand/categories', {
  body: z.object({
    paths: z.array(z.string().min(1).max(3_000)).min(1).max(2_000),
    into: idSchema.nullable().default(null),
  }),
  answer: summaryOrNothing.extend({ made: z.number(), there: z.number() }),
});
/** Proposes to delete things; what refers to one of them refers to `into` from then on, or to nothing. */
export const removeThings = call('POST', '/api/hand/things/remove', {
  body: z.object({ kind: kindSchema, ids: z.array(idSchema).min(1).max(1_000), into: idSchema.nullable() }),
  answer: summaryOrNothing,
});

/** Takes the last edit out of the proof in hand. */
export const undoEdit = call('POST', '/api/hand/undo', { answer: summaryOrNothing });
/** Takes the edit in again that was taken out last, unless something was proposed since. */
export const redoEdit = call('POST', '/api/hand/redo', { answer: summaryOrNothing });
/** Puts what a rule changes into the proof in hand; `kept` is the rule that it is kept as, whose run is noted. */
/**
 * Proposes what a product costs for each piece of those who take several, for all of its SKUs: a row for each number of pieces from which a
 * price holds, in place of all that there were. Sales for these numbers are made where the shop has none.
 */
export const setQuantityPrices = call('POST', '/api/hand/quantity-prices', {
  body: z.object({
    product: idSchema,
    rows: z.array(z.object({ from: z.string().max(20), price: z.string().max(40) })).max(20),
  }),
  answer: summaryOrNothing,
});
export const putRule = call('POST', '/api/hand/rule', {
  body: z.object({
    question: questionText,
    title: z.string().max(1_000),
    rule: ruleSchema,
    kept: idSchema.optional(),
    onHand: onHandSchema.default('on top'),
  }),
  answer: summaryOrNothing,
});

export * from './proofCalls.ts';
export * from './exchangeCalls.ts';
export * from './goodsCalls.ts';
export * from './calendarCalls.ts';
export * from './outletPriceCalls.ts';
export * from './shippingCalls.ts';
export * from './journalCalls.ts';
export * from './plannedCalls.ts';
export * from './keptCalls.ts';
export * from './shopCalls.ts';
