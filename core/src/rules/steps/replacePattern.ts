import { RE2JS } from 're2js';
import { isEditable } from '../../kinds/field.ts';
import { bad, good } from '../../problems/problem.ts';
import { quoted, type Slot } from '../slots.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

const plain = quoted('\\d+ ml');
/** A pattern in RE2's syntax, which takes a time that grows with the text alone, whatever it is. */
const pattern: Slot = {
  ...plain,
  read: (text, target, asking) => {
    const read = plain.read(text, target, asking);
    if (!read.ok) return read;
    try {
      RE2JS.compile(text, RE2JS.CASE_INSENSITIVE);
      return good(text);
    } catch (error) {
      return bad('pattern-unreadable', { value: text, expected: (error as Error).message.slice(0, 120) });
    }
  },
};

/** Replaces what a pattern finds, by a text in which `$1` is what stood in the first parentheses. */
export const replacePattern = stepKind({
  sentence: 'replace pattern {pattern} by {by} in {field}',
  slots: { pattern, by: quoted('$1', true) },
  takes: (field) => isEditable(field) && hasWords(field),
  prepare: (field, slots, asking) => {
    const compiled = RE2JS.compile(slots.pattern, RE2JS.CASE_INSENSITIVE);
    const groups = compiled.groupCount();
    // A group that the pattern has not stands for nothing.
    const by = slots.by.replace(/\$(\d+)/g, (whole, n: string) => (Number(n) <= groups ? whole : ''));
    return onWords(field, asking, (text) => compiled.matcher(text).replaceAll(by));
  },
});
