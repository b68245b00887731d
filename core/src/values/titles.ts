import { OF_TEXT } from './comparing.ts';
import { textList } from './textList.ts';
import { type ValueType } from './valueType.ts';

const { table: _, ...lines } = textList;

/** Titles of what happened to goods, one a line. Asked as `landed in "New prices of Northgate"`, or by a part of one. */
export const titles: ValueType = { ...lines, comparisons: OF_TEXT, usual: 'is', isPhrase: true };
