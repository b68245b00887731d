import { bad, good } from '../problems/problem.ts';
import { OF_SEVERAL } from './comparing.ts';
import { dividedByBar } from './references.ts';
import { type ValueType } from './valueType.ts';

const MOST_PICTURES = 100;
/** Pictures have no names that tell them apart: in a text each is its number. */
const WRITTEN = /^#?(\d{1,18})$/;

/** Pictures in an order that is given by hand, the first of them the face. Written by their numbers, `#12 | #15`. */
export const pictures: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled', ...OF_SEVERAL],
  usual: 'is filled',
  entriesOf: dividedByBar,
  read: (text) => {
    const ids: string[] = [];
    for (const entry of text.split('|').map((part) => part.trim())) {
      const [, id] = WRITTEN.exec(entry) ?? [];
      if (id === undefined) return bad('picture-unreadable', { value: entry.slice(0, 40), expected: '#12' });
      if (!ids.includes(id)) ids.push(id);
    }
    return ids.length > MOST_PICTURES
      ? bad('list-too-long', { value: `#${ids[0]}`, expected: String(MOST_PICTURES) })
      : good(ids.join('|'));
  },
  show: (value) =>
    value
      .split('|')
      .map((id) => `#${id}`)
      .join(' | '),
  holds: () => false,
};

/** One picture. */
export const picture: ValueType = {
  ...pictures,
  comparisons: ['is empty', 'is filled'],
  read: (text) => {
    const [, id] = WRITTEN.exec(text.trim()) ?? [];
    return id === undefined
      ? bad('picture-unreadable', { value: text.trim().slice(0, 40), expected: '#12' })
      : good(id);
  },
};
