import {
  type Field,
  fold,
  holdsSeveral,
  howMade,
  type KindKey,
  type Line,
  listKey,
  type NameList,
  namesOf,
  partsOf,
  readText,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../../db/connect.ts';
import { type Shop } from '../../../asked/names.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

/** A text that was typed into a field of things of a kind. */
export interface Typed {
  readonly kind: string;
  readonly field: string;
  readonly text: string;
}

/** Whether what a field names and the shop does not have can be made with it. */
export const isMadeByName = (field: Field | undefined): boolean => howMade(field) === 'name';

/**
 * What a cell names and the shop does not have is made with the cell: values of options always, for colours and sizes are as many as
 * there are goods; brands, tags and the like, and values of attributes, where that is asked for. Gives the shop with the names of
 * those that are made, and those that the proof made before.
 */
export async function makeMissingNames(
  tx: Tx,
  proof: string,
  edit: number,
  edits: readonly Typed[],
  fields: ReadonlyMap<string, Field>,
  shop: Shop,
  isAsked: boolean,
): Promise<Shop> {
  const { names } = shop;
  const lists = new Map(names.lists);
  for (const field of fields.values()) {
    const kind = field.refersTo?.kind;
    const isChoice = kind === 'choice';
    if (!isMadeByName(field) || !(isChoice || isAsked)) continue;
    const key = listKey(field.refersTo!);
    const stood = lists.get(key) ?? namesOf(field, names);
    const known = new Map(stood.byId);
    if (isChoice) for (const { id, name } of await proposedChoices(tx, proof, field.refersTo!.of!)) known.set(id, name);
    const list = stood.withNames(known);
    const wanted = edits.filter(({ kind, field: key }) => kind === field.kind && key === field.key);
    const missing = isAsked || field.own?.of === 'option' ? missingIn(wanted, field, list) : [];
    const ids = new NewIds(tx, kind as KindKey, Math.max(1, missing.length));
    const lines: Line[] = [];
    for (const name of missing) {
      const id = await ids.next();
      known.set(id, name);
      lines.push(...linesOfMade(kind as KindKey, id, field.refersTo!.of ?? 'shop', name));
    }
    if (lines.length > 0) await takeInLines(tx, proof, edit, lines);
    lists.set(key, stood.withNames(known));
  }
  return { ...shop, names: { ...names, lists } };
}

/** Names in cells that are missing from a list, each once. Unreadable ones are refused later, with their cells. */
function missingIn(wanted: readonly Typed[], field: Field, list: NameList): string[] {
  const missing = new Map<string, string>();
  for (const { text } of wanted) {
    const isName = (part: string) => list.find(part) !== undefined;
    for (const part of field.type === 'references' ? partsOf(text, isName) : [text]) {
      const read = readText(part.replace(/\s+/g, ' '), field.longest);
      if (
        read.ok &&
        read.value !== '' &&
        !holdsSeveral(read.value) &&
        !isName(read.value) &&
        !missing.has(fold(read.value))
      )
        missing.set(fold(read.value), read.value);
    }
  }
  return [...missing.values()];
}

/** The lines that make a thing of a name: a value of an option or attribute, or what hangs on the shop alone. */
const linesOfMade = (kind: KindKey, id: string, of: string, name: string): Line[] =>
  (
    [
      ['exists', of],
      ['name', name],
    ] as const
  ).map(([field, after]) => ({ kind, id, field, scope: '0', before: null, after }));

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
