import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { placeOf } from '../values/values.ts';
import { bad, type Problem, type Result } from '../problems/problem.ts';
import { comparesOf, keptQuestion } from '../question/kept.ts';
import { fieldsRead } from '../question/evaluate.ts';
import { type Question } from '../question/tree.ts';
import { isAmount } from './parts/amounts.ts';
import { type Guard } from './guard.ts';
import { GUARDS } from './guards/index.ts';
import { type Sentence } from './sentence.ts';
import { canBeTable, type Slot } from './slots.ts';
import { type Step } from './step.ts';
import { STEPS } from './steps/index.ts';

/** A change of goods described once: what is done, step by step, within which guards. Which rows is a question beside it. */
export interface Rule {
  readonly steps: readonly Step[];
  readonly guards: readonly Guard[];
}

function fieldsOfSlots(kinds: Readonly<Record<string, Slot>>, slots: Readonly<Record<string, string>>): FieldKey[] {
  return Object.entries(kinds).flatMap(([name, { reads }]) => {
    const value = slots[name];
    return value === undefined || !reads ? [] : (reads(value) as FieldKey[]);
  });
}

/** The fields that a rule reads or changes, each once; those that it changes first. */
export function fieldsOfRule({ steps, guards }: Rule, asking: Asking): readonly Field[] {
  const keys = new Set<FieldKey>(steps.map(({ field }) => field));
  for (const step of steps) {
    const kind = STEPS[step.do];
    const field = asking.register.get(step.field);
    fieldsOfSlots(kind.slots, step.slots).forEach((key) => keys.add(key));
    kind.needs?.(field).forEach((key) => keys.add(key));
    const where = step.where === undefined ? undefined : keptQuestion(step.where, asking);
    if (where) fieldsRead(where, asking).forEach((key) => keys.add(key));
    if (step.table) keys.add(step.table.by);
  }
  for (const guard of guards) {
    const kind = GUARDS[guard.guard];
    keys.add(guard.field);
    fieldsOfSlots(kind.slots, guard.slots).forEach((key) => keys.add(key));
    kind.needs?.(asking.register.get(guard.field)).forEach((key) => keys.add(key));
  }
  if (isPriced({ steps, guards })) (['price', 'cost', 'taxRate'] as const).forEach((key) => keys.add(key));
  return [...keys].map((key) => asking.register.get(key));
}

/** Whether it is told what becomes of prices and margins: of a rule on the price or the cost, and of none at all. */
export const isPriced = ({ steps }: Rule): boolean =>
  steps.length === 0 || steps.some(({ field }) => field === 'price' || field === 'cost');

/** The fields that a rule changes, each once, in the order of its steps. */
export const changedBy = ({ steps }: Rule, { register }: Asking): readonly Field[] =>
  [...new Set(steps.map(({ field }) => field))].map((key) => register.get(key));

/** Reads a canonical text as it is shown, which refuses what is no longer in the shop and what never was a value. */
function readAgain(slot: Slot, value: string, field: Field, asking: Asking): Result<string> {
  try {
    const read = slot.read(slot.show(value, field, asking), field, asking);
    if (read.ok ? read.value === value : read.problem.code !== 'slot-empty') return read;
  } catch {
    // A text that never was a value cannot be shown.
  }
  return bad('slot-gone', { value, expected: slot.example });
}

/**
 * What is wrong with the condition of a step: rows say not in which lists they are, which are opened for a while only.
 */
export const problemOfWhere = (where: Question): Problem | undefined =>
  comparesOf(where).some(({ field }) => field === 'list') ? { code: 'where-list' } : undefined;

/**
 * What is wrong with a rule that came from elsewhere or was kept: fields and things that the shop no longer has, verbs that a field
 * does not take, values that are none. Nothing, where it can be run.
 */
export function problemsOfRule({ steps, guards }: Rule, asking: Asking): Problem[] {
  return [
    ...steps.flatMap((step) => [
      ...problemsOfSentence(STEPS[step.do], step, asking, step.table?.slot),
      ...problemsOfCondition(step, asking),
      ...problemsOfTable(step, asking),
    ]),
    ...guards.flatMap((guard) => problemsOfSentence(GUARDS[guard.guard], guard, asking)),
  ];
}

function problemsOfCondition({ where }: Step, asking: Asking): Problem[] {
  if (where === undefined) return [];
  const question = keptQuestion(where, asking);
  const problem = question ? problemOfWhere(question) : ({ code: 'where-gone' } as const);
  return problem ? [problem] : [];
}

/** What is wrong with the table of a step; of its rows the first that is wrong. */
function problemsOfTable({ do: verb, field: key, table }: Step, asking: Asking): Problem[] {
  const field = asking.register.find(key);
  if (!table || !field) return [];
  const by = asking.register.find(table.by);
  const slot = STEPS[verb].slots[table.slot];
  if (!by || !slot || !canBeTable(slot)) return [{ code: 'slot-field', value: table.by }];
  if (table.bands && (!isAmount(by) || table.rows.some(([from]) => !WHOLE.test(from))))
    return [{ code: 'step-field', value: by.name }];
  for (const [i, [, says]] of table.rows.entries()) {
    const read = readAgain(slot, says, field, asking);
    if (!read.ok) return [{ ...placeOf(field), ...read.problem, row: String(i + 1) }];
  }
  return [];
}
const WHOLE = /^-?\d{1,20}$/;

function problemsOfSentence(
  kind: Sentence,
  { field: key, slots }: { readonly field: FieldKey; readonly slots: Readonly<Record<string, string>> },
  asking: Asking,
  fromTable?: string,
): Problem[] {
  const field = asking.register.find(key);
  if (!field) return [{ code: 'slot-field', value: key }];
  if (!kind.takes(field)) return [{ code: 'step-field', value: field.name }];
  return Object.entries(kind.slots).flatMap(([name, slot]): Problem[] => {
    const value = slots[name] ?? slot.initial;
    if (name === fromTable) return [];
    if (value === undefined) return [{ code: 'slot-empty', value: '', expected: slot.example, ...placeOf(field) }];
    const read = readAgain(slot, value, field, asking);
    return read.ok ? [] : [{ ...placeOf(field), ...read.problem }];
  });
}
