import { finder, isEditable, replaced, tidied, typeOf } from '@ivory/core';
import { type CellText } from '../cells/cellBlocks.ts';
import { type Chosen } from '../cells/chosen.ts';

export interface Replacing {
  readonly find: string;
  readonly by: string;
  readonly exactly: boolean;
  readonly wholeWords: boolean;
}

/**
 * The cells of a block in which words stand, with the texts that they get, and how often they stand there in all. Case, accents and
 * the kind of apostrophe make no difference unless it is to be exactly so. Cells that cannot be edited and rows that are not loaded
 * are left.
 */
export function replaceIn(
  { of, keys, block: { y, y1 } }: Chosen,
  { find, by, exactly, wholeWords }: Replacing,
): { cells: CellText[]; times: number } {
  const fields = keys.flatMap((key) => of.fieldOf(key) ?? []).filter((field) => isEditable(field));
  const spansIn = finder(find, { exactly, wholeWords });
  const cells: CellText[] = [];
  let times = 0;
  for (let place = y; place <= y1; place++) {
    const row = of.rows[place];
    if (row?.id === undefined) continue;
    for (const field of fields) {
      // What the SKUs of a product differ in is no text of its own.
      if (row.differing?.[field.key]) continue;
      const text = String(row[field.key] ?? '');
      const spans = spansIn(text);
      if (spans.length === 0) continue;
      const after = replaced(text, spans, by);
      times += spans.length;
      cells.push({ place, key: field.key, text: by === '' && !typeOf(field).isNumber ? tidied(after) : after });
    }
  }
  return { cells, times };
}
