import fc from 'fast-check';
import { type Names } from '../fields/names.ts';
import { type Field, fields, isNumeric } from '../fields/register.ts';
import { comparisonsOf, valuesOf } from '../question/comparisons.ts';
import { knownValues } from '../question/knownValues.ts';
import { type ComparisonKey, type Question } from '../question/tree.ts';

const WORDS = ['ink', 'Blue', 'Café', 'no. 2', 'is', 'or', '50 ml', 'price', 'a"b', 'x\\y', 'A5', 'gall', '%', '_'];

function arbitraryValue(field: Field, comparison: ComparisonKey, names: Names): fc.Arbitrary<string> {
  if (isNumeric(field.type)) return fc.integer({ min: 0, max: 9_000 }).map(String);
  const known = knownValues(field, names);
  const partly = comparison === 'contains' || comparison === 'starts with' || comparison === 'ends with';
  return known.length > 0 && !partly ? fc.constantFrom(...known) : fc.constantFrom(...WORDS);
}

function arbitraryCompare(names: Names): fc.Arbitrary<Question> {
  return fc.constantFrom(...fields()).chain((field) =>
    fc.constantFrom(...comparisonsOf(field)).chain((comparison) => {
      const count = { none: [0, 0], one: [1, 1], two: [2, 2], list: [1, 3] }[valuesOf(comparison)] as [number, number];
      return fc
        .array(arbitraryValue(field, comparison, names), { minLength: count[0], maxLength: count[1] })
        .map((values): Question => ({
          kind: 'compare',
          field: field.key,
          comparison,
          values: inOrder(comparison, values),
        }));
    }),
  );
}

/** Questions of every shape, for properties that must hold of all of them. */
export function arbitraryQuestion(names: Names): fc.Arbitrary<Question> {
  const { question } = fc.letrec<{ question: Question }>((tie) => ({
    question: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      arbitraryCompare(names),
      fc.constantFrom(...WORDS).map((text): Question => ({ kind: 'word', text })),
      fc.array(tie('question'), { minLength: 1, maxLength: 3 }).map((of): Question => ({ kind: 'all', of })),
      fc.array(tie('question'), { minLength: 1, maxLength: 3 }).map((of): Question => ({ kind: 'any', of })),
      tie('question').map((of): Question => ({ kind: 'not', of })),
    ),
  }));
  return question;
}

/** Values as a question that was read has them: the lesser of two first. */
const inOrder = (comparison: string, values: string[]): string[] =>
  comparison === 'between' && BigInt(values[0]!) > BigInt(values[1]!) ? values.toReversed() : values;
