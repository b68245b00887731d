import { type ProblemDetails, wireProblemWords } from '@ivory/contract';
import { type CellEdit } from '../rows/sheetRows.ts';

/** Why a cell was refused: its own problem, or that it was sent together with a wrong one. */
export function whyRefused(
  { title, places = [] }: ProblemDetails,
  { row, key }: Pick<CellEdit, 'key'> & Partial<Pick<CellEdit, 'row'>>,
): string {
  const code = row?.landed?.code;
  // A row that stands for several SKUs has no code of its own.
  const isOwn = (written: string | undefined) =>
    written === undefined || written === code || row?.several !== undefined;
  const own = places.find((place) => place.field === key && isOwn(place.row));
  return own ? wireProblemWords(own) : title;
}
