import { type Asking, conditions, printQuestion, readQuestion } from '@ivory/core';

/** A question with a further condition that all of it must hold; what does not read is said as it stands, where it is seen to. */
export function narrowed(question: string, condition: string, asking: Asking): string {
  const [asked, more] = [readQuestion(question, asking), readQuestion(condition, asking)];
  if (!asked.ok || !more.ok) return `${question} ${condition}`.trim();
  const of = [asked, more].flatMap(({ value }) => conditions(value.question));
  return printQuestion({ kind: 'all', of }, asking);
}
