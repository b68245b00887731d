import { type AnswerOf, type BodyOf, type calls, type Desk, keptLayoutSchema } from '@ivory/contract';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { type Db } from '../db/connect.ts';

/** The columns of a desk that a person kept under names, in the order of these. */
export async function listLayouts(db: Db, person: string, desk: Desk): Promise<AnswerOf<typeof calls.listLayouts>> {
  const { rows } = await sql<{ id: string; name: string; layout: unknown }>`
    select id, name, layout from kept_layout where person_id = ${person} and desk = ${desk} order by name_key`.execute(
    db.q,
  );
  return { layouts: rows.map(({ layout, ...row }) => ({ ...row, layout: keptLayoutSchema.parse(layout) })) };
}

/** Keeps columns of a desk under a name; those of the same name are taken over. */
export async function keepLayout(
  db: Db,
  person: string,
  { desk, name, layout }: BodyOf<typeof calls.keepLayout>,
): Promise<{ id: string }> {
  const { rows } = await sql<{ id: string }>`
    insert into kept_layout (person_id, desk, name, layout) values (${person}, ${desk}, ${name}, ${JSON.stringify(layout)}::jsonb)
    on conflict (person_id, desk, name_key) do update set name = excluded.name, layout = excluded.layout returning id`.execute(
    db.q,
  );
  return firstRow(rows);
}
