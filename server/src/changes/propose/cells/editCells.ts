import { type AnswerOf, type BodyOf, type calls, refusalWords } from '@ivory/contract';
import {
  addressKey,
  type Asking,
  type Field,
  type FieldValue,
  holdsOtherGoods,
  isEditable,
  keyWithScope,
  type KindKey,
  KINDS,
  type Line,
  placeOf,
  type Problem,
  readRelative,
  readValue,
  scopeOf,
  withoutScope,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inShortTransaction, inTransaction, type Tx } from '../../../db/connect.ts';
import { readShop, type Shop } from '../../../asked/names.ts';
import { withWrittenCodes } from '../../../asked/productCodes.ts';
import { Refusal } from '../../../refusal.ts';
import { examineAfter } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { FEW_CELLS, planForLines } from '../../proof/many.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../../proof/proof.ts';
import { standing } from '../../stores/stores.ts';
import { makeMissingCategories } from '../things/makeMissingCategories.ts';
import { dropUnusedChoices, makeMissingNames } from '../things/makeMissingNames.ts';
import { ofEachSku } from './ofEachSku.ts';
import { namesThatCannotBe } from '../namesInUse.ts';
import { linesThatFollow, refuseSetsInSets } from '../refuseFollowing.ts';
import { refuseRulesToThemselves } from '../refuseRules.ts';
import { refuseUnknownFiles } from '../refuseUnknownFiles.ts';
import { takeInLines } from '../takeIn.ts';

type Edits = BodyOf<typeof calls.editCells>;
type Edit = Edits['edits'][number];

/** The edited things; for SKUs that were edited through their product, also that product. */
interface Edited {
  readonly things: readonly { readonly kind: KindKey; readonly id: string }[];
  readonly productOf: ReadonlyMap<string, string>;
  /** What was not taken in. */
  readonly refused: readonly Refused[];
}
type Refused = Omit<AnswerOf<typeof calls.editCells>['refused'][number], 'place'> & { readonly place: Problem };

/**
 * Puts typed or pasted values into the proof in hand: all of them, or none when one cannot be read; those that can be, where that is asked
 * for, and then tells the others. Refuses where none can be. SKUs of a product that an edit is of are
 * those that answer in the shop as it is `seen`.
 */
export async function editCells(db: Db, person: string, asked: Edits, seen?: Shop): Promise<Edited> {
  const { title, make, partly } = asked;
  const within = asked.edits.length > FEW_CELLS ? inTransaction : inShortTransaction;
  return within(db, async (tx) => {
    const proof = await handProof(tx, person);
    const stands = await readShop(tx);
    const { edits, productOf } = await ofEachSku(tx, asked.edits, asked.question, seen ?? stands);
    // A price or a stock names nothing that the proof could make, and is no field that it makes.
    const isNaming = edits.some(({ kind, field: key }) => {
      const field = stands.register.at(kind, key);
      return field === undefined || field.refersTo !== undefined || field.type === 'rule';
    });
    const known = isNaming ? await askingOfProof(tx, proof) : stands;
    const fields = fieldsOf(edits, known);
    const edit = await beginEdit(tx, proof, title);
    const shop = make ? await makeMissingCategories(tx, proof, edit, edits, fields, known) : known;
    const made = await withProductsOf(
      tx,
      edits,
      fields,
      await makeMissingNames(tx, proof, edit, edits, fields, shop, make),
    );
    const before = await standingBefore(tx, edits, fields, shop);
    const proposed = await proposedBefore(tx, proof, edits, before);
    const read = linesOf(edits, fields, before, proposed, made);
    const all = [...read.lines.values()];
    const wrong = [...(await namesThatCannotBe(tx, proof, all)), ...(await linesThatFollow(tx, proof, all, made))].map(
      ({ line, problem }) => ({ ...cellOf(line), place: problem }),
    );
    const refused = [...read.refused, ...wrong];
    const isWrong = new Set(wrong.map(addressOf));
    const lines = all.filter((line) => !isWrong.has(addressKey(line)));
    if (refused.length > 0 && (!partly || lines.length === 0))
      throw new Refusal(
        'not valid',
        refusalWords.changes.nothingTakenIn,
        refused.slice(0, 20).map(({ place }) => place),
      );
    refuseRulesToThemselves(lines, made);
    await refuseUnknownFiles(tx, lines, made);
    await refuseSetsInSets(tx, proof, lines, made);
    await takeInLines(tx, proof, edit, lines);
    if (lines.some(({ field }) => field.startsWith('own:'))) await dropUnusedChoices(tx, proof);
    const edited = (...keys: string[]) => edits.some(({ field }) => keys.includes(field));
    if (edits.length > FEW_CELLS || edited('code')) await planForLines(tx, proof);
    await examineAfter(tx, proof, shop, lines);
    if (lines.some((line) => line.before === line.after)) await putAwayWhenEmpty(tx, proof);
    return { things: edits, productOf, refused };
  });
}

/** What the texts are read with, also those that name products by their codes. */
function withProductsOf(tx: Tx, edits: readonly Edit[], fields: ReadonlyMap<string, Field>, shop: Shop): Promise<Shop> {
  const ofProducts = edits.filter(({ kind, field }) => holdsOtherGoods(fields.get(`${kind} ${field}`)!));
  return withWrittenCodes(
    tx,
    shop,
    ofProducts.map(({ text }) => text),
  );
}

/** The fields that are edited, by kind and key; refuses those that the shop does not have. */
function fieldsOf(edits: readonly Edit[], { register }: Shop): ReadonlyMap<string, Field> {
  const fields = new Map<string, Field>();
  for (const { kind, field: key } of edits) {
    if (fields.has(`${kind} ${key}`)) continue;
    const field = register.at(kind, key);
    if (!field) throw new Refusal('clash', refusalWords.changes.fieldGone(key, KINDS[kind].many));
    fields.set(`${kind} ${key}`, field);
  }
  return fields;
}

interface Before {
  readonly value: FieldValue;
  /** What the thing is told from others by. */
  readonly called: string;
}

/** What stands of every value that is edited, by address; of a thing that is made in hand, that it is empty. */
async function standingBefore(
  tx: Tx,
  edits: readonly Edit[],
  fields: ReadonlyMap<string, Field>,
  { register }: Shop,
): Promise<ReadonlyMap<string, Before>> {
  const before = new Map<string, Before>();
  for (const [place, { kind, key }] of fields) {
    const ids = edits.filter((edit) => `${edit.kind} ${edit.field}` === place).map(({ id }) => id);
    const { join, value } = standing(kind, withoutScope(key), scopeOf(key), register);
    const { table, namedBy } = KINDS[kind];
    const { rows } = await sql<{ id: string; value: FieldValue; called: string }>`
      select l.id, ${value} as value, ${sql.ref(`thing.${namedBy}`)} as called
      from (select id, ${scopeOf(key)}::bigint as scope from unnest(${ids}::bigint[]) as x (id)) l
      join ${sql.table(table)} thing on thing.id = l.id ${join}
    `.execute(tx.q);
    for (const { id, value, called } of rows) before.set(addressOf({ kind, id, field: key }), { value, called });
  }
  return before;
}

const addressOf = ({ kind, id, field }: Pick<Edit, 'kind' | 'id' | 'field'>): string =>
  addressKey({ kind, id, field: withoutScope(field) as Line['field'], scope: scopeOf(field) });

/**
 * What the proof in hand makes already of cells that are changed by something, such as `+10 %`, and of things that it makes, whose
 * `exists` line is among them; by address.
 */
async function proposedBefore(
  tx: Tx,
  proof: string,
  edits: readonly Edit[],
  before: ReadonlyMap<string, Before>,
): Promise<ReadonlyMap<string, string | null>> {
  const asked = edits.filter(
    (edit) => KINDS[edit.kind].isList || /^\s*[+\-−*×]/.test(edit.text) || !before.has(addressOf(edit)),
  );
  if (asked.length === 0) return new Map();
  const { rows } = await sql<{ kind: KindKey; id: string; field: Line['field']; scope: string; after: string | null }>`
    select kind, id, field, scope, after from proof_line
    where proof_id = ${proof} and id = any(${asked.map(({ id }) => id)}::bigint[]) and not left_out
  `.execute(tx.q);
  return new Map(rows.map(({ after, ...address }) => [addressKey(address), after]));
}

/** The cell of a line. */
const cellOf = ({ kind, id, field, scope }: Line): Pick<Edit, 'kind' | 'id' | 'field'> => ({
  kind,
  id,
  field: keyWithScope(field, scope),
});

/**
 * One line a cell, and the cells that cannot be read. What is a product's may come from the rows of several of its SKUs, which must say the
 * same.
 */
function linesOf(
  edits: readonly Edit[],
  fields: ReadonlyMap<string, Field>,
  before: ReadonlyMap<string, Before>,
  proposed: ReadonlyMap<string, string | null>,
  asking: Asking,
): { readonly lines: ReadonlyMap<string, Line>; readonly refused: readonly Refused[] } {
  const refused: Refused[] = [];
  const lines = new Map<string, Line>();
  for (const { texts, ...edit } of eachOnce(edits)) {
    const { kind, id, field: key } = edit;
    // What was written last counts, but for what is a product's, whose rows must agree.
    const text = (kind === 'product' ? texts[0] : texts.at(-1))!;
    const field = fields.get(`${kind} ${key}`)!;
    const address = addressOf(edit);
    const isMade = proposed.has(addressKey({ kind, id, field: 'exists', scope: '0' }));
    const found = before.get(address) ?? (isMade ? { value: null, called: '' } : undefined);
    if (!found) throw new Refusal('clash', refusalWords.changes.editedRowGone);
    const stands = proposed.has(address) ? proposed.get(address)! : found.value;
    // What is set when a thing is made can be changed until it is.
    const canEdit = isEditable(field) || (field.onlyAtCreation && isMade);
    const readAs = (written: string) =>
      readRelative(field, written, stands, asking) ?? readValue(field, written, asking);
    const read = canEdit
      ? readAs(text)
      : { ok: false as const, problem: { code: 'field-read-only' as const, ...placeOf(field) } };
    const refuse = (problem: Problem) =>
      refused.push({ kind, id, field: key, place: { ...problem, row: found.called } });
    if (!read.ok) {
      refuse(read.problem);
      continue;
    }
    const others = kind === 'product' ? texts : [];
    const other = others.find((one) => {
      const also = readAs(one);
      return !also.ok || also.value !== read.value;
    });
    if (other !== undefined) {
      refuse({ code: 'differs-in-paste', ...placeOf(field), value: text, expected: other });
      continue;
    }
    const line = { kind, id, field: withoutScope(key) as Line['field'], scope: scopeOf(key) };
    lines.set(address, { ...line, before: found.value, after: read.value });
  }
  return { lines, refused };
}

/** Each cell once, with all that was written for it. */
function eachOnce(edits: readonly Edit[]): Iterable<Omit<Edit, 'text'> & { readonly texts: readonly string[] }> {
  const cells = new Map<string, Omit<Edit, 'text'> & { texts: string[] }>();
  for (const { text, ...edit } of edits) {
    const address = addressOf(edit);
    const cell = cells.get(address);
    if (!cell) cells.set(address, { ...edit, texts: [text] });
    else if (!cell.texts.includes(text)) cell.texts.push(text);
  }
  return cells.values();
}
