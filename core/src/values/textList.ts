import { good } from '../problems/problem.ts';
import { holdsText, OF_SEVERAL, OF_TEXT } from './comparing.ts';
import { entriesOf, joinEntries, readEntries } from './divided.ts';
import { LONGEST_NAME, readText } from './texts.ts';
import { type ValueType } from './valueType.ts';

/** More lines than anybody reads. */
const MOST_LINES = 50;

/** Several short texts in order, such as selling points; kept one a line. A comparison holds where it does for one of them. */
export const textList: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: [...OF_TEXT, ...OF_SEVERAL],
  entriesOf: (value) => value.split('\n'),
  usual: 'contains',
  table: {
    columns: ['line'],
    rowsOf: (text) => entriesOf(text).map((line) => [line]),
    textOf: (rows) => joinEntries(rows.map(([line = '']) => line.trim()).filter(Boolean)),
  },
  read: (text, { longest }) => {
    const entries = readEntries(text, MOST_LINES);
    if (!entries.ok) return entries;
    const lines: string[] = [];
    for (const entry of entries.value) {
      const line = readText(entry.replace(/\s+/g, ' '), longest ?? LONGEST_NAME);
      if (!line.ok) return line;
      lines.push(line.value);
    }
    return good(lines.join('\n'));
  },
  readWanted: (text) => good(text),
  show: (value) => joinEntries(value.split('\n')),
  showWanted: (wanted) => wanted,
  holds: (comparison, value, wanted) => value.split('\n').some((line) => holdsText(comparison, line, wanted)),
};
