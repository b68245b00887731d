import { type ProblemDetails, wireProblemWords } from '@ivory/contract';
import { type CellEdit } from './sheetRows.ts';

/** Why a cell was not taken: what is wrong with it, or that it was sent together with one that was wrong. */
export function whyRefused(
  { title, places = [] }: ProblemDetails,
  { row, key }: Pick<CellEdit, 'key'> & Partial<Pick<CellEdit, 'row'>>,
): string {
  const code = row?.landed?.code;
  const own = places.find((place) => place.field === key && (place.row === undefined || place.row === code));
  return own ? wireProblemWords(own) : title;
}
