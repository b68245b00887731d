import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type FieldKey } from '../kinds/keys.ts';
import { placeOf } from '../values/values.ts';
import { bad, type Problem, type Result } from '../problems/problem.ts';
import { comparesOf, keptQuestion } from '../question/kept.ts';
import { type Question } from '../question/tree.ts';
import { templateFields } from '../words/template.ts';
import { type Guard } from './guard.ts';
import { GUARDS } from './guards/index.ts';
import { type Slot } from './slots.ts';
import { type Step } from './step.ts';
import { STEPS } from './steps/index.ts';

/** A change of goods described once: what is done, step by step, within which guards. Which rows is a question beside it. */
export interface Rule {
  readonly steps: readonly Step[];
  readonly guards: readonly Guard[];
}

/** Fields that plain words of a question are looked for in. */
const SEARCHED: readonly FieldKey[] = ['name', 'code', 'gtin', 'brand'];

function fieldsOfQuestion(question: Question, { register }: Asking): FieldKey[] {
  const hasWords = JSON.stringify(question).includes('"kind":"word"');
  const options = register.goods.filter(({ own }) => own?.of === 'option').map(({ key }) => key);
  return [...comparesOf(question).map(({ field }) => field), ...(hasWords ? [...SEARCHED, ...options] : [])];
}

function fieldsOfSlots(kinds: Readonly<Record<string, Slot>>, slots: Readonly<Record<string, string>>): FieldKey[] {
  return Object.entries(kinds).flatMap(([name, slot]): FieldKey[] => {
    const value = slots[name];
    if (value === undefined) return [];
    if (slot.written === 'field') return [value as FieldKey];
    return name === 'template' ? (templateFields(value) as FieldKey[]) : [];
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
    if (where) fieldsOfQuestion(where, asking).forEach((key) => keys.add(key));
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
    if (!read.ok || read.value === value) return read;
  } catch {
    // A text that never was a value cannot be shown.
  }
  return bad('slot-empty', { value, expected: slot.example });
}

/**
 * What is wrong with a rule that came from elsewhere or was kept: fields and things that the shop has not any more, verbs that a field
 * does not take, values that are none. Nothing, where it can be run.
 */
export function problemsOfRule({ steps, guards }: Rule, asking: Asking): Problem[] {
  const problems: Problem[] = [];
  for (const step of steps) {
    const { where, table } = step;
    check(STEPS[step.do], step.field, step.slots, table?.slot);
    if (where !== undefined && keptQuestion(where, asking) === undefined)
      problems.push({ code: 'not-in-shop', value: 'where' });
    if (!table) continue;
    const by = asking.register.find(table.by);
    if (!by || !(table.slot in STEPS[step.do].slots)) problems.push({ code: 'field-unknown', value: table.by });
  }
  for (const guard of guards) check(GUARDS[guard.guard], guard.field, guard.slots);
  return problems;

  function check(
    kind: {
      readonly slots: Readonly<Record<string, Slot>>;
      readonly takes: (field: Field) => boolean;
      readonly sentence: string;
    },
    key: FieldKey,
    slots: Readonly<Record<string, string>>,
    fromTable?: string,
  ): void {
    const field = asking.register.find(key);
    if (!field) {
      problems.push({ code: 'field-unknown', value: key });
      return;
    }
    if (!kind.takes(field)) problems.push({ code: 'step-field', value: field.name, expected: kind.sentence });
    for (const [name, slot] of Object.entries(kind.slots)) {
      const value = slots[name] ?? slot.atFirst;
      if (name === fromTable) continue;
      const read = value === undefined ? undefined : readAgain(slot, value, field, asking);
      if (read === undefined)
        problems.push({ code: 'slot-empty', value: '', expected: slot.example, ...placeOf(field) });
      else if (!read.ok) problems.push({ ...placeOf(field), ...read.problem });
    }
  }
}
