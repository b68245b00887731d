import { applyPriceRule, moneyExaminer, type PriceRule } from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../../db/copy.ts';
import { type Db, inTwoTransactions, type Tx } from '../../db/connect.ts';
import { questionSql } from '../../db/questionSql.ts';
import { pricedRows, type PricedSku } from '../../prices/pricedRows.ts';
import { ask } from '../../range/ask.ts';
import { readShop, type Shop } from '../../range/names.ts';
import { examineProof } from '../examine/examineProof.ts';
import { planForLines } from '../proof/many.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../proof/proof.ts';
import { makeNewLineTable, takeInNewLines } from './takeIn.ts';

/** Puts what a rule changes into the proof in hand, over the whole set. It works from the prices that stand in the shop. */
export async function putRule(db: Db, person: string, text: string, title: string, rule: PriceRule): Promise<void> {
  await inTwoTransactions(db, async (reading, tx) => {
    const shop = await readShop(reading);
    const { question } = ask(text, shop);
    const rows = pricedRows(reading, questionSql(question, shop));
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, title);
    const { rows: any } = await sql`select from proof_line where proof_id = ${proof} limit 1`.execute(tx.q);
    if (any.length === 0) await intoEmptyProof(tx, proof, edit, rows, rule, shop);
    else await besideOtherLines(tx, proof, edit, rows, rule, shop);
    await putAwayWhenEmpty(tx, proof);
  });
}

type Rows = AsyncIterable<readonly PricedSku[]>;

/** In batches, as rows come. */
async function* changes(rows: Rows, rule: PriceRule, shop: Shop) {
  const examine = moneyExaminer(shop.settings);
  for await (const batch of rows) {
    const changed = [];
    for (const row of batch) {
      const outcome = applyPriceRule(rule, row, shop.names.currency);
      if (outcome.kind !== 'changes') continue;
      const { id, price: before, cost: costAfter, taxRate } = row;
      const { after } = outcome;
      const flags = examine({ priceBefore: before, priceAfter: after, costAfter, taxRate });
      changed.push({ id, before, after, flags });
    }
    yield changed;
  }
}

/** The straight road: every line is new, and examined as it is written. */
async function intoEmptyProof(
  tx: Tx,
  proof: string,
  edit: number,
  rows: Rows,
  rule: PriceRule,
  shop: Shop,
): Promise<void> {
  const lines = async function* () {
    for await (const batch of changes(rows, rule, shop))
      yield batch.map(({ id, before, after, flags }) => [proof, edit, 'sku', id, 'price', before, after, flags]);
  };
  const target = 'proof_line (proof_id, edit_no, kind, id, field, before, after, flags)';
  await copyIn(tx.client, target, lines());
}

/** Beside what was proposed before: the same cell has the newer value, and all is examined together. */
async function besideOtherLines(
  tx: Tx,
  proof: string,
  edit: number,
  rows: Rows,
  rule: PriceRule,
  shop: Shop,
): Promise<void> {
  await makeNewLineTable(tx);
  const lines = async function* () {
    for await (const batch of changes(rows, rule, shop))
      yield batch.map(({ id, before, after }) => ['sku', id, 'price', before, after]);
  };
  await copyIn(tx.client, 'new_line (kind, id, field, before, after)', lines());
  await takeInNewLines(tx, proof, edit);
  await planForLines(tx, proof);
  await examineProof(tx, proof, shop.settings);
}
