import { type FieldKey, KINDS, type KindKey } from '@ivory/core';
import { ruleOf } from '@ivory/core/testing';
import fc from 'fast-check';
import { sql } from 'kysely';
import { journalLines } from '../changes/journal/journal.ts';
import { land } from '../changes/land/land.ts';
import { leaveOut } from '../changes/lookedThrough/lines.ts';
import { discard } from '../changes/proof/proof.ts';
import { setAside, takeUp } from '../changes/proof/setAside.ts';
import { redoLast, undoLast } from '../changes/propose/undo.ts';
import { copyProduct } from '../changes/propose/copies/copyProduct.ts';
import { copySale } from '../changes/propose/copies/copySale.ts';
import { editCells } from '../changes/propose/cells/editCells.ts';
import { makeProduct } from '../changes/propose/goods/makeGoods.ts';
import { makeThings } from '../changes/propose/things/makeThings.ts';
import { moveThings } from '../changes/propose/things/moveThings.ts';
import { putRule } from '../rules/putRule.ts';
import { putStep } from '../changes/propose/cells/putStep.ts';
import { setQuantityPrices } from '../changes/propose/cells/quantityPrices.ts';
import { removeThings } from '../changes/propose/things/removeThings.ts';
import { takeBack } from '../changes/propose/takeBack.ts';
import { takeSkusAway } from '../changes/propose/goods/takeSkusAway.ts';
import { inTransaction } from '../db/connect.ts';
import { madeBy } from '../asked/askingOfProof.ts';
import { readShop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { placeOrder } from '../shop/orders.ts';
import { OF_PRODUCTS, OF_SKUS, OF_THINGS, QUESTIONS, RULES, THINGS } from './merchantWords.ts';
import { FILE_ACTS } from './merchantFiles.ts';
import { PLAN_ACTS } from './merchantPlans.ts';
import { type ActNumbers, chosen, type Merchants } from './merchants.ts';

/** One thing that a merchant does. */
export interface Act extends ActNumbers {
  readonly do: keyof typeof ACTS;
}

type Edits = Parameters<typeof editCells>[2]['edits'];

/** Types values by hand, all of them or none. */
const edit = (m: Merchants, act: ActNumbers, title: string, edits: Edits, make = false) =>
  editCells(m.db, m.person(act), { title, question: '', partly: false, make, edits });

/** The fields of goods that things have which a hand makes, and texts for them. */
const GIVEN: Readonly<Partial<Record<KindKey, { kind: 'product' | 'sku'; field: string; texts: readonly string[] }>>> =
  {
    option: { kind: 'sku', field: 'own:', texts: ['Round', 'Square', ''] },
    attribute: { kind: 'product', field: 'own:', texts: ['Laid', 'Wove', ''] },
    sale: { kind: 'sku', field: 'salePrice@', texts: ['as the sale', '0.50', ''] },
  };

/** What can be done; each says what it did, or nothing where there was nothing to do it to. */
const ACTS = {
  cell: async (m: Merchants, act: ActNumbers) => {
    const sku = await m.pick('sku', act.which);
    const field = chosen(Object.keys(OF_SKUS), act.what) as FieldKey;
    const text = chosen(OF_SKUS[field]!, act.how);
    await edit(m, act, 'Cells', [{ kind: 'sku', id: sku!.id, field, text }]);
    return `${field} of SKU ${sku!.name} to ${text}`;
  },
  fact: async (m: Merchants, act: ActNumbers) => {
    const product = await m.pick('product', act.which);
    const field = chosen(Object.keys(OF_PRODUCTS), act.what) as FieldKey;
    const of = OF_PRODUCTS[field]!;
    const text = typeof of === 'string' ? ((await m.pick(KINDS[of].table, act.how))?.name ?? '') : chosen(of, act.how);
    const edits = [{ kind: 'product' as const, id: product!.id, field, text }];
    await edit(m, act, 'Facts', edits, act.how % 2 === 0);
    return `${field} of ${product!.name} to ${text}`;
  },
  price: async (m: Merchants, act: ActNumbers) => {
    const [sku, sale] = [await m.pick('sku', act.which), await m.pick('sale', act.what)];
    if (!sale) return undefined;
    const text = chosen(['as the sale', '0.10', '3.00', '', '0'], act.how);
    const edits = [{ kind: 'sku' as const, id: sku!.id, field: `salePrice@${sale.id}` as FieldKey, text }];
    await edit(m, act, 'In a sale', edits);
    return `price of ${sku!.name} in ${sale.name} to ${text}`;
  },
  thing: async (m: Merchants, act: ActNumbers) => {
    const kinds = Object.keys(OF_THINGS) as KindKey[];
    const kind = chosen(kinds, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const fields = OF_THINGS[kind]!;
    const field = chosen(Object.keys(fields), act.how) as FieldKey;
    const text = chosen(fields[field]!, act.which);
    await edit(m, act, 'Things', [{ kind, id: one.id, field, text }]);
    return `${field} of ${kind} ${one.name} to ${text}`;
  },
  /** What only the hand makes gets values all the same: a price in its sale, a value of its option or attribute. */
  given: async (m: Merchants, act: ActNumbers) => {
    const hand = await m.hand(m.person(act));
    const made = hand === undefined ? [] : await madeBy(m.db.q, hand);
    const one = made.filter(({ kind, of }) => of !== null && GIVEN[kind] !== undefined)[act.what % 3];
    if (!one) return undefined;
    const { kind, field, texts } = GIVEN[one.kind]!;
    const goods = await m.pick(KINDS[kind].table, act.which);
    const text = chosen(texts, act.how);
    await edit(m, act, 'Given', [{ kind, id: goods!.id, field: `${field}${one.id}` as FieldKey, text }], true);
    return `${one.kind} ${one.name}, which the hand makes, of ${kind} ${goods!.name} to ${text}`;
  },
  archive: async (m: Merchants, act: ActNumbers) => {
    const product = await m.pick('product', act.which);
    const text = chosen(['yes', 'no'], act.how);
    await edit(m, act, 'Archive', [{ kind: 'product', id: product!.id, field: 'clearedAway', text }]);
    return `${product!.name} cleared away: ${text}`;
  },
  quantities: async (m: Merchants, act: ActNumbers) => {
    const product = await m.pick('product', act.which);
    const rows = [
      { from: '10', price: '3.00' },
      { from: String(20 + (act.what % 3)), price: '2.00' },
    ].slice(0, act.how % 3);
    await setQuantityPrices(m.db, m.person(act), { product: product!.id, rows });
    return `${rows.length} prices by quantity of ${product!.name}`;
  },
  name: async (m: Merchants, act: ActNumbers) => {
    const kind = chosen(THINGS, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const edits = [{ kind, id: one.id, field: 'name' as const, text: `Named ${act.how % 3}` }];
    await edit(m, act, 'Names', edits);
    return `name of ${kind} ${one.name}`;
  },
  make: async (m: Merchants, act: ActNumbers) => {
    const kind = chosen(THINGS, act.what);
    const of = kind === 'choice' ? '1' : null;
    const fields = Object.entries(OF_THINGS[kind] ?? {}).map(([field, texts]): [string, string] => [
      field,
      chosen(texts, act.how),
    ]);
    const more: Record<string, string> = kind === 'attribute' ? { type: 'text' } : {};
    await makeThings(m.db, m.person(act), {
      kind,
      of,
      things: [{ name: `Made ${act.which % 7}`, ...Object.fromEntries<string>(fields), ...more }],
    });
    return `made ${kind}`;
  },
  remove: async (m: Merchants, act: ActNumbers) => {
    const kind = chosen(THINGS, act.what);
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    await removeThings(m.db, m.person(act), { kind, ids: [one.id], into: null });
    return `deleted ${kind} ${one.name}`;
  },
  merge: async (m: Merchants, act: ActNumbers) => {
    const kind = chosen(THINGS, act.what);
    const [one, into] = [await m.pick(KINDS[kind].table, act.which), await m.pick(KINDS[kind].table, act.how)];
    if (!one || !into) return undefined;
    await removeThings(m.db, m.person(act), { kind, ids: [one.id], into: into.id });
    return `merged ${kind} ${one.name} into ${into.name}`;
  },
  move: async (m: Merchants, act: ActNumbers) => {
    const [one, into] = [await m.pick('category', act.which), await m.pick('category', act.how)];
    const body = { kind: 'category' as const, ids: [one!.id], into: into!.id, before: null, propose: true };
    await moveThings(m.db, m.person(act), body);
    return `moved ${one!.name} into ${into!.name}`;
  },
  rule: async (m: Merchants, act: ActNumbers) => {
    const [question, text] = [chosen(QUESTIONS, act.which), chosen(RULES, act.what)];
    const shop = await readShop(m.db);
    let rule;
    try {
      rule = ruleOf(text, shop);
    } catch {
      // It names what is not there any more.
      return undefined;
    }
    await putRule(m.db, m.person(act), {
      ...{ question, title: text, rule },
      onHand: chosen(['on top', 'on top', 'instead', 'without'] as const, act.how),
    });
    return `rule on ${question}: ${text}`;
  },
  step: async (m: Merchants, act: ActNumbers) => {
    const [field, kind] = chosen(
      [
        ['tags', 'tag'],
        ['badges', 'badge'],
        ['category', 'category'],
        ['putIn', 'assortment'],
      ] as const,
      act.what,
    );
    const one = await m.pick(KINDS[kind].table, act.which);
    if (!one) return undefined;
    const step = {
      do: chosen(['add to', 'take from', 'replace all'] as const, act.how),
      field,
      values: one.name,
    } as const;
    await putStep(m.db, m.person(act), { question: chosen(QUESTIONS, act.how), step, propose: true });
    return `${step.do} ${field}: ${one.name}`;
  },
  product: async (m: Merchants, act: ActNumbers) => {
    const brand = await m.pick('brand', act.which);
    const texts = { name: `New thing ${act.how}`, ...(brand && { brand: brand.name }) };
    await makeProduct(m.db, m.person(act), { texts, sku: { code: `NT-${act.how}`, price: '5.00', cost: '1.00' } });
    return `made a product of ${brand?.name}`;
  },
  copy: async (m: Merchants, act: ActNumbers) => {
    const product = await m.pick('product', act.which);
    await copyProduct(m.db, m.person(act), { product: product!.id, names: [`Twin ${act.how}`] });
    return `copied ${product!.name}`;
  },
  copySale: async (m: Merchants, act: ActNumbers) => {
    const sale = await m.pick('sale', act.which);
    if (!sale) return undefined;
    await copySale(m.db, m.person(act), { sale: sale.id });
    return `copied ${sale.name} for a year later`;
  },
  away: async (m: Merchants, act: ActNumbers) => {
    const sku = await m.pick('sku', act.which);
    await takeSkusAway(m.db, m.person(act), { skus: [sku!.id], keepStocked: false, propose: true });
    return `took SKU ${sku!.name} away`;
  },
  undo: async (m: Merchants, act: ActNumbers) => {
    await undoLast(m.db, m.person(act));
    return 'undo';
  },
  redo: async (m: Merchants, act: ActNumbers) => {
    await redoLast(m.db, m.person(act));
    return 'redo';
  },
  leave: async (m: Merchants, act: ActNumbers) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined) return undefined;
    const { rows } = await sql<{ kind: KindKey; id: string; field: FieldKey; scope: string }>`
      select kind, id, field || case when scope = 0 then '' else '@' || scope end as field from proof_line
      where proof_id = ${hand} order by kind, id, field, scope offset ${act.which % 5} limit 1`.execute(m.db.q);
    if (!rows[0]) return undefined;
    const { kind, id, field } = rows[0];
    await inTransaction(m.db, (tx) => leaveOut(tx, hand, { out: act.how % 3 > 0, lines: [{ kind, id, field }] }));
    return `left ${act.how % 3 > 0 ? 'out' : 'in'}: ${kind} ${id} ${field}`;
  },
  aside: async (m: Merchants, act: ActNumbers) => {
    await setAside(m.db, m.person(act), { name: `Aside ${act.what % 5}`, note: '' });
    return 'set aside';
  },
  takeUp: async (m: Merchants, act: ActNumbers) => {
    const { rows } = await sql<{ id: string }>`
      select id from proof where kind = 'aside' and state = 'open' order by id limit 1`.execute(m.db.q);
    if (!rows[0]) return undefined;
    await takeUp(m.db, m.person(act), rows[0].id);
    return 'took up';
  },
  discard: async (m: Merchants, act: ActNumbers) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined || act.how % 3 > 0) return undefined;
    await inTransaction(m.db, (tx) => discard(tx, hand));
    return 'discarded';
  },
  land: async (m: Merchants, act: ActNumbers) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined) return undefined;
    await land(m.db, hand, m.person(act));
    return 'landed';
  },
  partBack: async (m: Merchants, act: ActNumbers) => {
    const landings = await m.landings();
    if (landings.length === 0) return undefined;
    const landing = chosen(landings, act.which);
    const { rows } = await sql<{ kind: KindKey; id: string; field: FieldKey }>`
      select kind, id, field || case when scope = 0 then '' else '@' || scope end as field from (${journalLines(landing)}) j
      order by kind, id, field, scope offset ${act.how % 4} limit ${1 + (act.what % 2)}`.execute(m.db.q);
    if (rows.length === 0) return undefined;
    const proof = await takeBack(m.db, m.person(act), landing, { only: { lines: rows } });
    await land(m.db, proof, m.person(act));
    return `took ${rows.map(({ kind, id, field }) => `${field} of ${kind} ${id}`).join()} of landing ${landing} back`;
  },
  order: async (m: Merchants, act: ActNumbers) => {
    const sku = await m.pick('sku', act.which);
    const key = `order-key-${act.which}-${act.how}`;
    await placeOrder(m.db, { key, lines: [{ code: sku!.name, quantity: 1, text: '' }], country: null });
    return `ordered ${sku!.name}`;
  },
  /** What the sheet says now is to be said of this moment later. */
  look: async (m: Merchants) => {
    await m.look();
    return 'looked';
  },
  ...PLAN_ACTS,
  ...FILE_ACTS,
} as const;

/** Does an act; one that is refused changes nothing. */
export async function doAct(m: Merchants, act: Act): Promise<void> {
  try {
    const done = await ACTS[act.do](m, act);
    if (done !== undefined) m.done.push(`${act.by}: ${done}`);
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    m.done.push(`${act.by}: (${act.do} refused: ${error.message.slice(0, 60)})`);
  }
}

/** How often each is done. */
const OFTEN: Readonly<Partial<Record<keyof typeof ACTS, number>>> = {
  land: 6,
  remove: 4,
  merge: 3,
  make: 3,
  given: 3,
  fact: 4,
  cell: 4,
  undo: 3,
  redo: 2,
  plan: 2,
  hours: 2,
  look: 2,
  file: 2,
};

const number = fc.integer({ min: 0, max: 999 });
/** Acts in any order. */
export const anyActs = (most: number): fc.Arbitrary<Act[]> =>
  fc.array(
    fc.record({
      do: fc.oneof(
        ...(Object.keys(ACTS) as (keyof typeof ACTS)[]).map((one) => ({
          weight: OFTEN[one] ?? 1,
          arbitrary: fc.constant(one),
        })),
      ),
      by: fc.constantFrom(0 as const, 0 as const, 1 as const),
      what: number,
      which: number,
      how: number,
    }),
    { minLength: Math.min(16, most), maxLength: most },
  );
