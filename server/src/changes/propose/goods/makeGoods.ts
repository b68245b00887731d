import { type BodyOf, type calls, type CodesBy, type GivenCode, refusalWords } from '@ivory/contract';
import {
  codeKey,
  codePattern,
  codesByPattern,
  countUp,
  type Field,
  firstCode,
  FreeCodes,
  fold,
  isEditable,
  type KindKey,
  type Line,
  placeOf,
  type Problem,
  readValue,
  showValue,
  scopeOf,
  slugOf,
  withoutScope,
} from '@ivory/core';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { savepoint } from '../../../db/savepoint.ts';
import { type Shop } from '../../../asked/names.ts';
import { Refusal } from '../../../refusal.ts';
import { examineProof } from '../../examine/examinations.ts';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { makeMissingNames } from '../things/makeMissingNames.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

type NewProduct = BodyOf<typeof calls.makeProduct>;
type NewSkus = BodyOf<typeof calls.makeSkus>;
export type Texts = Readonly<Partial<Record<string, string>>>;

/** The codes that a variant may have, the likeliest first, by what it says of its options: by a pattern, or letters of those that it has. */
export function variantCodes(
  base: string,
  options: readonly Field[],
  textOf: (option: Field) => string,
  pattern = codePattern(options.filter((option) => textOf(option) !== '').map(({ name }) => name)),
): Iterable<string> {
  const parts = new Map(options.map((option) => [fold(option.name), textOf(option)]));
  return codesByPattern(pattern, parts.set('base', base));
}

/** Gives codes as wanted, and notes each that had to differ because the wanted one is taken. */
export class CodeGiver {
  readonly given: GivenCode[] = [];
  private counted: string | undefined;

  constructor(
    private readonly free: FreeCodes,
    private readonly by: CodesBy | undefined,
    options: readonly Field[],
  ) {
    if (by?.by === 'pattern') refuseUnknownParts(by.pattern, options);
  }

  /** The code of a variant. */
  ofVariant(base: string, options: readonly Field[], textOf: (option: Field) => string): string {
    if (this.by?.by === 'counting') return this.counting(this.by.from);
    return this.note(variantCodes(base, options, textOf, this.by?.by === 'pattern' ? this.by.pattern : undefined));
  }

  /** The code of the first SKU of a product. */
  ofProduct(name: string): string {
    if (this.by?.by === 'counting') return this.counting(this.by.from);
    return this.note(countedUp(firstCode(name)));
  }

  private counting(from: string): string {
    const first = this.counted === undefined ? from : countUp(this.counted);
    const code = this.note(countedUp(first));
    this.counted = code;
    return code;
  }

  private note(wanted: Iterable<string>): string {
    let likeliest: string | undefined;
    const code = this.free.firstOf(
      (function* () {
        for (const one of wanted) {
          likeliest ??= one;
          yield one;
        }
      })(),
    );
    this.given.push({ code, instead: code === likeliest ? null : likeliest! });
    return code;
  }
}

/** A code and those that come after it. */
function* countedUp(from: string): Generator<string> {
  for (let code = from; ; code = countUp(code)) yield code;
}

/** Refuses a pattern that names what is no option, by which codes would come out short. */
function refuseUnknownParts(pattern: string, options: readonly Field[]): void {
  const known = new Set(['base', ...options.map(({ name }) => fold(name))]);
  const parts = [...pattern.matchAll(/\{([^{}]*)\}/g)].map(([, part = '']) => part.replace(/:\d+$/, ''));
  const unknown = parts.find((part) => !known.has(fold(part)));
  if (unknown !== undefined) throw new Refusal('not valid', refusalWords.changes.patternNamesNoOption(unknown, known));
  const [brace] = /[{}]/.exec(pattern.replace(/\{[^{}]*\}/g, '')) ?? [];
  if (brace !== undefined) throw new Refusal('not valid', refusalWords.changes.patternBrace(brace));
}

/**
 * Proposes a product with the texts of its fields and a first SKU. Its address and the code are worked out where none is given.
 * Gives both ids. Refuses values that cannot be read.
 */
export async function makeProduct(
  db: Db,
  person: string,
  { texts, sku }: NewProduct,
): Promise<{ product: string; sku: string }> {
  return inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const edit = await beginEdit(tx, proof, `New product: ${texts['name'] ?? ''}`.slice(0, 200));
    const product = await new NewIds(tx, 'product', 1).next();
    const id = await new NewIds(tx, 'sku', 1).next();
    const ofProduct = await withMissingNames(
      tx,
      proof,
      edit,
      'product',
      product,
      [texts],
      await askingOfProof(tx, proof),
    );
    const shop = await withMissingNames(tx, proof, edit, 'sku', id, [sku], ofProduct);
    const problems: Problem[] = [];
    const named = readTexts('product', product, texts, shop, problems);
    const name = named.find(({ field }) => field === 'name')?.after ?? '';
    if (name === '') problems.push({ code: 'required', ...placeOf(shop.register.get('name')) });
    const lines: Line[] = [
      made('product', product, await freeSlug(tx, proof, slugOf(name))),
      ...named,
      made('sku', id, product),
      ...readTexts('sku', id, sku, shop, problems),
    ];
    if (!lines.some(({ kind, field }) => kind === 'sku' && field === 'code')) {
      const free = new FreeCodes(await takenCodes(tx, proof));
      lines.push(lineOf('sku', id, 'code', free.next(firstCode(name))));
    }
    if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
    await takeInLines(tx, proof, edit, lines);
    await examineProof(tx, proof, shop);
    return { product, sku: id };
  });
}

/** More SKUs than a product may have. */
const MOST_SKUS = 2_000;

/**
 * Proposes further SKUs of a product, each with the texts of its fields; codes are worked out by a pattern where none is given, and
 * skip those that are in use. Refuses SKUs whose values of the product's options another of it has.
 */
export async function makeSkus(
  db: Db,
  person: string,
  { product, skus, codes, propose }: NewSkus,
): Promise<{ ids: string[]; codes: GivenCode[] }> {
  return inTransaction(db, async (tx) => {
    const undo = await savepoint(tx);
    const proof = await handProof(tx, person);
    const there = await skusOf(tx, proof, product);
    if (!there) throw new Refusal('clash', refusalWords.changes.productGone);
    if (there.length + skus.length > MOST_SKUS)
      throw new Refusal('not valid', refusalWords.changes.tooManySkus(there.length, skus.length));
    const edit = await beginEdit(tx, proof, skus.length === 1 ? 'New variant' : `${skus.length} new variants`);
    const newIds = new NewIds(tx, 'sku', skus.length);
    const ids: string[] = [];
    for (const _ of skus) ids.push(await newIds.next());
    const shop = await withMissingNames(tx, proof, edit, 'sku', ids[0]!, skus, await askingOfProof(tx, proof));
    const options = shop.register.goods.filter(({ own }) => own?.of === 'option');
    const problems: Problem[] = [];
    const giver = new CodeGiver(new FreeCodes(await takenCodes(tx, proof)), codes, options);
    const lines: Line[] = [];
    const combinations = await combinationsOf(
      tx,
      proof,
      there.map(({ id }) => id),
      options,
    );
    for (const [i, texts] of skus.entries()) {
      const id = ids[i]!;
      const own = readTexts('sku', id, texts, shop, problems);
      const valueOf = (key: string) => own.find(({ field }) => field === key)?.after ?? null;
      const combination = options.map(({ key }) => valueOf(key) ?? '').join('|');
      const called = options.map((field) => showValue(field, valueOf(field.key), shop)).filter(Boolean);
      if (combinations.has(combination))
        problems.push({ code: 'variant-twice', value: called.join(', '), row: valueOf('code') ?? '' });
      combinations.add(combination);
      lines.push(made('sku', id, product), ...own);
      if (valueOf('code') !== null) continue;
      const textOf = (option: Field) => showValue(option, valueOf(option.key), shop);
      lines.push(lineOf('sku', id, 'code', giver.ofVariant(there[0]?.base ?? '', options, textOf)));
    }
    if (!propose) {
      await undo();
      return { ids: [], codes: giver.given };
    }
    if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
    await takeInLines(tx, proof, edit, lines);
    await examineProof(tx, proof, shop);
    return { ids, codes: giver.given };
  });
}

/** A line that gives a value to something that is made. */
export const lineOf = (kind: KindKey, id: string, field: Line['field'], after: string | null): Line => ({
  kind,
  id,
  field: withoutScope(field) as Line['field'],
  scope: scopeOf(field),
  before: null,
  after,
});
/** The line that makes something. */
export const made = (kind: KindKey, id: string, carries: string): Line => lineOf(kind, id, 'exists', carries);

/** The lines of the texts that are given; what cannot be read is told. */
export function readTexts(kind: KindKey, id: string, texts: Texts, shop: Shop, problems: Problem[]): Line[] {
  const lines: Line[] = [];
  const row = texts['name'] ?? texts['code'] ?? '';
  for (const [key, text = ''] of Object.entries(texts)) {
    const field = shop.register.at(kind, key);
    if (!field || !isEditable(field) || field.key === 'slug') {
      problems.push({ code: 'field-unknown', value: key });
      continue;
    }
    if (text.trim() === '') continue;
    const read = readValue(field, text, shop);
    if (!read.ok) problems.push({ ...read.problem, ...(row !== '' && { row }) });
    else if (read.value !== null) lines.push(lineOf(kind, id, field.key, read.value));
  }
  return lines;
}

/** The shop with the names that the texts make: values of options always, brands and tags as a cell does. */
export function withMissingNames(
  tx: Tx,
  proof: string,
  edit: number,
  kind: KindKey,
  id: string,
  rows: readonly Texts[],
  shop: Shop,
): Promise<Shop> {
  const edits = rows.flatMap((texts) => Object.entries(texts).map(([field, text = '']) => ({ kind, id, field, text })));
  const fields = new Map<string, Field>();
  for (const { field: key } of edits) {
    const field = shop.register.at(kind, key);
    if (field) fields.set(`${kind} ${key}`, field);
  }
  return makeMissingNames(tx, proof, edit, edits, fields, shop, true);
}

/** An address that no product has or will have by the proof. */
export async function freeSlug(tx: Tx, proof: string, wanted: string): Promise<string> {
  const { rows } = await sql<{ slug: string }>`
    select slug from product where slug = ${wanted} or slug like ${wanted.replace(/[\\%_]/g, '\\$&') + '-%'}
    union all select slug from product_slug_before where slug = ${wanted} or slug like ${wanted + '-%'}
    union all select after from live_line where proof_id = ${proof} and kind = 'product' and field in ('exists', 'slug')`.execute(
    tx.q,
  );
  const taken = new Set(rows.map(({ slug }) => slug));
  let slug = wanted;
  for (let n = 2; taken.has(slug); n++) slug = `${wanted}-${n}`;
  return slug;
}

/** Whether a code is in use, in the shop or in the proof; each that is asked about and free is taken from then on. */
export async function takenCodes(tx: Tx, proof: string): Promise<(code: string) => boolean> {
  const { rows } = await sql<{ key: string }>`
    select code_key as key from sku
    union all select code_key(after) from live_line where proof_id = ${proof} and kind = 'sku' and field = 'code' and after is not null
  `.execute(tx.q);
  const taken = new Set(rows.map(({ key }) => key));
  return (code) => {
    if (taken.has(codeKey(code))) return true;
    taken.add(codeKey(code));
    return false;
  };
}

/** The SKUs of a product, those that the proof makes too, with what their codes begin with; undefined where there is none. */
async function skusOf(
  tx: Tx,
  proof: string,
  product: string,
): Promise<readonly { id: string; base: string }[] | undefined> {
  const { rows } = await sql<{ id: string; code: string }>`
    select id, code from sku where product_id = ${product}
    union all
    select e.id, c.after from live_line e join live_line c on c.proof_id = e.proof_id and c.kind = 'sku' and c.id = e.id and c.field = 'code'
    where e.proof_id = ${proof} and e.kind = 'sku' and e.field = 'exists' and e.after = ${product}
    order by id`.execute(tx.q);
  if (rows.length === 0) return undefined;
  const base = baseOf(rows.map(({ code }) => code));
  return rows.map(({ id }) => ({ id, base }));
}

/** What the codes of a product begin with, up to a hyphen: what all of them share; of a single one its first two parts. */
export function baseOf(codes: readonly string[]): string {
  const [first = ''] = codes;
  const parts = first.split('-');
  if (codes.length === 1) return parts.slice(0, 2).join('-');
  let shared = parts.length;
  const begins = () => parts.slice(0, shared).join('-');
  while (shared > 1 && !codes.every((code) => code === begins() || code.startsWith(`${begins()}-`))) shared--;
  return begins();
}

/** The combinations of option values that SKUs have, as the proof leaves them. */
async function combinationsOf(
  tx: Tx,
  proof: string,
  skus: readonly string[],
  options: readonly Field[],
): Promise<Set<string>> {
  const columns = options.map(({ key, store }) => {
    const standing =
      store.in === 'own'
        ? sql`(select ${sql.ref(`o.${store.slot}`)}::text from sku_own o where o.sku_id = x.id)`
        : sql`null`;
    return sql`coalesce((select coalesce(l.after, '') from live_line l
      where l.proof_id = ${proof} and l.kind = 'sku' and l.id = x.id and l.field = ${key}), ${standing}, '')`;
  });
  const { rows } = await sql<{ combination: string }>`
    select ${columns.length === 0 ? sql`''` : sql`concat_ws('|', ${sql.join(columns)})`} as combination
    from unnest(${skus}::bigint[]) as x (id)`.execute(tx.q);
  return new Set(rows.map(({ combination }) => combination));
}
