import { refusalWords } from '@ivory/contract';
import { type Combination, type Field, FreeCodes, isEditable, lackingOf, type Line, showValue } from '@ivory/core';
import { sql } from 'kysely';
import { type Tx } from '../../../db/connect.ts';
import { type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { standingInRow } from '../../stores/stores.ts';
import { OWN_OF_ONE } from './copyProduct.ts';
import { baseOf, lineOf, made, takenCodes, variantCodes } from '../goods/makeGoods.ts';
import { NewIds } from '../newIds.ts';

/** More variants than are made by one proposal: what makes more would hardly be looked through. */
const MOST_MADE = 20_000;

export interface VariantsHandedOn {
  readonly lines: readonly Line[];
  /** The new SKUs and their products, place by place. */
  readonly skus: readonly string[];
  readonly products: readonly string[];
  readonly varyOtherwise: number;
}

/**
 * The lines that give the products of the temporary table `target` the variants which they lack of a product, beside what the proof
 * makes of them already. New ones are like those that are there in whatever all of these agree in, and get codes by the pattern of
 * their options. Refuses a product without options, and more than 20,000 new variants.
 */
export async function handOnVariants(tx: Tx, proof: string, product: string, shop: Shop): Promise<VariantsHandedOn> {
  const options = shop.register.goods.filter(({ own }) => own?.of === 'option');
  const alike = shop.register.goods.filter(
    (field) => field.kind === 'sku' && isEditable(field) && !OWN_OF_ONE.includes(field.key) && !options.includes(field),
  );
  const [original] = await skusOf(tx, sql`l.product_id = ${product}::bigint`, options, alike);
  const wanted = (original?.skus ?? []).map(({ combination }) => combination).filter(({ size }) => size > 0);
  if (wanted.length === 0) throw new Refusal('not valid', refusalWords.changes.noVariantsToHandOn);
  const targets = await skusOf(
    tx,
    sql`l.product_id in (select product from target) and not exists (select from live_line p
      where p.proof_id = ${proof} and p.kind = 'sku' and p.field = 'exists' and p.after = l.product_id::text)`,
    options,
    alike,
  );
  const lacking = targets.map(({ skus }) =>
    lackingOf(
      wanted,
      skus.map(({ combination }) => combination),
    ),
  );
  const many = lacking.reduce((sum, one) => sum + (one?.made.length ?? 0), 0);
  if (many > MOST_MADE) throw new Refusal('not valid', refusalWords.changes.tooManyVariants(many));
  const ids = new NewIds(tx, 'sku', Math.max(1, many));
  const free = new FreeCodes(await takenCodes(tx, proof));
  const lines: Line[] = [];
  const skus: string[] = [];
  const products: string[] = [];
  for (const [i, target] of targets.entries()) {
    const { made: combinations = [], given = new Map<string, string>() } = lacking[i] ?? {};
    for (const [key, value] of given)
      lines.push(...target.skus.map(({ id }) => lineOf('sku', id, key as Field['key'], value)));
    const base = baseOf(target.skus.map(({ code }) => code));
    for (const combination of combinations) {
      const id = await ids.next();
      skus.push(id);
      products.push(target.product);
      const textOf = (option: Field) => showValue(option, combination.get(option.key) ?? null, shop);
      const code = free.firstOf(variantCodes(base, options, textOf));
      lines.push(made('sku', id, target.product), lineOf('sku', id, 'code', code));
      lines.push(...[...combination].map(([key, value]) => lineOf('sku', id, key as Field['key'], value)));
      lines.push(...target.shared.map(({ key, value }) => lineOf('sku', id, key, value)));
    }
  }
  return { lines, skus, products, varyOtherwise: lacking.filter((one) => one === undefined).length };
}

interface Target {
  readonly product: string;
  readonly skus: readonly { readonly id: string; readonly code: string; readonly combination: Combination }[];
  /** What all of its SKUs agree in. */
  readonly shared: readonly { readonly key: Field['key']; readonly value: string }[];
}

/** Products with their SKUs and the ids of these SKUs' option values. */
async function skusOf(
  tx: Tx,
  which: ReturnType<typeof sql>,
  options: readonly Field[],
  alike: readonly Field[],
): Promise<Target[]> {
  const { rows } = await sql<{
    product: string;
    id: string;
    code: string;
    options: (string | null)[];
    alike: (string | null)[];
  }>`
    select l.product_id as product, l.id, l.code,
      array[${sql.join(options.map(standingInRow))}]::text[] as options, array[${sql.join(alike.map(standingInRow))}]::text[] as alike
    from sku l where ${which} order by l.product_id, l.id`.execute(tx.q);
  const products = new Map<string, typeof rows>();
  for (const row of rows) {
    const own = products.get(row.product);
    if (own) own.push(row);
    else products.set(row.product, [row]);
  }
  return [...products].map(([product, own]) => ({
    product,
    skus: own.map(({ id, code, options: values }) => ({ id, code, combination: combinationOf(options, values) })),
    shared: alike.flatMap(({ key }, i) => {
      const [value, ...others] = new Set(own.map(({ alike: values }) => values[i] ?? null));
      return value == null || others.length > 0 ? [] : [{ key, value }];
    }),
  }));
}

const combinationOf = (options: readonly Field[], values: readonly (string | null)[]): Combination =>
  new Map(options.flatMap(({ key }, i): [string, string][] => (values[i] == null ? [] : [[key, values[i]]])));
