import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { type Line, placeOf, type Problem, readValue } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { Refusal } from '../../../refusal.ts';
import { examineAfter } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../../proof/proof.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

type Asked = BodyOf<typeof calls.setQuantityPrices>;

/** A price that holds from so many pieces on, in canonical text. */
interface Step {
  readonly from: string;
  readonly price: string;
}

/**
 * Proposes a product's prices by quantity, the same for all its SKUs: each step is the price in the sale of the shop that holds for anybody, at
 * all times, from so many pieces on, which is made where there is none. What it had in others of these goes. Refuses rows that do not
 * read, and a number of pieces that stands twice.
 */
export async function setQuantityPrices(db: Db, person: string, { product, rows }: Asked): Promise<void> {
  await inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const shop = await askingOfProof(tx, proof);
    const steps = stepsOf(rows, shop);
    const { rows: skus } = await sql<{
      id: string;
    }>`select id from sku where product_id = ${product} order by id`.execute(tx.q);
    if (skus.length === 0) throw new Refusal('not found', refusalWords.range.productGone);
    const edit = await beginEdit(tx, proof, 'Prices by quantity');
    const sales = await alwaysFrom(tx, proof);
    const ids = new NewIds(tx, 'sale', Math.max(1, steps.length));
    const lines: Line[] = [];
    for (const { from } of steps) {
      if (sales.has(from)) continue;
      const id = await ids.next();
      sales.set(from, id);
      lines.push(...linesOfSale(id, await freeName(tx, proof, `From ${from} pieces`), from));
    }
    const standing = await standingIn(tx, proof, product, [...sales.values()]);
    for (const [from, sale] of sales) {
      const after = steps.find((step) => step.from === from)?.price ?? null;
      for (const { id } of skus) {
        const { before = null, now = null } = standing.get(`${id} ${sale}`) ?? {};
        if (now !== after) lines.push({ kind: 'sku', id, field: 'salePrice', scope: sale, before, after });
      }
    }
    await takeInLines(tx, proof, edit, lines);
    await examineAfter(tx, proof, shop, lines);
    await putAwayWhenEmpty(tx, proof);
  });
}

function stepsOf(rows: Asked['rows'], shop: Awaited<ReturnType<typeof askingOfProof>>): Step[] {
  const pieces = shop.register.at('sale', 'fromPieces')!;
  const money = { ...shop.register.get('price'), required: true as const };
  const problems: Problem[] = [];
  const steps: Step[] = [];
  for (const [i, { from, price }] of rows.entries()) {
    const row = String(i + 1);
    const read = [readValue({ ...pieces, required: true }, from, shop), readValue(money, price, shop)] as const;
    for (const one of read) if (!one.ok) problems.push({ ...one.problem, row });
    const [many, amount] = read;
    if (!many.ok || !amount.ok) continue;
    if (steps.some((step) => step.from === many.value))
      problems.push({ code: 'table-twice', value: from, expected: row, row, ...placeOf(pieces) });
    else steps.push({ from: many.value!, price: amount.value! });
  }
  if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems);
  return steps;
}

/** The sales that hold for anybody, at all times, from a number of pieces on, by that number: of the shop, and those that the proof makes. */
async function alwaysFrom(tx: Tx, proof: string): Promise<Map<string, string>> {
  const { rows } = await sql<{ pieces: string; id: string }>`
    select distinct on (pieces) pieces::text, id::text from (
      select s.least_pieces as pieces, s.id from sale s
        where s.least_pieces is not null and s.from_day is null and s.until_day is null and s.group_id is null and not s.above and s.reduction is null
          and not exists (select from live_line l where l.proof_id = ${proof} and l.kind = 'sale' and l.id = s.id)
      union all
      select p.after::int, p.id from live_line p join live_line e on e.proof_id = p.proof_id and e.kind = 'sale' and e.id = p.id and e.field = 'exists'
        where p.proof_id = ${proof} and p.kind = 'sale' and p.field = 'fromPieces' and p.after is not null and e.after is not null
          and not exists (select from live_line o where o.proof_id = ${proof} and o.kind = 'sale' and o.id = p.id and o.after is not null
            and o.field in ('from', 'until', 'group', 'reduction'))) x
    order by pieces, id`.execute(tx.q);
  return new Map(rows.map(({ pieces, id }) => [pieces, id]));
}

const linesOfSale = (id: string, name: string, from: string): Line[] =>
  (
    [
      ['exists', 'shop'],
      ['name', name],
      ['fromPieces', from],
      ['above', 'no'],
    ] as const
  ).map(([field, after]) => ({ kind: 'sale', id, field, scope: '0', before: null, after }));

/** A name that no sale of the shop or the proof has. */
async function freeName(tx: Tx, proof: string, name: string): Promise<string> {
  const { rows } = await sql<{ n: number }>`
    select n from generate_series(1, 1000) n cross join lateral (select ${name} || case when n = 1 then '' else ' ' || n end as called) c
    where not exists (select from sale where name_key = fold(c.called))
      and not exists (select from live_line where proof_id = ${proof} and kind = 'sale' and field = 'name' and fold(after) = fold(c.called))
    order by n limit 1`.execute(tx.q);
  const { n } = firstRow(rows);
  return n === 1 ? name : `${name} ${n}`;
}

/** What the SKUs of a product have in some sales: in the shop, and as the proof has it; by SKU and sale. */
async function standingIn(tx: Tx, proof: string, product: string, sales: readonly string[]) {
  const { rows } = await sql<{ id: string; sale: string; before: string | null; now: string | null }>`
    select k.id::text as id, s.id::text as sale, l.price as before, case when h.id is null then l.price else h.after end as now
    from sku k cross join unnest(${sales}::bigint[]) as s (id) left join sale_line l on l.sku_id = k.id and l.sale_id = s.id
    left join live_line h on h.proof_id = ${proof} and h.kind = 'sku' and h.field = 'salePrice' and h.id = k.id and h.scope = s.id
    where k.product_id = ${product}`.execute(tx.q);
  return new Map(rows.map(({ id, sale, before, now }) => [`${id} ${sale}`, { before, now }]));
}
