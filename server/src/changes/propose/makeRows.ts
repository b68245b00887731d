import { type AnswerOf, type BodyOf, type calls } from '@ivory/contract';
import { type Field, firstCode, fold, FreeCodes, type Line, placeOf, type Problem, slugOf } from '@ivory/core';
import { type Db, inTransaction, type Tx } from '../../db/connect.ts';
import { type Shop } from '../../range/names.ts';
import { examineProof } from '../examine/examinations.ts';
import { askingOfProof } from '../proof/askingOfProof.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../proof/proof.ts';
import {
  freeSlug,
  lineOf,
  made,
  readTexts,
  takenCodes,
  type Texts,
  variantCode,
  withMissingNames,
} from './makeGoods.ts';
import { isMadeByName } from './makeMissingNames.ts';
import { NewIds } from './newIds.ts';
import { takeInLines } from './takeIn.ts';

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
  { rows }: { readonly rows: Rows },
): Promise<{ made: number; refused: Refused }> {
  return inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const shop = await askingOfProof(tx, proof);
    const isTaken = await takenCodes(tx, proof);
    const { good, refused } = sortOut(rows, shop, isTaken);
    if (good.length === 0) {
      await putAwayWhenEmpty(tx, proof);
      return { made: 0, refused };
    }
    const edit = await beginEdit(tx, proof, good.length === 1 ? 'New goods' : `${good.length} new rows of goods`);
    const lines = await linesOf(tx, proof, edit, good, shop, new FreeCodes(isTaken));
    await takeInLines(tx, proof, edit, lines);
    await examineProof(tx, proof, shop);
    return { made: good.length, refused };
  });
}

/** Tells the rows that can be made from those that cannot. Names that a row makes itself are no reason to refuse it. */
function sortOut(
  rows: Rows,
  shop: Shop,
  isTaken: (code: string) => boolean,
): { readonly good: GoodRow[]; readonly refused: Refused } {
  const good: GoodRow[] = [];
  const refused: Refused = [];
  const firsts = new Map<string, { readonly row: number; readonly product: Texts }>();
  const combinations = new Set<string>();
  for (const [i, texts] of rows.entries()) {
    const problems: Problem[] = [];
    const [product, sku] = divided(texts, shop, problems);
    const name = fold(product['name'] ?? '');
    if (name === '') problems.push({ code: 'required', ...placeOf(shop.register.get('name')) });
    readTexts('product', '0', withoutMade('product', product, shop), shop, problems);
    readTexts('sku', '0', withoutMade('sku', sku, shop), shop, problems);
    const first = firsts.get(name);
    for (const [key, text] of Object.entries(first ? product : {}))
      if (fold(text ?? '') !== fold(first!.product[key] ?? ''))
        problems.push({ code: 'differs-in-file', field: key, value: text ?? '', expected: String(first!.row + 1) });
    const combination = [name, ...optionsOf(shop).map(({ key }) => fold(sku[key] ?? ''))].join('|');
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

const optionsOf = ({ register }: Shop): Field[] => register.goods.filter(({ own }) => own?.of === 'option');

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
  free: FreeCodes,
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
  const known = new Map<string, { readonly id: string; readonly code: string }>();
  const slugs = new Set<string>();
  const lines: Line[] = [];
  for (const { product, sku } of good) {
    const name = product['name']!.trim();
    const options = optionsOf(shop).filter(({ key }) => sku[key]);
    let of = known.get(fold(name));
    const id = await skus.next();
    const wanted = of ? variantCode(of.code, options, ({ key }) => sku[key]!) : firstCode(name);
    const code = sku['code']?.trim() || free.next(wanted);
    if (!of) {
      of = { id: await products.next(), code };
      known.set(fold(name), of);
      let slug = await freeSlug(tx, proof, slugOf(name));
      while (slugs.has(slug)) slug = `${slug}-2`;
      slugs.add(slug);
      lines.push(made('product', of.id, slug), ...readTexts('product', of.id, product, shop, []));
    }
    const own = readTexts('sku', id, { ...sku, code: '' }, shop, []);
    lines.push(made('sku', id, of.id), lineOf('sku', id, 'code', code), ...own);
  }
  return lines;
}
