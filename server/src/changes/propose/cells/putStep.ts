import { type BodyOf, type calls, type SetStep, refusalWords } from '@ivory/contract';
import {
  isStored,
  type Field,
  holdsOtherGoods,
  placeOf,
  readValue,
  showValue,
  type ValueTypeKey,
  type Verb,
} from '@ivory/core';
import { STEPS } from '@ivory/core/rules';
import { sql } from 'kysely';
import { COLUMN_TYPES } from '../../../db/sql/columnSql.ts';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { questionSql } from '../../../db/sql/questionSql.ts';
import { SHELF, shelfAt, shelfColumn } from '../../../db/sql/shelfSql.ts';
import { ask } from '../../../asked/ask.ts';
import { readShop, type Shop } from '../../../asked/names.ts';
import { withWrittenCodes } from '../../../asked/productCodes.ts';
import { Refusal } from '../../../refusal.ts';
import { planForMany } from '../../../db/planForMany.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

/**
 * Puts one step on a field that holds several things into the proof in hand, for all products of a question: it adds to what each
 * has or is to have by the proof, takes from it, moves from one to another, or replaces all, and never does one where another was asked for. Says how many
 * products change, how many are so already, and how many get another main category. The set is that of the shop as it is `seen`. Refuses
 * fields that hold one thing only.
 */
export async function putStep(
  db: Db,
  person: string,
  { question: text, products: only, step, propose }: BodyOf<typeof calls.putStep>,
  seen?: Shop,
): Promise<Counted> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const asked = seen ?? shop;
    const { question } = ask(text, asked);
    const field = shop.register.find(step.field);
    const isSet = field !== undefined && SEVERAL.includes(field.type);
    if (field?.kind !== 'product' || !isSet || !isStored(field))
      throw new Refusal('not valid', refusalWords.changes.notASet);
    const asking = await withProductsIn(tx, field, step, shop);
    const wanted = idsOf(field, step.values, asking);
    const from = step.do === 'move' ? fromOf(field, step, asking) : [];
    await planForMany(tx);
    await sql`
      create temp table stood on commit drop as
      select w.id, w.stands, case when l.id is null then w.stands else l.after end as value from (
        select distinct s.product_id as id, ${standingOf(field)} as stands from ${shelfAt(asked)}
        where ${only === undefined ? questionSql(question, asked) : sql`s.product_id = any(${only}::bigint[])`}
      ) w left join (
        select l.id, l.after from live_line l join proof p on p.id = l.proof_id
        where p.person_id = ${person} and p.kind = 'hand' and p.state = 'open' and l.kind = 'product' and l.field = ${field.key}
      ) l on l.id = w.id
    `.execute(tx.q);
    const { rows } = await sql<{ value: string | null; products: number }>`
      select value, count(*)::int as products from stood group by value`.execute(tx.q);
    const work = workOf(field, step, wanted, from, asking);
    // Few sets differ, and each is worked out once.
    const changed = rows
      .map(({ value, products }) => ({ value, products, after: work(value) }))
      .filter(({ value, after }) => value !== after);
    if (propose && changed.length > 0)
      await write(
        tx,
        person,
        { field, title: titleOf(field, step, wanted, from, asking), changed, wanted, step },
        shop,
      );
    const count = (groups: readonly { readonly products: number }[]) =>
      groups.reduce((sum, { products }) => sum + products, 0);
    const otherMain =
      field.type === 'categories' ? changed.filter(({ value, after }) => mainOf(value) !== mainOf(after)) : [];
    return { changes: count(changed), already: count(rows) - count(changed), otherMain: count(otherMain) };
  });
}

/** Types of which a value is several things. */
const SEVERAL: readonly ValueTypeKey[] = ['references', 'categories', 'products', 'pictures'];

/** What the step is read and titled with, also where it names products by their codes. */
const withProductsIn = (tx: Tx, field: Field, step: SetStep, shop: Shop): Promise<Shop> =>
  holdsOtherGoods(field)
    ? withWrittenCodes(tx, shop, [step.values, step.do === 'move' ? step.from : ''])
    : Promise.resolve(shop);

interface Counted {
  readonly changes: number;
  readonly already: number;
  /** Of those that change: how many get another main category, or their first, or lose it. */
  readonly otherMain: number;
}

/** The main one of a product's categories. */
const mainOf = (value: string | null): string | undefined => value?.split('|')[0];

interface Writing {
  readonly field: Field;
  readonly title: string;
  readonly changed: readonly Changed[];
  readonly wanted: readonly string[];
  readonly step: SetStep;
}

interface Changed {
  readonly value: string | null;
  readonly after: string | null;
}

/** Of what is put in by hand and kept out by hand, one takes from the other. */
const OPPOSITE: Readonly<Partial<Record<string, 'putIn' | 'keptOut'>>> = { putIn: 'keptOut', keptOut: 'putIn' };

/** Pinning a product to an assortment ends its exclusion, and the other way round. */
async function takeFromOpposite(tx: Tx, field: Field, wanted: readonly string[], shop: Shop): Promise<void> {
  const opposite = OPPOSITE[field.key];
  if (opposite === undefined) return;
  const other = shelfColumn(shop.register.get(opposite));
  const left = sql`array(select x from unnest(${other}) as u (x) where x <> all (${wanted}::bigint[]) order by x)`;
  await sql`
    insert into new_line (kind, id, field, before, after)
    select 'product', id, ${opposite}, array_to_string(before, '|'), nullif(array_to_string(after, '|'), '')
    from (select distinct s.product_id as id, ${other} as before, ${left} as after
      from ${SHELF} where s.product_id in (select id from stood) and ${other} && ${wanted}::bigint[]) x
  `.execute(tx.q);
}

/** Writes a line for each product of the temporary table `stood` whose set becomes another. */
async function write(
  tx: Tx,
  person: string,
  { field, title, changed, wanted, step }: Writing,
  shop: Shop,
): Promise<void> {
  const proof = await handProof(tx, person);
  const edit = await beginEdit(tx, proof, title);
  await makeNewLineTable(tx);
  if (step.do === 'add to') await takeFromOpposite(tx, field, wanted, shop);
  const values = changed.map(({ value }) => value ?? '');
  const afters = changed.map(({ after }) => after);
  await sql`
    insert into new_line (kind, id, field, before, after)
    select 'product', s.id, ${field.key}, s.stands, x.after
    from stood s join unnest(${values}::text[], ${afters}::text[]) as x (value, after) on x.value = coalesce(s.value, '')
  `.execute(tx.q);
  await takeInNewLines(tx, proof, edit);
}

const standingOf = (field: Field) =>
  field.column === undefined ? COLUMN_TYPES[field.type].toText(shelfColumn(field)) : sql.ref(`s.${field.column}`);

function idsOf(field: Field, text: string, shop: Shop): string[] {
  const read = readValue(field, text, shop);
  if (!read.ok) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, [read.problem]);
  if (read.value === null)
    throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, [{ code: 'required', ...placeOf(field) }]);
  return read.value.split('|');
}

/** What a move takes away: also what lies below, where it says so. */
function fromOf(field: Field, step: Extract<SetStep, { do: 'move' }>, shop: Shop): string[] {
  const from = idsOf(field, step.from, shop);
  if (step.below !== true || field.type !== 'categories') return from;
  const tree = shop.names.categories;
  return tree.categories.map(({ id }) => id).filter((id) => tree.within(id).some((above) => from.includes(above)));
}

/** The steps of rules that the verbs are. */
const STEP_OF = {
  'add to': 'add',
  'take from': 'take',
  move: 'move',
  'replace all': 'set',
} as const satisfies Record<SetStep['do'], Verb>;

/** What a set becomes: just what the step of a rule makes of it. */
function workOf(
  field: Field,
  step: SetStep,
  wanted: readonly string[],
  from: readonly string[],
  shop: Shop,
): (value: string | null) => string | null {
  const values = wanted.join('|');
  const work = STEPS[STEP_OF[step.do]].prepare(field, { values, value: values, from: from.join('|') }, shop);
  // No step on several values fails.
  return (value) => work(value, {}) as string | null;
}

function titleOf(field: Field, step: SetStep, wanted: readonly string[], from: readonly string[], shop: Shop): string {
  const shown = (ids: readonly string[]) => showValue(field, ids.join('|'), shop);
  const what = {
    'add to': () => `Add ${shown(wanted)} to ${field.name}`,
    'take from': () => `Take ${shown(wanted)} from ${field.name}`,
    move: () => `Move from ${shown(from)} to ${shown(wanted)}`,
    'replace all': () => `Replace ${field.name} by ${shown(wanted)}`,
  }[step.do]();
  return what.slice(0, 200);
}
