import { refusalWords } from '@ivory/contract';
import { filesIn, type Line, placeOf, type Problem } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { type Shop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';

/** Refuses files that were never handed in, with which. */
export async function refuseUnknownFiles(tx: Tx, lines: readonly Line[], { register }: Shop): Promise<void> {
  const files = lines.flatMap(({ kind, field, after }) =>
    after !== null && register.at(kind, field)?.type === 'files' ? filesIn(after) : [],
  );
  if (files.length === 0) return;
  const { rows } = await sql<{ id: string }>`
    select id from attached_file where id = any(${files.map(({ id }) => id)}::bigint[])`.execute(tx.q);
  const known = new Set(rows.map(({ id }) => id));
  const problems = files
    .filter(({ id }) => !known.has(id))
    .map(({ id, name }): Problem => ({
      code: 'file-unreadable',
      value: `${name} #${id}`,
      ...placeOf(register.get('files')),
    }));
  if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems);
}
