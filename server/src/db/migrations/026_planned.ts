import { type Kysely, sql } from 'kysely';

/** A proof lands at a moment, and may be taken back at another. */
const STATEMENTS = [
  `alter table proof drop constraint proof_kind_check,
     add constraint proof_kind_check check (kind in ('hand', 'aside', 'planned', 'import', 'take back', 'following', 'order'))`,
  `create table planned (
     id bigint generated always as identity primary key,
     proof_id bigint not null references proof, person_id bigint not null references person,
     -- Without a moment it lands by hand, and is taken back by itself.
     lands_at timestamptz, back_at timestamptz,
     when_changed text not null check (when_changed in ('wait', 'rest')),
     state text not null default 'planned' check (state in ('planned', 'landed', 'waits', 'over', 'called off')),
     why text, landing_id bigint references landing, back_proof_id bigint references proof,
     made_at timestamptz not null default now(),
     constraint planned_moments check (coalesce(lands_at, back_at) is not null and back_at > lands_at)
   )`,
  `create unique index planned_proof on planned (proof_id) where state in ('planned', 'landed', 'waits')`,
  `create index planned_back on planned (back_proof_id) where back_proof_id is not null`,
];

export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
