import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import {
  isFieldKind,
  isEditable,
  isTree,
  KINDS,
  type KindKey,
  type Line,
  placeOf,
  type Problem,
  readValue,
} from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { Refusal } from '../../../refusal.ts';
import { examineAfter } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { refuseNamesInUse } from '../namesInUse.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

type Making = BodyOf<typeof calls.makeThings>;

/**
 * Proposes new things of a kind that stands on the page of lists, each with the texts of its fields; gives their ids. Refuses kinds
 * that are made otherwise, values that cannot be read, and names that are in use.
 */
export async function makeThings(db: Db, person: string, { kind, of, things }: Making): Promise<string[]> {
  const { isList, many, one } = KINDS[kind];
  if (!isList) throw new Refusal('not valid', refusalWords.changes.notMadeHere(many));
  return inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const asking = await askingOfProof(tx, proof);
    const { register } = asking;
    if (kind === 'choice') await refuseWithoutField(tx, proof, of);
    const edit = await beginEdit(tx, proof, things.length === 1 ? `New ${one}` : `${things.length} new ${many}`);
    const newIds = new NewIds(tx, kind, things.length);
    const place = await placeBehind(tx, kind, of);
    const problems: Problem[] = [];
    const lines: Line[] = [];
    const ids: string[] = [];
    for (const [i, texts] of things.entries()) {
      const id = await newIds.next();
      ids.push(id);
      const line = (field: Line['field'], after: string | null) =>
        lines.push({ kind, id, field, scope: '0', before: null, after });
      const given = Object.keys(texts).find((key) => !register.at(kind, key));
      if (given !== undefined) throw new Refusal('not valid', refusalWords.changes.noSuchField(one, given));
      let parent = '';
      for (const field of register.of(kind)) {
        if (!isEditable(field) && !field.onlyAtCreation) continue;
        const { required: _, ...mayBeEmpty } = field;
        const read = readValue(mayBeEmpty, texts[field.key] ?? '', asking);
        if (!read.ok) problems.push({ ...read.problem, row: texts['name'] ?? '' });
        else if (field.key === 'parent') parent = read.value ?? '';
        else if (read.value !== null) line(field.key, read.value);
        else if (field.key === 'name') problems.push({ code: 'required', ...placeOf(field) });
        else if (field.key === 'place') line('place', String(place + i));
      }
      line('exists', hangsOn(kind, of, parent));
    }
    if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
    await takeInLines(tx, proof, edit, lines);
    await refuseNamesInUse(tx, proof, lines);
    await examineAfter(tx, proof, asking, lines);
    return ids;
  });
}

/** What the line that makes a thing carries. */
function hangsOn(kind: KindKey, of: string | null, parent: string): string {
  if (kind === 'choice') return of!;
  if (isTree(kind)) return parent;
  return isFieldKind(kind) ? kind : 'shop';
}

/** A value is one of an option or an attribute, which may be made by the same proof. */
async function refuseWithoutField(tx: Tx, proof: string, of: string | null): Promise<void> {
  const { rows } = await sql`
    select from own_field where id = ${of}::bigint and type in ('choice', 'choices')
    union all
    select from live_line l where l.proof_id = ${proof} and l.kind in ('option', 'attribute') and l.id = ${of}::bigint and l.field = 'exists'
  `.execute(tx.q);
  if (rows.length === 0) throw new Refusal('not valid', refusalWords.changes.valueWithoutField);
}

/** The place behind all that there are. */
async function placeBehind(tx: Tx, kind: KindKey, of: string | null): Promise<number> {
  const { table, isOrdered } = KINDS[kind];
  if (!isOrdered) return 0;
  const { rows } = await sql<{ place: number }>`
    select coalesce(max(place), 0) + 1 as place from ${sql.table(table)} ${kind === 'choice' ? sql`where field_id = ${of}` : sql``}
  `.execute(tx.q);
  return firstRow(rows).place;
}
