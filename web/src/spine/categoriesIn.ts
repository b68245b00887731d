import { type Question } from '@ivory/core';

/** The categories of the question's own `in` condition, by their ids. */
export function categoriesIn(question: Question): readonly string[] {
  const parts = question.kind === 'all' ? question.of : [question];
  return parts.flatMap((part) =>
    part.kind === 'compare' && part.field === 'category' && part.comparison === 'in' ? part.values : [],
  );
}
