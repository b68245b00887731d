import fc from 'fast-check';
import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { comparisonsOf, isComparable, valuesOf } from '../question/comparisons.ts';
import { countsDays, countsValues, isPartial } from '../question/comparisonTable.ts';
import { knownValues, readValue, typeOf } from '../values/values.ts';
import { type Compare, type ComparisonKey, ONCE, type Question } from '../question/tree.ts';

const WORDS = ['ink', 'Blue', 'Café', 'no. 2', 'is', 'or', '50 ml', 'price', 'a"b', 'x\\y', 'A5', 'gall', '%', '_'];

function arbitraryValue(field: Field, comparison: ComparisonKey, asking: Asking): fc.Arbitrary<string> {
  if (countsValues(comparison)) return fc.integer({ min: 0, max: 4 }).map(String);
  if (countsDays(comparison)) return fc.integer({ min: 0, max: 800 }).map(String);
  if (typeOf(field).isNumber) return fc.integer({ min: 0, max: 9_000 }).map(String);
  if (field.type === 'content') return fc.integer({ min: 1, max: 9_000 }).map((amount) => `${amount} ml`);
  if (field.type === 'priceFormula') return fc.integer({ min: -900, max: 900 }).map((less) => `* 0 ${less} 99 100 1`);
  const known = isPartial(comparison) ? [] : knownValues(field, asking);
  const { readWanted } = typeOf(field);
  const ids = known.flatMap((name) => {
    const read = readWanted ? readWanted(name, field, asking) : readValue(field, name, asking);
    return read.ok && read.value ? read.value.split('|') : [];
  });
  return ids.length > 0 ? fc.constantFrom(...ids) : fc.constantFrom(...WORDS);
}

/** A condition on a field by one of the comparisons that it takes. */
export function arbitraryCondition(field: Field, comparison: ComparisonKey, asking: Asking): fc.Arbitrary<Compare> {
  const [minLength, maxLength] = { none: [0, 0], one: [1, 1], two: [2, 2], list: [1, 3] }[valuesOf(comparison)] as [
    number,
    number,
  ];
  return fc
    .array(arbitraryValue(field, comparison, asking), { minLength, maxLength })
    .map((values) => ({ kind: 'compare', field: field.key, comparison, values: inOrder(comparison, values) }));
}

/** The fields of which a question can be made: a name that it would ask for is there. */
export const fieldsToAsk = (asking: Asking): readonly Field[] =>
  asking.register.goods.filter((field) => !field.refersTo || knownValues(field, asking).length > 0);

const arbitraryCompare = (asking: Asking): fc.Arbitrary<Question> =>
  fc
    .constantFrom(...fieldsToAsk(asking))
    .chain((field) =>
      fc.constantFrom(...comparisonsOf(field)).chain((comparison) => arbitraryCondition(field, comparison, asking)),
    );

/** A number against another, as it is or times a factor. */
function arbitraryThan(asking: Asking): fc.Arbitrary<Question> {
  const pairs = asking.register.goods.flatMap((field) =>
    asking.register.goods.filter((other) => isComparable(field, other, '<')).map((other) => [field, other] as const),
  );
  return fc
    .tuple(
      fc.constantFrom(...pairs),
      fc.constantFrom<ComparisonKey>('is', 'is not', '<', '<=', '>', '>='),
      fc.constantFrom(ONCE, '0', '600000', '1250000', '2000000'),
    )
    .map(([[field, other], comparison, times]) => ({
      kind: 'compare',
      field: field.key,
      comparison,
      values: [],
      than: { field: other.key, times },
    }));
}

/** Questions of every shape, for properties that must hold of all of them. */
export function arbitraryQuestion(asking: Asking): fc.Arbitrary<Question> {
  const { question } = fc.letrec<{ question: Question }>((tie) => ({
    question: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      arbitraryCompare(asking),
      arbitraryThan(asking),
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
  comparison === 'between' && BigInt(values[0]!) > BigInt(values[1]!)
    ? values.toReversed()
    : comparison === 'between'
      ? values
      : [...new Set(values)];
