import { calls, type Pending, type Sort } from '@ivory/contract';
import { type Asking, type Field, type FieldKey, type FieldValue } from '@ivory/core';
import { firstValueFrom } from 'rxjs';
import { type Api } from '../api/api.ts';
import { type CellAddress, type SheetRow, SheetRows } from './sheetRows.ts';

export const BLOCK = 200;

/** The rows of a working set, loaded by blocks as they come into sight; the set is a snapshot kept by the server. */
export class GoodsRows extends SheetRows {
  private set: Promise<string> | undefined;
  private readonly loading = new Map<number, Promise<void>>();

  constructor(
    private readonly api: Api,
    asking: Asking,
    private readonly asked: { readonly question: string; readonly sort: Sort },
    total: number,
  ) {
    super(asking, total);
  }

  override isSameSet(other: SheetRows): boolean {
    if (!(other instanceof GoodsRows)) return false;
    const { question, sort } = other.asked;
    return (
      question === this.asked.question && sort.field === this.asked.sort.field && sort.down === this.asked.sort.down
    );
  }

  override fieldOf(key: string): Field | undefined {
    return this.asking.register.find(key);
  }

  override addressOf({ id, productId }: SheetRow, key: FieldKey): CellAddress {
    return this.fieldOf(key)?.kind === 'product' ? { kind: 'product', id: productId! } : { kind: 'sku', id: id! };
  }

  protected override thingsOf({ id, productId }: SheetRow): readonly CellAddress[] {
    return [
      { kind: 'sku', id: id! },
      { kind: 'product', id: productId! },
    ];
  }

  /** Fills rows from a place on, as the server gave them. */
  fill(
    from: number,
    columns: readonly FieldKey[],
    rows: readonly (readonly FieldValue[])[],
    pending: readonly Pending[],
  ): void {
    this.columns = columns;
    rows.forEach(([id, product, picture, ...values], i) => {
      const row = this.rows[from + i];
      if (!row || id == null) return;
      row.id = id;
      row.productId = product ?? '';
      row.pictureKey = picture ?? null;
      row.landed = Object.fromEntries(columns.map((key, place) => [key, values[place] ?? null]));
      row.pending = {};
      this.write(row);
    });
    this.lay(pending);
  }

  /** Loads what is not loaded yet between two places. */
  override async load(from: number, to: number): Promise<boolean> {
    const blocks: Promise<void>[] = [];
    const last = Math.min(to, this.rows.length - 1);
    for (let block = Math.floor(from / BLOCK); block <= Math.floor(last / BLOCK); block++) {
      const first = block * BLOCK;
      const end = Math.min(first + BLOCK, this.rows.length);
      if (!this.areLoaded(first, end - 1)) blocks.push(this.loadBlock(block));
    }
    await Promise.all(blocks);
    return blocks.length > 0;
  }

  /** Reads the rows again that are loaded, because the proof has changed under them. */
  async loadAgain(from: number, to: number): Promise<void> {
    this.age++;
    for (const row of this.rows) {
      if (row.place >= from && row.place <= to) continue;
      delete row.id;
      delete row.landed;
    }
    for (let block = Math.floor(from / BLOCK); block <= Math.floor(to / BLOCK); block++) await this.loadBlock(block);
  }

  private loadBlock(block: number): Promise<void> {
    const running = this.loading.get(block);
    if (running) return running;
    const load = this.readBlock(block).finally(() => this.loading.delete(block));
    this.loading.set(block, load);
    return load;
  }

  private async readBlock(block: number): Promise<void> {
    this.set ??= firstValueFrom(this.api.call(calls.makeSet, { body: this.asked })).then(({ id }) => id);
    this.set.catch(() => (this.set = undefined));
    const id = await this.set;
    const from = block * BLOCK;
    const query = { from, count: BLOCK };
    for (let age = -1; age !== this.age;) {
      age = this.age;
      const read = await firstValueFrom(this.api.call(calls.readSet, { params: { id }, query }));
      if (age === this.age) this.fill(from, read.columns, read.rows, read.pending);
    }
  }
}
