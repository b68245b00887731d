import { arrayLiteral, copyIn, type Tx } from '@ivory/server';
import { sql } from 'kysely';
import { ATTRIBUTES, type DemoAttribute, TAGS, tagsOf } from './attributes.ts';
import { demoGoods, type DemoProduct } from './goods.ts';
import { KINDS } from './range.ts';

/** The options that every shop begins with, by the column that keeps them. */
const OPTIONS = [
  { id: '1', slot: 'c1', values: distinct(KINDS.flatMap(({ colours }) => colours)) },
  { id: '2', slot: 'c2', values: distinct(KINDS.flatMap(({ sizes }) => sizes)) },
] as const;

function distinct(values: readonly string[]): readonly string[] {
  return [...new Set(values)];
}

/** Writes what the shop made itself: values of its options, attributes and tags, and what the goods have of them. */
export async function writeOwn(tx: Tx, skus: number, categories: ReadonlyMap<string, string>): Promise<void> {
  const [colours, sizes] = [await writeChoices(tx, OPTIONS[0]), await writeChoices(tx, OPTIONS[1])];
  const ofAttributes: ReadonlyMap<string, string>[] = [];
  for (const attribute of ATTRIBUTES) {
    const id = await writeAttribute(tx, attribute, categories);
    ofAttributes.push(await writeChoices(tx, { id, values: attribute.choices ?? [] }));
  }
  const tags: string[] = [];
  for (const name of TAGS) {
    const { rows } = await sql<{ id: string }>`insert into tag (name) values (${name}) returning id`.execute(tx.q);
    tags.push(rows[0]!.id);
  }
  await sql`create temp table sku_value (sku_id bigint, c1 int, c2 int) on commit drop`.execute(tx.q);
  const ofSkus = function* () {
    for (const { skus: own } of demoGoods(skus))
      yield own.map(({ id, colour, size }) => [id, colours.get(colour ?? '') ?? null, sizes.get(size ?? '') ?? null]);
  };
  await copyIn(tx.client, 'sku_value', ofSkus());
  await sql`update sku_own o set c1 = v.c1, c2 = v.c2 from sku_value v where v.sku_id = o.sku_id`.execute(tx.q);

  const slots = ATTRIBUTES.map(({ slot }) => sql.ref(slot));
  await sql`
    create temp table product_value on commit drop as
    select product_id, tags, ${sql.join(slots)} from product_own with no data`.execute(tx.q);
  const valueOf = (product: DemoProduct, attribute: DemoAttribute, choices: ReadonlyMap<string, string>) => {
    const value = attribute.of(product);
    const choice = (place: number) => choices.get(attribute.choices![place]!)!;
    if (attribute.type === 'choice') return typeof value === 'number' ? choice(value) : null;
    return Array.isArray(value) ? arrayLiteral((value as number[]).map(choice)) : (value as string | number | null);
  };
  const ofProducts = function* () {
    for (const product of demoGoods(skus)) {
      const own = tagsOf(product).map((place) => tags[place]!);
      const values = ATTRIBUTES.map((attribute, i) => valueOf(product, attribute, ofAttributes[i]!));
      yield [[product.id, own.length > 0 ? arrayLiteral(own) : null, ...values]];
    }
  };
  await copyIn(tx.client, 'product_value', ofProducts());
  const set = ATTRIBUTES.map(({ slot }) => sql`${sql.ref(slot)} = ${sql.ref(`v.${slot}`)}`);
  await sql`
    update product_own o set tags = v.tags, ${sql.join(set)} from product_value v where v.product_id = o.product_id
  `.execute(tx.q);
}

async function writeAttribute(
  tx: Tx,
  { name, type, slot, unit, usedIn, neededIn, feed }: DemoAttribute,
  categories: ReadonlyMap<string, string>,
): Promise<string> {
  const ids = (paths: readonly string[]) => paths.map((path) => categories.get(path)!);
  const { rows } = await sql<{ id: string }>`
    insert into own_field (kind, name, type, unit, slot, used_in, needed_in, feed)
    values ('attribute', ${name}, ${type}, ${unit ?? null}, ${slot}, ${ids(usedIn)}::bigint[],
      ${neededIn ? ids(neededIn) : null}::bigint[], ${feed ?? null}) returning id`.execute(tx.q);
  return rows[0]!.id;
}

interface Choices {
  readonly id: string;
  readonly values: readonly string[];
}

/** Writes the values of an option or attribute in their order; gives their ids by name. */
async function writeChoices(tx: Tx, { id, values }: Choices): Promise<Map<string, string>> {
  const { rows } = await sql<{ id: string; name: string }>`
    insert into choice (field_id, name, place)
    select ${id}::bigint, x.name, x.place from unnest(${values}::text[]) with ordinality as x (name, place) returning id, name
  `.execute(tx.q);
  return new Map(rows.map(({ id, name }) => [name, id]));
}
