import { type ShownLine } from '@ivory/contract';
import { type Db } from '../../db/connect.ts';
import { csvLines } from '../../csvLines.ts';
import { allLines, type LineFilter } from './lines.ts';

const HEADINGS = ['Kind', 'Code', 'Name', 'What', 'Before', 'After', 'To look at', 'Left out'];

/** The lines of a proof that a filter names as CSV, to be looked through elsewhere. */
export async function* proofFile(db: Db, proof: string, filter: LineFilter): AsyncGenerator<string> {
  yield csvLines([HEADINGS]);
  for await (const lines of allLines(db, proof, filter)) yield csvLines(lines.map(cellsOf));
}

function cellsOf({ kind, code, name, called, before, after, warnings, leftOut }: ShownLine): string[] {
  return [kind, code ?? '', name, called, before ?? '', after ?? '', warnings.join(', '), leftOut ? 'yes' : ''];
}
