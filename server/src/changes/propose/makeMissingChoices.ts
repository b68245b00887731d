import { type Field, fold, type Line, listKey, NameList, namesOf, readText } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../db/connect.ts';
import { type Shop } from '../../range/names.ts';
import { NewIds } from './newIds.ts';
import { takeInLines } from './takeIn.ts';

interface Typed {
  readonly kind: string;
  readonly field: string;
  readonly text: string;
}

/**
 * A value of an option that is typed and not there yet is made with the cell that has it: colours and sizes are as many as there
 * are goods. Gives the shop with the names of those that are made, and those that the proof made before.
 */
export async function makeMissingChoices(
  tx: Tx,
  proof: string,
  edit: number,
  edits: readonly Typed[],
  fields: ReadonlyMap<string, Field>,
  shop: Shop,
): Promise<Shop> {
  const { names } = shop;
  const lists = new Map(names.lists);
  for (const field of fields.values()) {
    if (field.refersTo?.kind !== 'choice') continue;
    const known = new Map(namesOf(field, names).byId);
    for (const { id, name } of await proposedChoices(tx, proof, field.refersTo.of!)) known.set(id, name);
    const list = new NameList(known);
    const lines: Line[] = [];
    if (field.own?.of === 'option') {
      const ids = new NewIds(tx, 'choice', 1);
      const wanted = edits.filter(({ kind, field: key }) => kind === field.kind && key === field.key);
      const made = new Set<string>();
      for (const { text } of wanted) {
        const read = readText(text.replace(/\s+/g, ' '), field.longest);
        if (!read.ok || read.value === '' || list.find(read.value) !== undefined || made.has(fold(read.value)))
          continue;
        made.add(fold(read.value));
        const id = await ids.next();
        known.set(id, read.value);
        lines.push(...linesOfChoice(id, field.refersTo.of!, read.value));
      }
    }
    if (lines.length > 0) await takeInLines(tx, proof, edit, lines);
    lists.set(listKey(field.refersTo), new NameList(known));
  }
  return { ...shop, names: { ...names, lists } };
}

/** The lines that make a value of an option or attribute. */
const linesOfChoice = (id: string, of: string, name: string): Line[] =>
  (
    [
      ['exists', of],
      ['name', name],
    ] as const
  ).map(([field, after]) => ({ kind: 'choice', id, field, scope: '0', before: null, after }));

/**
 * Takes values out of the proof that were made with a cell which has another by now; those that were made on the page of lists have a
 * place, and stay. Until the proof lands, what undoing would bring back stays too.
 */
export async function dropUnusedChoices(tx: Tx, proof: string, isLanding = false): Promise<void> {
  const undone = isLanding ? sql`` : sql`or u.under::text like '%"' || e.id || '"%'`;
  await sql`
    delete from proof_line l using (
      select e.id from proof_line e
      where e.proof_id = ${proof} and e.kind = 'choice' and e.field = 'exists' and e.before is null
        and not exists (select from proof_line p where p.proof_id = e.proof_id and p.kind = e.kind and p.id = e.id and p.field = 'place')
        and not exists (select from proof_line u where u.proof_id = e.proof_id and u.field = 'own:' || e.after
          and (e.id::text = any (string_to_array(u.after, '|')) ${undone}))
    ) unused
    where l.proof_id = ${proof} and l.kind = 'choice' and l.id = unused.id
  `.execute(tx.q);
}

/** Values of an option or attribute that the proof makes. */
async function proposedChoices(tx: Tx, proof: string, of: string): Promise<{ id: string; name: string }[]> {
  const { rows } = await sql<{ id: string; name: string }>`
    select e.id, n.after as name from live_line e join live_line n on n.proof_id = e.proof_id and n.kind = e.kind and n.id = e.id
    where e.proof_id = ${proof} and e.kind = 'choice' and e.field = 'exists' and e.after = ${of} and n.field = 'name'
  `.execute(tx.q);
  return rows;
}
