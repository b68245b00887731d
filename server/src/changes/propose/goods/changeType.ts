import { type AnswerOf, type BodyOf, type calls, problemWords, refusalWords } from '@ivory/contract';
import {
  type Asking,
  type Field,
  type FieldValue,
  fold,
  listKey,
  NameList,
  ownKey,
  ownValueType,
  partsOf,
  readValue,
  showValue,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { readShop, type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { planForLines } from '../../proof/many.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { standing } from '../../stores/stores.ts';
import { NewIds } from '../newIds.ts';
import { addRemoval } from '../things/removeThings.ts';
import { makeNewLineTable, takeInNewLines } from '../takeIn.ts';

type Change = BodyOf<typeof calls.changeType>;
type Weighed = Omit<AnswerOf<typeof calls.changeType>, 'proof'>;

/** So many values that do not fit are told of. */
const MOST_UNFIT = 20;

/**
 * Proposes that an attribute is of another type: another attribute of its name takes its place, with every value that can be read
 * so; the others are lost, and are told before. What it was is taken back as it was. Refuses what is no attribute of the shop, and one
 * that the rule of an assortment asks for.
 */
export async function changeType(db: Db, person: string, { id, type, unit, propose }: Change): Promise<Weighed> {
  return inTransaction(db, async (tx) => {
    const shop = await readShop(tx);
    const field = shop.register.find(ownKey(id));
    const own = shop.ownFields.find((one) => one.id === id);
    if (field?.own?.of !== 'attribute' || !own) throw new Refusal('clash', refusalWords.changes.attributeGone);
    if (own.type === type && (own.unit ?? '') === unit)
      throw new Refusal('not valid', refusalWords.changes.sameType(own.name));
    const made = await new NewIds(tx, 'attribute', 1).next();
    const target: Field = {
      ...field,
      key: ownKey(made),
      type: ownValueType(type),
      ...(unit !== '' && { unit }),
      ...((type === 'choice' || type === 'choices') && { refersTo: { kind: 'choice', of: made } }),
    };
    const stands = await valuesOf(tx, field, shop);
    const choices = await choicesFor(tx, target, stands, field, shop);
    const read = stands.map(({ value, products }) => {
      const text = showValue(field, value, shop);
      return { value, products, text, after: readValue(target, text, withChoices(target, choices, shop)) };
    });
    const count = (isRead: boolean) =>
      read.filter(({ after }) => after.ok === isRead).reduce((sum, { products }) => sum + products, 0);
    const weighed: Weighed = {
      fits: count(true),
      lost: count(false),
      unfit: read
        .flatMap(({ products, text, after }) =>
          after.ok ? [] : [{ value: text, products, why: problemWords(after.problem) }],
        )
        .sort((a, b) => b.products - a.products)
        .slice(0, MOST_UNFIT),
    };
    if (!propose) return weighed;
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, `${own.name} becomes ${TITLES[type]}`);
    await makeNewLineTable(tx);
    await addRemoval(tx, proof, { kind: 'attribute', ids: [id], into: null });
    await addSuccessor(tx, { id, made, type, unit: unit === '' ? null : unit });
    await addChoices(tx, made, choices);
    const afters = read.map(({ after }) => (after.ok ? after.value : null));
    await addValues(
      tx,
      field,
      target,
      read.map(({ value }) => value),
      afters,
      shop,
    );
    await takeInNewLines(tx, proof, edit);
    await planForLines(tx, proof);
    return weighed;
  });
}

const TITLES: Readonly<Record<Change['type'], string>> = {
  text: 'text',
  'long text': 'long text',
  number: 'a number',
  choice: 'one choice',
  choices: 'several choices',
  'yes or no': 'yes or no',
  date: 'a date',
  'web address': 'an address on the web',
};

interface Stands {
  readonly value: string;
  readonly products: number;
}

/** The values that products have of a field, each with how many have it. */
async function valuesOf(tx: Tx, field: Field, { register }: Shop): Promise<Stands[]> {
  const { join, value } = standing('product', field.key, '0', register);
  const { rows } = await sql<Stands>`
    select value, count(*)::int as products
    from (select ${value} as value from (select id, 0::bigint as scope from product) l ${join}) x where value is not null group by 1
  `.execute(tx.q);
  return rows;
}

/** The choices that a field of choices gets: one for each text that products have, by how it is folded. */
async function choicesFor(
  tx: Tx,
  target: Field,
  stands: readonly Stands[],
  field: Field,
  shop: Shop,
): Promise<Map<string, string>> {
  if (!target.refersTo) return new Map();
  const names = new Map<string, string>();
  for (const { value } of stands) {
    const text = showValue(field, value, shop);
    for (const part of target.type === 'references' ? partsOf(text, () => false) : [text])
      if (!names.has(fold(part))) names.set(fold(part), part);
  }
  const ids = new NewIds(tx, 'choice', Math.max(1, names.size));
  const choices = new Map<string, string>();
  for (const name of names.values()) choices.set(await ids.next(), name);
  return choices;
}

function withChoices(target: Field, choices: ReadonlyMap<string, string>, asking: Asking): Asking {
  if (!target.refersTo) return asking;
  const lists = new Map(asking.names.lists).set(listKey(target.refersTo), new NameList(choices));
  return { ...asking, names: { ...asking.names, lists } };
}

/** The lines that make the attribute which takes the place of another, with all that this one says of itself. */
async function addSuccessor(
  tx: Tx,
  {
    id,
    made,
    type,
    unit,
  }: { readonly id: string; readonly made: string; readonly type: string; readonly unit: string | null },
): Promise<void> {
  await sql`
    insert into new_line (kind, id, field, before, after)
    select kind, ${made}::bigint, field, null,
      case field when 'type' then ${type} when 'unit' then ${unit}::text else before end
    from new_line where kind = 'attribute' and id = ${id}::bigint and field <> 'unit'
    union all select 'attribute', ${made}::bigint, 'unit', null, ${unit}::text where ${unit}::text is not null
  `.execute(tx.q);
}

async function addChoices(tx: Tx, of: string, choices: ReadonlyMap<string, string>): Promise<void> {
  const [ids, names] = [[...choices.keys()], [...choices.values()]];
  await sql`
    insert into new_line (kind, id, field, before, after)
    select 'choice', x.id, l.field, null, l.after
    from unnest(${ids}::bigint[], ${names}::text[]) with ordinality as x (id, name, place),
      lateral (values ('exists', ${of}), ('name', x.name), ('place', x.place::text)) as l (field, after)
  `.execute(tx.q);
}

/** A line for each product whose value is read by the new type. */
async function addValues(
  tx: Tx,
  field: Field,
  target: Field,
  values: readonly string[],
  afters: readonly FieldValue[],
  { register }: Shop,
): Promise<void> {
  const { join, value } = standing('product', field.key, '0', register);
  await sql`
    insert into new_line (kind, id, field, before, after)
    select 'product', t.id, ${target.key}, null, x.after
    from (select l.id, ${value} as value from (select id, 0::bigint as scope from product) l ${join}) t
    join unnest(${values}::text[], ${afters}::text[]) as x (value, after) on x.value = t.value
    where x.after is not null
  `.execute(tx.q);
}
