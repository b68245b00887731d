import { conditions, type Question } from './tree.ts';

/** A working set: a question, and SKUs by their codes that are put in besides what answers it, or left out though they do. */
export interface WithHand {
  readonly rest: Question;
  readonly putIn: readonly string[];
  readonly leftOut: readonly string[];
}

const codesOf = (question: Question | undefined): readonly string[] | undefined =>
  question?.kind === 'compare' && question.field === 'code' && question.comparison === 'is'
    ? question.values
    : undefined;

/**
 * What of a question was done by hand. It stands in the question itself, as `(brand is Larkspur or code is A-1) not code is B-2`, so
 * that everything which asks it knows nothing of hands.
 */
export function byHand(question: Question): WithHand {
  const parts = conditions(question);
  const last = parts.at(-1);
  const leftOut = last?.kind === 'not' ? codesOf(last.of) : undefined;
  const inner: Question = leftOut === undefined ? question : one(parts.slice(0, -1));
  if (inner.kind === 'any' && inner.of.length > 1) {
    const putIn = codesOf(inner.of.at(-1));
    if (putIn) {
      const others = inner.of.slice(0, -1);
      return {
        rest: others.length === 1 ? others[0]! : { kind: 'any', of: others },
        putIn,
        leftOut: leftOut ?? [],
      };
    }
  }
  return { rest: inner, putIn: [], leftOut: leftOut ?? [] };
}

/** The question of a working set. What is put in is not left out, and the other way round: the latest counts. */
export function withHand({ rest, putIn, leftOut }: WithHand): Question {
  const codes = (values: readonly string[]): Question => ({ kind: 'compare', field: 'code', comparison: 'is', values });
  const isAll = rest.kind === 'all' && rest.of.length === 0;
  const inner: Question = putIn.length === 0 || isAll ? rest : { kind: 'any', of: [rest, codes(putIn)] };
  if (leftOut.length === 0) return inner;
  return { kind: 'all', of: [...conditions(inner), { kind: 'not', of: codes(leftOut) }] };
}

const one = (parts: readonly Question[]): Question => (parts.length === 1 ? parts[0]! : { kind: 'all', of: parts });

/** The same set with some SKUs put in by hand. */
export const puttingIn = ({ rest, putIn, leftOut }: WithHand, codes: readonly string[]): WithHand => ({
  rest,
  putIn: [...new Set([...putIn, ...codes])],
  leftOut: leftOut.filter((code) => !codes.includes(code)),
});

/** The same set with some SKUs left out by hand. */
export const leavingOut = ({ rest, putIn, leftOut }: WithHand, codes: readonly string[]): WithHand => ({
  rest,
  putIn: putIn.filter((code) => !codes.includes(code)),
  leftOut: [...new Set([...leftOut, ...codes])],
});
