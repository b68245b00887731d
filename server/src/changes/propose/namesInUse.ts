import { refusalWords } from '@ivory/contract';
import { holdsSeveral, type KindKey, KINDS, type Line, nameClash, placeOf, type Problem } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { readShop, type Shop } from '../../asked/names.ts';
import { Refusal } from '../../refusal.ts';

/** Refuses lines with names that cannot be given. */
export async function refuseNamesInUse(tx: Tx, proof: string, lines: readonly Line[]): Promise<void> {
  const problems = (await namesThatCannotBe(tx, proof, lines)).map(({ problem }) => problem);
  if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
}

/** A line that cannot be taken in, and what is wrong with it. */
export interface WrongLine {
  readonly line: Line;
  readonly problem: Problem;
}

/**
 * Lines with names that another thing of the same kind has, in the shop or in the proof; of options and attributes also those, and other
 * names, that are read as something else.
 */
export async function namesThatCannotBe(tx: Tx, proof: string, lines: readonly Line[]): Promise<WrongLine[]> {
  const named = lines.filter(({ kind, field, after }) => KINDS[kind].isList && field === 'name' && after !== null);
  const ofFields = lines.filter(
    ({ kind, field, after }) =>
      ['option', 'attribute'].includes(kind) && ['name', 'alsoCalled'].includes(field) && after,
  );
  if (named.length + ofFields.length === 0) return [];
  const shop = await readShop(tx);
  const wrong = ofFields.flatMap((line) => clashesOf(line, shop).map((problem): WrongLine => ({ line, problem })));
  for (const kind of new Set(named.map((line) => line.kind))) {
    const ofKind = named.filter((line) => line.kind === kind);
    const taken = await namesTaken(tx, proof, kind, ofKind);
    const place = placeOf(shop.register.at(kind, 'name')!);
    for (const line of ofKind) {
      const name = line.after!;
      if (holdsSeveral(name))
        wrong.push({
          line,
          problem: { code: 'name-with-bar', value: name, expected: name.replaceAll('|', '/'), ...place },
        });
      else if (taken.has(line.id) && !wrong.some((one) => one.line === line))
        wrong.push({ line, problem: { code: 'name-in-use', value: name, ...place } });
    }
  }
  return wrong;
}

/** What the names of an option or attribute would be taken for. */
function clashesOf({ kind, id, field, before, after }: Line, shop: Shop): Problem[] {
  const place = placeOf(shop.register.at(kind, field)!);
  const namesIn = (text: string | null) =>
    field === 'alsoCalled' ? (text ?? '').split(',').map((name) => name.trim()) : [text ?? ''];
  const stood = namesIn(before);
  const names = namesIn(after).filter((name) => name !== '' && !stood.includes(name));
  return names.flatMap((value): Problem[] => {
    const clash = nameClash(value, id, shop);
    if (!clash) return [];
    return clash.as === 'field'
      ? [{ code: 'name-is-field', value, expected: clash.field, ...place }]
      : [{ code: 'name-is-condition', value, ...place }];
  });
}

/** What a thing hangs on as the proof has it: its parent, its option; empty at the top of a tree. */
const hangsOn = (proof: string, kind: KindKey, id: RawBuilder<unknown>, column: string) => sql`coalesce(
  (select coalesce(said.after, '') from live_line said
    where said.proof_id = ${proof} and said.kind = ${kind} and said.id = ${id} and said.field = 'parent'),
  (select said.after from live_line said
    where said.proof_id = ${proof} and said.kind = ${kind} and said.id = ${id} and said.field = 'exists' and said.after is not null),
  (select coalesce(${sql.ref(`o.${column}`)}::text, '') from ${sql.table(KINDS[kind].table)} o where o.id = ${id}), '')`;

/** The things of a kind whose new names another has, in the shop or in the proof. */
async function namesTaken(
  tx: Tx,
  proof: string,
  kind: KindKey,
  named: readonly Pick<Line, 'id' | 'after'>[],
): Promise<ReadonlySet<string>> {
  const { table, hangsBy } = KINDS[kind];
  const ids = named.map(({ id }) => id);
  // Siblings alone must differ: what hangs on another category, or is a value of another option, may have the same name.
  const on = (id: string) => (hangsBy?.type === 'bigint' ? hangsOn(proof, kind, sql.ref(id), hangsBy.column) : sql`''`);
  const { rows } = await sql<{ id: string }>`
    with wanted as materialized (
      select x.id, fold(x.name) as key, ${on('x.id')} as hangs_on
      from unnest(${ids}::bigint[], ${named.map(({ after }) => after)}::text[]) as x (id, name)),
    others as materialized (
      select l.id, fold(l.after) as key, ${on('l.id')} as hangs_on from live_line l
      where l.proof_id = ${proof} and l.kind = ${kind} and l.field = 'name' and l.after is not null
        and l.id <> all (${ids}::bigint[])
      union all
      select t.id, t.name_key, ${on('t.id')} from ${sql.table(table)} t
      where t.name_key in (select key from wanted) and t.id <> all (${ids}::bigint[])
        and not exists (select from live_line g where g.proof_id = ${proof} and g.kind = ${kind} and g.id = t.id
          and (g.field = 'name' or (g.field = 'exists' and g.after is null)))
      union all select id, key, hangs_on from wanted)
    select distinct w.id from wanted w join others o on o.key = w.key and o.hangs_on = w.hangs_on and o.id <> w.id
  `.execute(tx.q);
  return new Set(rows.map(({ id }) => id));
}
