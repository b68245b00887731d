import { type AnswerOf, type BodyOf, type calls, type GivenCode } from '@ivory/contract';
import {
  type Field,
  fold,
  FreeCodes,
  type Line,
  placeOf,
  type Problem,
  readValue,
  showValue,
  slugOf,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { savepoint } from '../../../db/savepoint.ts';
import { type Shop } from '../../../asked/names.ts';
import { examineProof } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../../proof/proof.ts';
import { CodeGiver, freeSlug, lineOf, made, readTexts, takenCodes, type Texts, withMissingNames } from './makeGoods.ts';
import { isMadeByName } from '../things/makeMissingNames.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

type Rows = BodyOf<typeof calls.makeRows>['rows'];
type Refused = AnswerOf<typeof calls.makeRows>['refused'];

/** A row that can be made: what it says of the product, and of its SKU. */
interface GoodRow {
  readonly product: Texts;
  readonly sku: Texts;
}

/**
 * Proposes goods by the row: rows of one name are variants of one product, whose first row says what the product is. Rows that cannot
 * be read are left out and told, with their place and what is wrong; the others are one edit.
 */
export async function makeRows(
  db: Db,
  person: string,
  { rows, codes, propose }: BodyOf<typeof calls.makeRows>,
): Promise<{ made: number; refused: Refused; codes: GivenCode[] }> {
  return inTransaction(db, async (tx) => {
    const undo = await savepoint(tx);
    const proof = await handProof(tx, person);
    const shop = await askingOfProof(tx, proof);
    const isTaken = await takenCodes(tx, proof);
    const inHand = await productsInHand(tx, proof, shop);
    const giver = new CodeGiver(new FreeCodes(isTaken), codes, optionsOf(shop));
    const { good, refused } = sortOut(rows, shop, isTaken, inHand);
    if (good.length === 0) {
      await putAwayWhenEmpty(tx, proof);
      return { made: 0, refused, codes: [] };
    }
    const edit = await beginEdit(tx, proof, good.length === 1 ? 'New goods' : `${good.length} new rows of goods`);
    const lines = await linesOf(tx, proof, edit, good, shop, giver, inHand);
    if (!propose) {
      await undo();
      return { made: good.length, refused, codes: giver.given };
    }
    await takeInLines(tx, proof, edit, lines);
    await examineProof(tx, proof, shop);
    return { made: good.length, refused, codes: giver.given };
  });
}

/** A product that the proof in hand makes: what it says, the code of its first SKU, and the combinations that it has. */
interface InHand {
  readonly id: string;
  readonly code: string;
  /** By field, as it is shown. */
  readonly says: ReadonlyMap<string, string>;
  readonly combinations: readonly string[];
}

/** The products that the proof in hand makes, by their folded names: a row that is corrected afterwards joins those proposed before it. */
async function productsInHand(tx: Tx, proof: string, shop: Shop): Promise<ReadonlyMap<string, InHand>> {
  const { rows } = await sql<{ kind: 'product' | 'sku'; id: string; of: string; field: string; after: string }>`
    select l.kind, l.id, case when l.kind = 'sku' then e.after else l.id::text end as of, l.field, l.after
    from live_line e join live_line l on l.proof_id = e.proof_id and l.kind = e.kind and l.id = e.id and l.scope = 0
    where e.proof_id = ${proof} and e.kind in ('product', 'sku') and e.field = 'exists' and e.after is not null
      and l.field <> 'exists' and l.after is not null order by l.kind, l.id`.execute(tx.q);
  const show = (kind: 'product' | 'sku', key: string, value: string) => {
    const field = shop.register.at(kind, key);
    return field ? showValue(field, value, shop) : value;
  };
  const found = new Map<string, InHand>();
  const skusOf = groupBy(
    rows.filter(({ kind }) => kind === 'sku'),
    ({ of }) => of,
  );
  for (const [id, lines] of groupBy(
    rows.filter(({ kind }) => kind === 'product'),
    ({ id }) => id,
  )) {
    const says = new Map(lines.map(({ field, after }) => [field, show('product', field, after)]));
    const skus = [...groupBy(skusOf.get(id) ?? [], (row) => row.id).values()];
    const texts = skus.map((own) =>
      Object.fromEntries(own.map(({ field, after }) => [field, show('sku', field, after)])),
    );
    const [first] = texts;
    if (!first) continue;
    found.set(fold(says.get('name') ?? ''), {
      ...{ id, says, code: first['code'] ?? '' },
      combinations: texts.map((sku) => combinationOf(sku, shop)),
    });
  }
  return found;
}

function groupBy<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** The values that a row has of the shop's options, by which variants are told apart. */
const combinationOf = (sku: Texts, shop: Shop): string =>
  optionsOf(shop)
    .map(({ key }) => fold(sku[key] ?? ''))
    .join('|');

/** Tells the rows that can be made from those that cannot. Names that a row makes itself are no reason to refuse it. */
function sortOut(
  rows: Rows,
  shop: Shop,
  isTaken: (code: string) => boolean,
  inHand: ReadonlyMap<string, InHand>,
): { readonly good: GoodRow[]; readonly refused: Refused } {
  const good: GoodRow[] = [];
  const refused: Refused = [];
  const firsts = new Map<string, { readonly row: number; readonly product: Texts }>();
  const combinations = new Set<string>(
    [...inHand].flatMap(([name, { combinations }]) => combinations.map((one) => `${name}|${one}`)),
  );
  for (const [i, texts] of rows.entries()) {
    const problems: Problem[] = [];
    const [product, sku] = divided(texts, shop, problems);
    const name = fold(product['name'] ?? '');
    if (name === '') problems.push({ code: 'required', ...placeOf(shop.register.get('name')) });
    readTexts('product', '0', withoutMade('product', product, shop), shop, problems);
    readTexts('sku', '0', withoutMade('sku', sku, shop), shop, problems);
    const first = firsts.get(name);
    problems.push(...differencesFrom(first, product), ...differencesInHand(inHand.get(name), product, shop));
    const combination = `${name}|${combinationOf(sku, shop)}`;
    if (combinations.has(combination))
      problems.push({
        code: 'variant-twice',
        value: optionsOf(shop)
          .flatMap(({ key }) => sku[key] || [])
          .join(', '),
      });
    const code = sku['code']?.trim() ?? '';
    if (problems.length === 0 && code !== '' && isTaken(code))
      problems.push({ code: 'code-in-use', field: 'code', value: code });
    if (problems.length > 0) {
      refused.push({ row: i, places: problems });
      continue;
    }
    combinations.add(combination);
    if (!first) firsts.set(name, { row: i, product });
    good.push({ product, sku });
  }
  return { good, refused };
}

/** What a row says of its product otherwise than the first row of it. */
function differencesFrom(
  first: { readonly row: number; readonly product: Texts } | undefined,
  product: Texts,
): Problem[] {
  if (!first) return [];
  return Object.entries(product).flatMap(([key, text = '']) =>
    fold(text) === fold(first.product[key] ?? '')
      ? []
      : [{ code: 'differs-in-file', field: key, value: text, expected: String(first.row + 1) }],
  );
}

/** What a row says of its product otherwise than the proof in hand, which makes it. */
function differencesInHand(before: InHand | undefined, product: Texts, shop: Shop): Problem[] {
  if (!before) return [];
  return Object.entries(product).flatMap(([key, text = '']) =>
    key === 'name' || says(before, key, text, shop)
      ? []
      : [{ code: 'differs-in-hand', field: key, value: text, expected: before.says.get(key) ?? '' }],
  );
}

const optionsOf = ({ register }: Shop): Field[] => register.goods.filter(({ own }) => own?.of === 'option');

/** Whether a product in hand has what a row says of it. */
function says({ says: said }: InHand, key: string, text: string, shop: Shop): boolean {
  const field = shop.register.at('product', key);
  const read = field && readValue(field, text, shop);
  const shown = read?.ok && read.value !== null ? showValue(field!, read.value, shop) : text;
  return fold(said.get(key) ?? '') === fold(shown);
}

/** The texts of a row, those of the product apart from those of the SKU; empty ones are left out. */
function divided(texts: Rows[number], { register }: Shop, problems: Problem[]): [Texts, Texts] {
  const product: Record<string, string> = {};
  const sku: Record<string, string> = {};
  for (const [key, text] of Object.entries(texts)) {
    if (text.trim() === '') continue;
    const field = register.find(key);
    if (!field) problems.push({ code: 'field-unknown', value: key });
    else (field.kind === 'product' ? product : sku)[key] = text;
  }
  return [product, sku];
}

const withoutMade = (kind: 'product' | 'sku', texts: Texts, { register }: Shop): Texts =>
  Object.fromEntries(Object.entries(texts).filter(([key]) => !isMadeByName(register.at(kind, key))));

async function linesOf(
  tx: Tx,
  proof: string,
  edit: number,
  good: readonly GoodRow[],
  asking: Shop,
  giver: CodeGiver,
  inHand: ReadonlyMap<string, InHand>,
): Promise<Line[]> {
  const withProducts = await withMissingNames(
    tx,
    proof,
    edit,
    'product',
    '0',
    good.map(({ product }) => product),
    asking,
  );
  const shop = await withMissingNames(
    tx,
    proof,
    edit,
    'sku',
    '0',
    good.map(({ sku }) => sku),
    withProducts,
  );
  const products = new NewIds(tx, 'product', good.length);
  const skus = new NewIds(tx, 'sku', good.length);
  const known = new Map<string, { readonly id: string; readonly code: string }>(inHand);
  const slugs = new Set<string>();
  const lines: Line[] = [];
  for (const { product, sku } of good) {
    const name = product['name']!.trim();
    const options = optionsOf(shop).filter(({ key }) => sku[key]);
    let of = known.get(fold(name));
    const id = await skus.next();
    const own = sku['code']?.trim() ?? '';
    const code =
      own !== '' ? own : of ? giver.ofVariant(of.code, options, ({ key }) => sku[key]!) : giver.ofProduct(name);
    if (!of) {
      of = { id: await products.next(), code };
      known.set(fold(name), of);
      let slug = await freeSlug(tx, proof, slugOf(name));
      while (slugs.has(slug)) slug = `${slug}-2`;
      slugs.add(slug);
      lines.push(made('product', of.id, slug), ...readTexts('product', of.id, product, shop, []));
    }
    lines.push(made('sku', id, of.id), lineOf('sku', id, 'code', code));
    lines.push(...readTexts('sku', id, { ...sku, code: '' }, shop, []));
  }
  return lines;
}
