import { calls, type Pending, type Rows, type Several } from '@ivory/contract';
import { type FieldKey, type FieldValue, type WarningKey, toldAsSpan } from '@ivory/core';
import { firstValueFrom } from 'rxjs';
import { words } from '../../words/en.ts';
import { valuesText } from './differing.ts';
import { GoodsRows } from './goodsRows.ts';
import { type CellAddress, type SheetRow, type SheetRows } from './sheetRows.ts';

/** What the proof in hand makes of the SKUs behind a row, by field and SKU. */
type OfSkus = Map<FieldKey, Map<string, Pending>>;

/**
 * The rows of a working set by product: one row stands for those SKUs of a product that answer, and folds out to them. What is typed
 * into it is of all of them.
 */
export class ProductRows extends GoodsRows {
  override readonly folds = true;
  private readonly ofSkus = new WeakMap<SheetRow, OfSkus>();
  /** Something is folded out or in that is not so yet in `rows`. */
  private isBehind = false;
  private readonly indexes = new Map(this.ofSet.map((row, index) => [row, index]));
  /** Rows that were folded out before the set was read again, by product. */
  private wasOut: ReadonlyMap<string, readonly SheetRow[]> = new Map();

  /** Folds out what is folded out in rows of the same set, as its rows come; these show what they showed until they are read. */
  keepOut(before: SheetRows | undefined): this {
    if (before instanceof ProductRows && before.isSameSet(this))
      this.wasOut = new Map(before.ofSet.flatMap(({ productId, out }) => (out ? [[productId!, out] as const] : [])));
    return this;
  }

  override addressOf(row: SheetRow, key: FieldKey): CellAddress {
    return row.several ? { kind: 'product', id: row.productId! } : super.addressOf(row, key);
  }

  protected override thingsOf(row: SheetRow): readonly CellAddress[] {
    return row.several ? [{ kind: 'product', id: row.productId! }] : super.thingsOf(row);
  }

  override placeOf(row: SheetRow): number {
    return this.rows.includes(row) ? row.place : (this.sameAs(row)?.place ?? row.place);
  }

  /** The row here that shows what a row of other rows of the same set shows. */
  private sameAs({ id, productId, within }: SheetRow): SheetRow | undefined {
    const product = this.ofSet.find((row) => row.productId === productId);
    return within ? (product?.out?.find((row) => row.id === id) ?? product) : product;
  }

  override fill(from: number, read: Rows): void {
    super.fill(from, read);
    const again = this.ofSet.slice(from, from + read.rows.length).filter((row) => row.out);
    if (this.wasOut.size === 0 && again.length === 0) return;
    // What cannot be read stays as it was; that the server does not answer is said elsewhere.
    for (const row of again) this.readOut(row).catch(() => undefined);
    this.flatten();
  }

  protected override writeRow(row: SheetRow, values: readonly FieldValue[], several?: Several): void {
    delete row.several;
    delete row.differing;
    this.ofSkus.delete(row);
    if (several) {
      const { here, all, differing } = several;
      row.several = { here, all };
      row.differing = Object.fromEntries(differing.map((one) => [one.field, one]));
    }
    super.writeRow(row, values);
    if (!several) delete row.out;
    else {
      row.id = row.productId!;
      const out = this.wasOut.get(row.productId!);
      if (out) row.out ??= out.map((sku) => ({ ...sku, within: row }));
    }
  }

  /** What the proof makes of SKUs stands at them, where they are folded out, and at the row that stands for them. */
  override lay(pending: readonly Pending[]): void {
    super.lay(pending);
    const rows = new Map(this.ofSet.flatMap((row) => (row.several ? [[row.productId!, row] as const] : [])));
    const isOut = new Map([...rows.values()].flatMap((row) => (row.out ?? []).map((sku) => [sku.id!, row] as const)));
    const touched = new Map<SheetRow, Set<FieldKey>>();
    for (const line of pending) {
      const row = line.product === undefined ? isOut.get(line.id) : rows.get(line.product);
      if (line.kind !== 'sku' || !row) continue;
      const ofRow: OfSkus = this.ofSkus.get(row) ?? new Map<FieldKey, Map<string, Pending>>();
      this.ofSkus.set(row, ofRow);
      ofRow.set(line.field, (ofRow.get(line.field) ?? new Map<string, Pending>()).set(line.id, line));
      touched.set(row, (touched.get(row) ?? new Set()).add(line.field));
    }
    for (const [row, keys] of touched) for (const key of keys) this.layTogether(row, key);
  }

  /** Shows at a row what the proof makes of its SKUs: the value where it makes the same of all, or how many it changes. */
  private layTogether(row: SheetRow, key: FieldKey): void {
    const lines = [...(this.ofSkus.get(row)?.get(key)?.values() ?? [])];
    const warnings = [...new Set(lines.flatMap((line): readonly WarningKey[] => line.warnings))];
    const afters = [...new Set(lines.map(({ after }) => after))];
    const { here } = row.several!;
    const isAll = lines.length === here;
    const field = this.fieldOf(key);
    if (isAll && afters.length === 1) {
      const [after] = afters;
      if (row.landed?.[key] === after && !row.differing?.[key]) delete row.pending![key];
      else row.pending![key] = { after: after!, called: lines[0]!.called, warnings };
    } else if (isAll && field && toldAsSpan(field) && !afters.includes(null)) {
      const numbers = afters.map((after) => BigInt(after!)).sort((a, b) => (a < b ? -1 : 1));
      const ends = [numbers[0]!, numbers.at(-1)!].map(String);
      row.pending![key] = { after: null, called: valuesText(field, ends, afters.length, this.asking), warnings };
    } else row.pending![key] = { after: null, called: words.sheet.changedOf(lines.length, here), warnings };
    this.write(row);
  }

  override async load(from: number, to: number): Promise<boolean> {
    const [first, last] = this.inSet(from, to);
    return this.loadOfSet(first, last);
  }

  override async loadAgain(from: number, to: number): Promise<void> {
    const [first, last] = this.inSet(from, to);
    // What is folded out further away comes folded in, and would move what is in sight.
    this.ofSet.forEach((row, index) => {
      if (index < first || index > last) delete row.out;
    });
    await this.loadOfSetAgain(first, last);
    this.flatten();
  }

  /** The rows of the set, by their order in it, that are in sight between two places. */
  private inSet(from: number, to: number): [number, number] {
    const rows = this.rows.slice(from, Math.min(to, this.rows.length - 1) + 1);
    const each = rows.map((row) => this.indexes.get(row.within ?? row)!);
    return [Math.min(...each), Math.max(...each)];
  }

  override async fold(row: SheetRow): Promise<SheetRow | undefined> {
    const of = row.within ?? row;
    if (!of.several) return undefined;
    if (of.out) delete of.out;
    else await this.readOut(of);
    this.flatten();
    return of;
  }

  /** Reads the SKUs for which a row stands. */
  private async readOut(row: SheetRow): Promise<void> {
    const { question, columns } = this.asked;
    const body = { question, product: row.productId!, columns: [...columns] };
    const read = await firstValueFrom(this.api.call(calls.listVariants, { body }));
    this.columns = read.columns;
    const before = row.out ?? [];
    const isSame = before.length === read.rows.length && before.every(({ id }, i) => id === read.rows[i]![0]);
    row.out = read.rows.map((values, i) => {
      const sku: SheetRow = isSame ? before[i]! : { place: 0, within: row };
      super.writeRow(sku, values);
      return sku;
    });
    if (!isSame) this.flatten();
    this.lay(read.pending);
    this.rewritten();
  }

  /** Puts the rows one below the other, with what is folded out. */
  private flatten(): void {
    this.isBehind = this.mustStay();
    if (this.isBehind) return;
    this.rows = this.ofSet.flatMap((row) => (row.out ? [row, ...row.out] : [row]));
    this.rows.forEach((row, place) => (row.place = place));
    this.reshaped();
  }

  override catchUp(): void {
    if (this.isBehind) this.flatten();
  }
}
