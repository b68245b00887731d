import { type Field, type FieldChange, money, moneyExaminer, type Row, scopeOf, withoutScope } from '@ivory/core';
import { type RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { hasLine } from '../db/sql/proofLines.ts';
import { type BodyOf, type calls } from '@ivory/contract';
import { noteRun } from '../kept/keptRules.ts';
import { copyIn } from '../db/copy.ts';
import { type Db, inTwoTransactions, type Tx } from '../db/connect.ts';
import { readyRule } from './readyRule.ts';
import { OnHand } from './onHand.ts';
import { type ProductRows, ruleRows } from './ruleRows.ts';
import { ask } from '../asked/ask.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { examineBesideMoney, examineProof, isExamined } from '../changes/examine/examinations.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../changes/proof/proof.ts';
import { makeNewLineTable, takeInNewLines } from '../changes/propose/takeIn.ts';

/**
 * Puts what a rule changes into the proof in hand, over the whole set. It works from what the hand makes of the values that stand in the shop,
 * unless it is told to take its place or to leave such rows alone; the set, and prices of the moment, are those of the shop as it is `seen`,
 * where that is not now and for anybody.
 */
export async function putRule(
  db: Db,
  person: string,
  { question: text, title, rule, kept, onHand: how }: BodyOf<typeof calls.putRule>,
  seen?: Shop,
): Promise<void> {
  await inTwoTransactions(db, async (reading, tx) => {
    const shop = seen ?? (await readShop(reading));
    const { question } = ask(text, shop);
    const running = await readyRule(reading, rule, shop);
    const onHand = await OnHand.read(reading, person, running, how);
    const rows = ruleRows(reading, question, running, shop, onHand);
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, title);
    const isOfMoney = running.changed.every(({ key }) => key === 'price' || key === 'cost');
    const isAlone = !(await hasLine(tx, 'proof_line', proof));
    const isWrittenExamined = isAlone && isOfMoney;
    if (isWrittenExamined) await intoEmptyProof(tx, proof, edit, changes(rows, running, onHand, shop));
    else await besideOtherLines(tx, proof, edit, changes(rows, running, onHand, shop));
    if (isWrittenExamined) await examineBesideMoney(tx, proof, shop);
    else if (!isAlone || running.changed.some(({ kind, key }) => isExamined({ kind, field: withoutScope(key) })))
      await examineProof(tx, proof, await readShop(tx));
    if (kept !== undefined) await noteRun(tx, kept, await linesOfEdit(tx, proof, edit));
    await putAwayWhenEmpty(tx, proof);
  });
}

async function linesOfEdit(tx: Tx, proof: string, edit: number): Promise<number> {
  const { rows } = await sql<{ lines: number }>`
    select count(*)::int as lines from proof_line where proof_id = ${proof} and edit_no = ${edit}`.execute(tx.q);
  return firstRow(rows).lines;
}

type Changed = readonly [
  kind: string,
  id: string,
  field: string,
  scope: string,
  before: string | null,
  after: string | null,
  flags: number,
];

type Address = readonly [field: string, scope: string];
const ADDRESSES = new WeakMap<Field, Address>();
function address(field: Field): Address {
  let known = ADDRESSES.get(field);
  if (!known) ADDRESSES.set(field, (known = [withoutScope(field.key), scopeOf(field.key)]));
  return known;
}

/** The lines of what a rule changes, in batches as rows come, with what there is to look at of prices and costs. */
async function* changes(
  rows: AsyncIterable<readonly ProductRows[]>,
  running: RunningRule,
  onHand: OnHand,
  shop: Shop,
): AsyncGenerator<Changed[]> {
  const flagsOf = moneyFlags(shop);
  for await (const batch of rows) {
    const lines: Changed[] = [];
    for (const { product, skus } of batch) {
      const ran = running.run(product, skus);
      if (ran.product?.outcome.kind === 'changes') {
        const { id, outcome } = ran.product;
        for (const { field, before, after } of outcome.changes)
          lines.push(['product', id, ...address(field), onHand.before('product', id, field.key, before), after, 0]);
      }
      for (const [i, { outcome, row }] of ran.skus.entries()) {
        if (outcome.kind !== 'changes') continue;
        const flags = flagsOf(outcome.changes, row);
        const { id: sku } = skus[i]!;
        for (const { field, before, after } of outcome.changes)
          lines.push(['sku', sku, ...address(field), onHand.before('sku', sku, field.key, before), after, flags]);
      }
    }
    yield lines;
  }
}

/** What there is to look at of an SKU whose price or cost changes; its row is as the rule leaves it. */
function moneyFlags(shop: Shop): (changes: readonly FieldChange[], row: Row) => number {
  const examine = moneyExaminer(shop.settings);
  const amount = (value: string | null | undefined) => (value == null ? null : money(BigInt(value)));
  return (changes, row) => {
    if (!changes.some(({ field }) => field.key === 'price' || field.key === 'cost')) return 0;
    const price = changes.find(({ field }) => field.key === 'price');
    return examine({
      priceBefore: amount(price ? price.before : row.price),
      priceAfter: amount(row.price),
      costAfter: amount(row.cost),
      taxRate: Number(row.taxRate ?? 0),
    });
  };
}

type Lines = AsyncGenerator<readonly Changed[]>;

/** The straight road: every line is new, and examined as it is written. */
async function intoEmptyProof(tx: Tx, proof: string, edit: number, changed: Lines): Promise<void> {
  const lines = async function* () {
    for await (const batch of changed) yield batch.map((line) => [proof, edit, ...line]);
  };
  await copyIn(tx.client, 'proof_line (proof_id, edit_no, kind, id, field, scope, before, after, flags)', lines());
}

/** Beside what was proposed before: the same value has the newer proposal. */
async function besideOtherLines(tx: Tx, proof: string, edit: number, changed: Lines): Promise<void> {
  await makeNewLineTable(tx);
  const lines = async function* () {
    for await (const batch of changed)
      yield batch.map(([kind, id, field, scope, before, after]) => [kind, id, field, scope, before, after]);
  };
  await copyIn(tx.client, 'new_line (kind, id, field, scope, before, after)', lines());
  await takeInNewLines(tx, proof, edit);
}
