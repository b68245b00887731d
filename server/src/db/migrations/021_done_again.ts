import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  // Edits that were taken out of a proof, the latest last: each can be taken in again until something else is proposed.
  `create table undone_edit (
     proof_id bigint references proof on delete cascade, no int, title text not null, primary key (proof_id, no))`,
  `create table undone_line (
     proof_id bigint, edit_no int, kind text not null, id bigint not null, field text not null, scope bigint not null,
     before text, after text,
     foreign key (proof_id, edit_no) references undone_edit on delete cascade)`,
  `create index undone_line_edit on undone_line (proof_id, edit_no)`,
  `alter table proof add column note text, drop constraint proof_kind_check,
     add constraint proof_kind_check check (kind in ('hand', 'aside', 'import', 'take back', 'following', 'order'))`,
  `create unique index proof_aside_name on proof (fold(title)) where kind = 'aside' and state in ('open', 'landing')`,
  `alter table landing add column name text, add column note text`,
];

/** What was undone in a proof can be done again; proofs are set aside under names; landings have names and notes. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
