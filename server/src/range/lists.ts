import { type AnswerOf, type calls, type ListOf } from '@ivory/contract';
import { type Outcome, printQuestion, type Row, standsIn } from '@ivory/core';
import { isCounted } from '@ivory/core/rules';
import { type RawBuilder, sql } from 'kysely';
import { firstRow } from '../db/firstRow.ts';
import { journalLines } from '../changes/journal/journal.ts';
import { filtered } from '../changes/lookedThrough/lines.ts';
import { repriced } from '../changes/lookedThrough/proofSpread.ts';
import { copyIn } from '../db/copy.ts';
import { type Db, inTwoTransactions, type Tx } from '../db/connect.ts';
import { countedByFormula } from '../prices/tryFormula.ts';
import { OnHand } from '../rules/onHand.ts';
import { readyRule } from '../rules/readyRule.ts';
import { ruleRows } from '../rules/ruleRows.ts';
import { ask } from '../asked/ask.ts';
import { askingOfProof } from '../asked/askingOfProof.ts';
import { readShop } from '../asked/names.ts';

const KEPT = sql.raw(`interval '7 days'`);

/**
 * Opens a number as a list of exactly the SKUs that it counts, for numbers that no question asks for.
 * The title becomes the list's; where it is taken, a number is put behind it. Returns the question that asks for the list.
 */
export async function openList(
  db: Db,
  person: string,
  title: string,
  of: ListOf,
): Promise<AnswerOf<typeof calls.openList>> {
  const kept = await inTwoTransactions(db, async (reading, tx) => {
    const skus = await members(reading, tx, person, of);
    const notFound = of.kind === 'codes' ? await codesNotFound(tx) : [];
    const { rows } = await sql<{ id: string; skus: number }>`
      insert into sku_list (title, skus)
      select ${await freeTitle(tx, title)}, coalesce(array_agg(s.sku_id order by s.sku_id), '{}')
      from shelf s where s.sku_id in (${skus})
      returning id, cardinality(skus) as skus
    `.execute(tx.q);
    return { ...firstRow(rows), notFound };
  });
  const shop = await readShop(db);
  const question = printQuestion({ kind: 'compare', field: 'list', comparison: 'is', values: [kept.id] }, shop);
  return { question, skus: kept.skus, notFound: kept.notFound };
}

/** Forgets lists that were opened long ago, unless a set, a rule or an assortment that is kept asks for them. */
export async function forgetOldLists(db: Db): Promise<void> {
  await sql`
    delete from sku_list l where made_at < now() - ${KEPT} and not exists (
      select from (select question from kept_set union all select question from kept_rule union all select rule from assortment) k
      where k.question like '%"list"%' and k.question like '%"' || l.id || '"%')`.execute(db.q);
}

async function freeTitle(tx: Tx, title: string): Promise<string> {
  await sql`lock table sku_list in share row exclusive mode`.execute(tx.q);
  const { rows } = await sql<{ n: number }>`
    select n from generate_series(1, 100000) n
    where not exists (select from sku_list where title_key = fold(${title} || case when n = 1 then '' else ' ' || n end))
    limit 1
  `.execute(tx.q);
  const { n } = firstRow(rows);
  return n === 1 ? title : `${title} ${n}`;
}

/** A query for the ids of the SKUs; those of a product for what stands on the product. */
async function members(reading: Tx, tx: Tx, person: string, of: ListOf): Promise<RawBuilder<unknown>> {
  switch (of.kind) {
    case 'proof':
      return touched(
        sql`select l.kind, l.id from proof_line l where ${filtered(of.id, of.filter, await askingOfProof(tx, of.id))} and not l.left_out`,
      );
    case 'landing':
      return touched(sql`select kind, id from (${journalLines(of.id)}) j`);
    case 'codes':
      return ofCodes(tx, of.codes);
    case 'delivery':
      return sql`select unnest(skus) from delivery where id = ${of.id}`;
    case 'proof bar':
      return counted(tx, inBar(reading, of));
    case 'formula':
      return countedByFormula(tx, of, of.count);
    case 'rule':
      return counted(tx, countedByRule(reading, person, of));
  }
}

const touched = (lines: RawBuilder<unknown>) => sql`
  with line as materialized (${lines})
  select id from line where kind = 'sku'
  union select k.id from line join sku k on k.product_id = line.id where line.kind = 'product'`;

/** The SKUs of a column of codes, which stands in the temporary table `pasted`: by their code, or else by their GTIN. */
async function ofCodes(tx: Tx, codes: readonly string[]): Promise<RawBuilder<unknown>> {
  await sql`
    create temp table pasted on commit drop as
    select distinct on (p.place) p.place, p.code, coalesce(k.id, g.id) as sku_id
    from (select min(place) as place, min(code) as code, code_key(code) as key
      from unnest(${codes}::text[]) with ordinality as c (code, place) group by code_key(code)) p
    left join sku k on k.code_key = p.key
    left join sku g on k.id is null and p.code ~ '^[0-9]{8,14}$' and lpad(g.gtin, 14, '0') = lpad(p.code, 14, '0')
  `.execute(tx.q);
  return sql`select sku_id from pasted where sku_id is not null`;
}

async function codesNotFound(tx: Tx): Promise<string[]> {
  const { rows } = await sql<{ code: string }>`select code from pasted where sku_id is null order by place`.execute(
    tx.q,
  );
  return rows.map(({ code }) => code);
}

/** Takes in ids as they are found on the other connection. */
async function counted(
  tx: Tx,
  found: AsyncGenerator<readonly { readonly id: string }[]>,
): Promise<RawBuilder<unknown>> {
  await sql`create temp table counted (id bigint) on commit drop`.execute(tx.q);
  const ids = async function* () {
    for await (const rows of found) yield rows.map(({ id }) => [id]);
  };
  await copyIn(tx.client, 'counted', ids());
  return sql`select id from counted`;
}

/** The SKUs of things that a number of a rule counts: of a product all of those that answer. */
async function* countedByRule(
  reading: Tx,
  person: string,
  { question: text, rule, count, onHand: how }: Extract<ListOf, { kind: 'rule' }>,
) {
  const shop = await readShop(reading);
  const running = await readyRule(reading, rule, shop);
  const counts = (kind: 'product' | 'sku', { outcome, row }: { readonly outcome: Outcome; readonly row: Row }) =>
    isCounted(count, rule, kind, outcome, row, shop);
  const onHand = await OnHand.read(reading, person, running, how);
  for await (const batch of ruleRows(reading, ask(text, shop).question, running, shop, onHand))
    yield batch.flatMap(({ product, skus }) => {
      const ran = running.run(product, skus);
      return ran.product && counts('product', ran.product)
        ? skus
        : skus.filter((_, i) => ran.skus[i] && counts('sku', ran.skus[i]));
    });
}

async function* inBar(reading: Tx, of: Extract<ListOf, { kind: 'proof bar' }>) {
  const { currency } = (await readShop(reading)).names;
  for await (const rows of repriced(reading, of.id)) yield rows.filter((row) => standsIn(of, row[of.side], currency));
}
