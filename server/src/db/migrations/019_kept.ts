import { type Kysely, sql } from 'kysely';

const STATEMENTS = [
  `create table kept_set (
     id bigint generated always as identity primary key, person_id bigint not null references person,
     name text not null, name_key text not null generated always as (fold(name)) stored unique,
     question text not null, note text, kept_at timestamptz not null default now())`,
  `create table kept_rule (
     id bigint generated always as identity primary key, person_id bigint not null references person,
     name text not null, name_key text not null generated always as (fold(name)) stored unique,
     question text, rule jsonb not null, note text, kept_at timestamptz not null default now())`,
  // What a rule was run on stays in the journal; here stands only that it was, so that one sees when it last did something.
  `create table kept_rule_run (
     rule_id bigint not null references kept_rule on delete cascade, at timestamptz not null default now(), changes int not null,
     primary key (rule_id, at))`,
];

/** Working sets and rules that are kept under names. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of STATEMENTS) await sql.raw(statement).execute(db);
}
