import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { answers } from '../question/evaluate.ts';
import { keptQuestion } from '../question/kept.ts';
import { type Row } from '../question/row.ts';
import { type FieldValue } from '../values/valueType.ts';
import { isAmountWork, onAmount } from './parts/amounts.ts';
import { type Beside, type Watch } from './guard.ts';
import { GUARDS } from './guards/index.ts';
import { changedBy, fieldsOfRule, type Rule } from './rule.ts';
import { Failed, type Failure, type Step, type StepTable, type Work } from './step.ts';
import { STEPS } from './steps/index.ts';
import { lookUp } from './table.ts';

/** A row that a rule is run on; what its steps change is written into it. */
export type WorkingRow = { -readonly [Key in keyof Row]: Row[Key] };

/** A field that a rule changes, with what guards tell of it, by their places. */
export interface FieldChange {
  readonly field: Field;
  readonly before: FieldValue;
  readonly after: FieldValue;
  readonly told: readonly number[];
}

/** What a rule does to one thing, a product or an SKU. `trimmed`: the guards that took a value to their limit, by their places. */
export type Outcome =
  | { readonly kind: 'changes'; readonly changes: readonly FieldChange[]; readonly trimmed: readonly number[] }
  | { readonly kind: 'stays'; readonly trimmed: readonly number[] }
  /** A guard, by its place, does not let it pass; `isUnknown`, as something that it must know is empty. */
  | {
      readonly kind: 'stopped';
      readonly by: number;
      readonly isUnknown: boolean;
      readonly field: Field;
      readonly before: FieldValue;
      readonly wouldBe: FieldValue;
    }
  | { readonly kind: 'failed'; readonly why: Failure; readonly field: Field; readonly before: FieldValue };

const NONE: readonly never[] = [];
const STAYS: Outcome = { kind: 'stays', trimmed: NONE };

interface ReadyStep {
  readonly field: Field;
  readonly isDone: ((row: Row) => boolean) | undefined;
  readonly forEvery: boolean;
  readonly work: Work;
  readonly lookedUp?: LookedUp;
}
/** A table by which a step looks values up, with what was found in it so far. */
interface LookedUp {
  readonly by: Field;
  readonly rows: StepTable['rows'];
  readonly met: Set<string>;
}
interface ReadyGuard {
  readonly place: number;
  readonly does: 'stop' | 'trim' | 'tell';
  readonly watch: Watch;
}

const NOTHING_BESIDE: Beside = { isTaken: () => false, follows: () => false };

/**
 * A rule made ready for many rows. Rules are run on the SKUs of one product at a time, since fields of products and of SKUs read one
 * another: of an SKU its product's values are there, of a product those in which the SKUs at hand agree.
 */
export class RunningRule {
  /** What rows must have. */
  readonly fields: readonly Field[];
  readonly changed: readonly Field[];
  readonly changesProducts: boolean;
  readonly changesSkus: boolean;
  /** Whether what it does to a product depends on its SKUs. */
  readonly readsSkus: boolean;
  private readonly tables: readonly (LookedUp | undefined)[];
  private readonly steps: readonly ReadyStep[];
  private readonly guards: ReadonlyMap<FieldKey, readonly ReadyGuard[]>;
  private readonly skuFields: readonly FieldKey[];

  constructor(
    rule: Rule,
    asking: Asking,
    private readonly beside: Beside = NOTHING_BESIDE,
  ) {
    this.fields = fieldsOfRule(rule, asking);
    const changed = changedBy(rule, asking);
    this.changed = changed;
    this.changesProducts = changed.some(({ kind }) => kind === 'product');
    // Without steps it is what the set looks like.
    this.changesSkus = changed.some(({ kind }) => kind === 'sku') || changed.length === 0;
    this.skuFields = this.fields.filter(({ kind }) => kind === 'sku').map(({ key }) => key);
    this.readsSkus = this.changesProducts && this.skuFields.length > 0;
    const steps = rule.steps.map((step) => readyStep(step, asking));
    this.tables = steps.map(({ lookedUp }) => lookedUp);
    this.steps = joined(steps);
    const guards = new Map<FieldKey, ReadyGuard[]>();
    for (const [place, { guard, field: key, slots, does }] of rule.guards.entries()) {
      const kind = GUARDS[guard];
      const ready = {
        place,
        does,
        watch: kind.prepare(asking.register.get(key), withFirst(kind, slots), asking, beside),
      };
      guards.set(key, [...(guards.get(key) ?? []), ready]);
    }
    this.guards = guards;
  }

  /** Runs it on the SKUs of a product, or on SKUs of any where it changes no products. Gives what it does to the product and to each SKU, of what it changes. */
  run(productId: string | undefined, skus: readonly { readonly id: string; readonly row: WorkingRow }[]): Ran {
    const things: Thing[] = this.changesSkus ? skus.map(({ id, row }) => ({ id, row })) : [];
    const whole: Thing | undefined =
      this.changesProducts && productId !== undefined
        ? { id: productId, row: this.productRow(skus.map(({ row }) => row)) }
        : undefined;
    for (const step of this.steps) {
      const { field, isDone } = step;
      if (field.kind === 'sku') {
        for (const thing of things) if (!isDone || isDone(thing.row)) this.doStep(step, thing);
        if (whole && this.readsSkus) this.agree(whole.row, things);
      } else if (whole && (!isDone || isDoneFor(step, skus))) {
        this.doStep(step, whole);
        for (const { row } of skus) row[field.key] = whole.row[field.key] ?? null;
      }
    }
    const product = whole && { id: whole.id, outcome: this.judge(whole), row: whole.row };
    return { product, skus: things.map((thing) => ({ outcome: this.judge(thing), row: thing.row })) };
  }

  /** The rows of tables that no thing has met so far, by the places of their steps. Bands are left out, for each of them is a span. */
  unmet(): readonly UnmetRows[] {
    return this.tables.flatMap((table, step) => {
      const rows = table?.rows.flatMap(([value], row) => (table.met.has(value) ? [] : [{ row, value }])) ?? [];
      return table && rows.length > 0 ? [{ step, by: table.by, rows }] : [];
    });
  }

  private doStep({ field, work }: ReadyStep, thing: Thing): void {
    if (thing.failed) return;
    const value = thing.row[field.key] ?? null;
    const after = work(value, thing.row);
    if (after === value) return;
    const why = after instanceof Failed ? after.why : this.whyNot(field, after, thing.id);
    if (why !== undefined) {
      const before = thing.before?.find((one) => one.field === field)?.before ?? value;
      thing.failed = { kind: 'failed', why, field, before };
      return;
    }
    if (!thing.before) thing.before = [{ field, before: value }];
    else if (!thing.before.some((one) => one.field === field)) thing.before.push({ field, before: value });
    thing.row[field.key] = after as FieldValue;
  }

  /** Why a value cannot be written, whatever step made it. */
  private whyNot(field: Field, after: FieldValue, id: string): Failure | undefined {
    if (after === null && field.required) return 'cannot be empty';
    return this.beside.follows(field, id) ? 'follows others' : undefined;
  }

  private productRow(rows: readonly WorkingRow[]): WorkingRow {
    const row: WorkingRow = { ...rows[0] };
    for (const key of this.skuFields) row[key] = agreed(rows, key);
    return row;
  }

  private agree(row: WorkingRow, things: readonly Thing[]): void {
    for (const key of this.skuFields)
      row[key] = agreed(
        things.map((thing) => thing.row),
        key,
      );
  }

  /** What becomes of a thing: its guards look at every field that its steps made another. Its row is left as the rule leaves it. */
  private judge(thing: Thing): Outcome {
    const outcome = this.outcomeOf(thing);
    for (const { field, before } of thing.before ?? NONE) {
      const change = outcome.kind === 'changes' ? outcome.changes.find((one) => one.field === field) : undefined;
      thing.row[field.key] = change ? change.after : before;
    }
    return outcome;
  }

  private outcomeOf(thing: Thing): Outcome {
    if (thing.failed) return thing.failed;
    if (!thing.before) return STAYS;
    const changes: FieldChange[] = [];
    let trimmed: readonly number[] = NONE;
    for (const { field, before } of thing.before) {
      const made = thing.row[field.key] ?? null;
      if (made === before) continue;
      const guarded = this.guarded(thing, field, before, made, undefined);
      if ('kind' in guarded) return guarded;
      const { after, told, trimmedBy } = guarded;
      if (trimmedBy !== undefined) trimmed = [...trimmed, trimmedBy];
      if (after !== before) changes.push({ field, before, after, told });
    }
    if (changes.length > 0) return { kind: 'changes', changes, trimmed };
    return trimmed === NONE ? STAYS : { kind: 'stays', trimmed };
  }

  /** A value that one guard takes to its limit is looked at by all guards once more: it must not break another. */
  private guarded(
    thing: Thing,
    field: Field,
    before: FieldValue,
    made: FieldValue,
    trimmedBy: number | undefined,
  ): Guarded {
    let after = made;
    let by = trimmedBy;
    let told: readonly number[] = NONE;
    for (const { place, does, watch } of this.guards.get(field.key) ?? NONE) {
      const finding = watch(before, after, thing.row, thing.id);
      if (finding === undefined) continue;
      const limit = finding === 'unknown' ? undefined : finding.limit;
      if (does === 'tell') told = [...told, place];
      else if (trimmedBy === undefined && does === 'trim' && limit !== undefined) [after, by] = [limit, place];
      else return { kind: 'stopped', by: place, isUnknown: finding === 'unknown', field, before, wouldBe: after };
    }
    return after === made || after === before
      ? { after, told, trimmedBy: by }
      : this.guarded(thing, field, before, after, by);
  }
}

/** What guards make of a value that becomes another. */
type Guarded =
  | (Pick<FieldChange, 'after' | 'told'> & { readonly trimmedBy: number | undefined })
  | Extract<Outcome, { kind: 'stopped' }>;

/** What a rule does to the SKUs of a product, with the rows as it leaves them. */
export interface Ran {
  readonly product: { readonly id: string; readonly outcome: Outcome; readonly row: Row } | undefined;
  readonly skus: readonly { readonly outcome: Outcome; readonly row: Row }[];
}

/** Rows of the table of a step that no thing has met: their places, and their values as tables are looked up by. */
export interface UnmetRows {
  readonly step: number;
  readonly by: Field;
  readonly rows: readonly { readonly row: number; readonly value: string }[];
}

interface Thing {
  readonly id: string;
  readonly row: WorkingRow;
  /** What its changed fields were before the first step on each; few, so that they are looked through. */
  before?: { readonly field: Field; readonly before: FieldValue }[];
  failed?: Extract<Outcome, { kind: 'failed' }>;
}

/** Whether a step on a product is done: where any of its SKUs answers, as in a question, or every one where that is asked for. */
const isDoneFor = ({ isDone, forEvery }: ReadyStep, skus: readonly { readonly row: Row }[]): boolean =>
  forEvery ? skus.every(({ row }) => isDone!(row)) : skus.some(({ row }) => isDone!(row));

/** What all rows have of a field; nothing where they differ. */
function agreed(rows: readonly WorkingRow[], key: FieldKey): FieldValue {
  const [first, ...others] = rows;
  const value = first?.[key] ?? null;
  return others.every((row) => (row[key] ?? null) === value) ? value : null;
}

const withFirst = (
  { slots }: { readonly slots: Readonly<Record<string, { readonly initial?: string }>> },
  said: Readonly<Record<string, string>>,
): Record<string, string> => ({
  ...Object.fromEntries(
    Object.entries(slots).flatMap(([name, { initial }]) => (initial === undefined ? [] : [[name, initial]])),
  ),
  ...said,
});

/** Steps that change the same amount one behind the other are one, which reads and writes it once. */
function joined(steps: readonly ReadyStep[]): ReadyStep[] {
  const out: ReadyStep[] = [];
  for (const step of steps) {
    const last = out.at(-1);
    const isMore = last?.field === step.field && !last.isDone && !step.isDone;
    if (isMore && isAmountWork(last.work) && isAmountWork(step.work))
      out[out.length - 1] = { ...last, work: onAmount(step.field, ...last.work.changes, ...step.work.changes) };
    else out.push(step);
  }
  return out;
}

function readyStep({ do: verb, field: key, slots, where, whereEvery, table }: Step, asking: Asking): ReadyStep {
  const forEvery = whereEvery === true;
  const field = asking.register.get(key);
  const kind = STEPS[verb];
  const said = withFirst(kind, slots);
  const question = where === undefined ? undefined : keptQuestion(where, asking);
  const isDone = question && ((row: Row) => answers(question, row, asking));
  if (!table) return { field, isDone, forEvery, work: kind.prepare(field, said, asking) };
  const by = asking.register.get(table.by);
  const met = new Set<string>();
  const find = lookUp(table, by, met);
  const works = new Map<string, Work>();
  const work: Work = (value, row) => {
    const found = find(row[by.key] ?? null);
    // What is not in the table is nothing that was asked for.
    if (found === undefined) return value;
    let ready = works.get(found);
    if (!ready) works.set(found, (ready = kind.prepare(field, { ...said, [table.slot]: found }, asking)));
    return ready(value, row);
  };
  return { field, isDone, forEvery, work, ...(!table.bands && { lookedUp: { by, rows: table.rows, met } }) };
}
