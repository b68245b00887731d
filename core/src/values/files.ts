import { bad, good } from '../problems/problem.ts';
import { holdsText, OF_SEVERAL, OF_TEXT } from './comparing.ts';
import { joinEntries, readEntries } from './divided.ts';
import { readText } from './texts.ts';
import { type ValueType } from './valueType.ts';

/** A file that hangs on goods: which of those that were handed in, and what it is called there. */
export interface FileOfGoods {
  readonly id: string;
  readonly name: string;
}

const MOST_FILES = 20;
const ENTRY = /^(.*?)\s*#(\d{1,18})$/;

/** The files of a value: one a line, its number before its name. */
export const filesIn = (value: string): FileOfGoods[] =>
  value.split('\n').map((line) => {
    const at = line.indexOf(' ');
    return { id: line.slice(0, at), name: line.slice(at + 1) };
  });

/** Files as they are written for people: `Manual #12 | Pattern #13`. */
export const filesText = (files: readonly FileOfGoods[]): string =>
  joinEntries(files.map(({ id, name }) => `${name} #${id}`));

/** Files that shoppers can have, such as manuals, in order and each with its name. */
export const files: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: [...OF_TEXT, ...OF_SEVERAL],
  entriesOf: (value) => value.split('\n'),
  usual: 'contains',
  read: (text, { longest }) => {
    const entries = readEntries(text, MOST_FILES);
    if (!entries.ok) return entries;
    const lines: string[] = [];
    for (const entry of entries.value) {
      const [, written = '', id] = ENTRY.exec(entry) ?? [];
      if (id === undefined || written.trim() === '') return bad('file-unreadable', { value: entry });
      const name = readText(written.replace(/\s+/g, ' '), longest);
      if (!name.ok) return name;
      lines.push(`${id} ${name.value}`);
    }
    return good(lines.join('\n'));
  },
  readWanted: (text) => good(text),
  show: (value) => filesText(filesIn(value)),
  showWanted: (wanted) => wanted,
  holds: (comparison, value, wanted) => filesIn(value).some(({ name }) => holdsText(comparison, name, wanted)),
};
