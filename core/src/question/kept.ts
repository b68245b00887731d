import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { type KindKey } from '../kinds/keys.ts';
import { namesOf, type Names } from '../kinds/names.ts';
import { comparisonsOf, isComparable } from './comparisons.ts';
import { countsValues, isPartial } from './comparisonTable.ts';
import { type Compare, plain, type Question } from './tree.ts';

/** A question as it is kept: a tree as JSON that names things by their ids. */
export const keepQuestion = (question: Question): string => JSON.stringify(plain(question));

/**
 * A question that was kept. Undefined when it does not read any more: when a field that it asks for, or a thing that it names, is
 * not in the shop.
 */
export function keptQuestion(kept: string, asking: Omit<Asking, 'rules'>): Question | undefined {
  const question = JSON.parse(kept) as Question;
  return comparesOf(question).every((compare) => isKnown(compare, asking)) ? question : undefined;
}

/** The rules of assortments, of those whose rule reads. */
export function rulesOf(
  kept: readonly { readonly id: string; readonly rule: string }[],
  asking: Omit<Asking, 'rules'>,
): ReadonlyMap<string, Question> {
  return new Map(
    kept.flatMap(({ id, rule }) => {
      const question = keptQuestion(rule, asking);
      return question ? [[id, question] as const] : [];
    }),
  );
}

/** The comparisons of a question, however deep they stand. */
export function comparesOf(question: Question): readonly Compare[] {
  switch (question.kind) {
    case 'all':
    case 'any':
      return question.of.flatMap(comparesOf);
    case 'not':
      return comparesOf(question.of);
    case 'compare':
      return [question];
    case 'word':
      return [];
  }
}

function isKnown({ field, comparison, values, than }: Compare, { register, names }: Omit<Asking, 'rules'>): boolean {
  const target = register.find(field);
  if (!target || !comparisonsOf(target).includes(comparison)) return false;
  if (than) {
    const other = register.find(than.field);
    return other !== undefined && isComparable(target, other, comparison);
  }
  if (!target.refersTo || isPartial(comparison) || countsValues(comparison)) return true;
  return values.every((id) => isThere(id, target, names));
}

const isThere = (id: string, target: Field, names: Names): boolean =>
  target.refersTo?.kind === 'category' ? names.categories.steps(id).length > 0 : namesOf(target, names).byId.has(id);

/** The ids of things of a kind that a question names. */
export const namedBy = (question: Question, kind: KindKey, { register }: Asking): string[] =>
  comparesOf(question).flatMap(({ field, comparison, values }) =>
    register.find(field)?.refersTo?.kind === kind && !isPartial(comparison) && !countsValues(comparison) ? values : [],
  );

/** The same question with other ids where it names things of a kind; what stands twice then stands once. */
export function withOther(question: Question, kind: KindKey, other: (id: string) => string, asking: Asking): Question {
  const walk = (part: Question): Question => {
    switch (part.kind) {
      case 'all':
      case 'any':
        return { kind: part.kind, of: part.of.map(walk) };
      case 'not':
        return { kind: 'not', of: walk(part.of) };
      case 'word':
        return part;
      case 'compare':
        return namedBy(part, kind, asking).length === 0
          ? part
          : { ...part, values: [...new Set(part.values.map(other))] };
    }
  };
  return plain(walk(question));
}
