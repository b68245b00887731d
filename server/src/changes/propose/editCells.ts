import { type BodyOf, type calls } from '@ivory/contract';
import {
  field,
  FIELD_KEYS,
  type FieldKey,
  isEditable,
  type Line,
  type Names,
  type Problem,
  readRelative,
  readValue,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inShortTransaction, inTransaction, named, type Tx } from '../../db/connect.ts';
import { readShop } from '../../range/names.ts';
import { ROW_COLUMNS } from '../../range/rows.ts';
import { Refusal } from '../../refusal.ts';
import { examineCodes, examineMoneyLines, examineStock, examineTaxRates } from '../examine/examineProof.ts';
import { FEW_CELLS, planForLines } from '../proof/many.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../proof/proof.ts';
import { takeInLines } from './takeIn.ts';

type Edits = BodyOf<typeof calls.editCells>;

/** Puts typed or pasted cells into the proof in hand: all of them, or none when one cannot be read. */
export async function editCells(db: Db, person: string, { title, edits }: Edits): Promise<void> {
  const skus = [...new Set(edits.map(({ sku }) => sku))];
  const within = edits.length > FEW_CELLS ? inTransaction : inShortTransaction;
  await within(db, async (tx) => {
    const shop = await readShop(tx);
    const before = await rowsBefore(
      tx,
      skus,
      edits.some(({ field }) => field === 'description'),
    );
    const proof = await handProof(tx, person);
    const lines = [...linesOf(edits, before, await proposedBefore(tx, proof, edits, before), shop.names).values()];
    await takeInLines(tx, proof, await beginEdit(tx, proof, title), lines);
    const edited = (...fields: FieldKey[]) => edits.some(({ field }) => fields.includes(field));
    if (edits.length > FEW_CELLS || edited('code')) await planForLines(tx, proof);
    if (edited('price', 'cost')) await examineMoneyLines(tx, proof, shop.settings, skus);
    if (edited('taxRate')) await examineMoneyLines(tx, proof, shop.settings);
    if (edited('taxRate', 'price', 'cost')) await examineTaxRates(tx, proof, shop.settings);
    if (edited('stock')) await examineStock(tx, proof);
    if (edited('code')) await examineCodes(tx, proof);
    if (lines.some((line) => line.before === line.after)) await putAwayWhenEmpty(tx, proof);
  });
}

interface Before {
  readonly row: (string | null)[];
  readonly description: string | null;
}

async function rowsBefore(tx: Tx, skus: readonly string[], described: boolean): Promise<Map<string, Before>> {
  const description = described ? sql`(select description from product p where p.id = s.product_id)` : sql`null`;
  const query = sql`
    select ${description}, ${ROW_COLUMNS} from shelf s where s.sku_id = any(${skus}::bigint[])
  `.compile(tx.q);
  const result = await tx.client.query<(string | null)[]>({
    ...named(query.sql),
    values: [...query.parameters],
    rowMode: 'array',
    types: { getTypeParser: () => (value: unknown) => value },
  });
  return new Map(result.rows.map(([description = null, ...row]) => [row[0]!, { row, description }]));
}

const valueOf = ({ row, description }: Before, key: FieldKey): string | null =>
  key === 'description' ? description : (row[3 + FIELD_KEYS.indexOf(key)] ?? null);

/** What the proof in hand makes already of cells that are changed by something, such as `+10 %`; by level, id and field. */
async function proposedBefore(
  tx: Tx,
  proof: string,
  edits: Edits['edits'],
  before: ReadonlyMap<string, Before>,
): Promise<ReadonlyMap<string, string | null>> {
  const changed = edits.filter(({ text }) => /^\s*[+\-−*×]/.test(text));
  if (changed.length === 0) return new Map();
  const ids = changed.flatMap(({ sku }) => [sku, before.get(sku)?.row[1] ?? '0']);
  const { rows } = await sql<{ key: string; after: string | null }>`
    select level || ' ' || id || ' ' || field as key, after from proof_line
    where proof_id = ${proof} and id = any(${ids}::bigint[]) and not left_out
  `.execute(tx.q);
  return new Map(rows.map(({ key, after }) => [key, after]));
}

/** One line a cell; the last one wins where a product's value was typed on several of its SKUs. */
function linesOf(
  edits: Edits['edits'],
  before: ReadonlyMap<string, Before>,
  proposed: ReadonlyMap<string, string | null>,
  names: Names,
): Map<string, Line> {
  const problems: Problem[] = [];
  const lines = new Map<string, Line>();
  for (const { sku, field: key, text } of edits) {
    const found = before.get(sku);
    if (!found)
      throw new Refusal('clash', 'A row that was edited is not in the shop any more. Ask the question again.');
    const row = valueOf(found, 'code') ?? '';
    const { level } = field(key);
    const id = level === 'product' ? found.row[1]! : sku;
    const address = `${level} ${id} ${key}`;
    const standing =
      lines.get(address)?.after ?? (proposed.has(address) ? proposed.get(address)! : valueOf(found, key));
    const read = isEditable(key)
      ? (readRelative(field(key), text, standing, names) ?? readValue(field(key), text, names))
      : { ok: false as const, problem: { code: 'field-read-only' as const, field: key } };
    if (!read.ok) {
      problems.push({ ...read.problem, row });
      continue;
    }
    lines.set(address, { level, id, field: key, before: valueOf(found, key), after: read.value });
  }
  if (problems.length > 0) throw new Refusal('not valid', 'Nothing was taken in.', problems.slice(0, 20));
  return lines;
}
