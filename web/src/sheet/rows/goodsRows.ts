import { calls, type Rows, type RowsOf, type Several, type Sort } from '@ivory/contract';
import { type Asking, type Field, type FieldKey, type FieldValue } from '@ivory/core';
import { firstValueFrom } from 'rxjs';
import { type Api } from '../../api/api.ts';
import { type CellAddress, type SheetRow, SheetRows } from './sheetRows.ts';

export const BLOCK = 200;

/** What rows of goods are asked for. */
export interface AskedRows {
  readonly question: string;
  readonly sort: Sort;
  readonly of: RowsOf;
  readonly columns: readonly FieldKey[];
}

/** The rows of a working set, loaded by blocks as they come into sight; the set is a snapshot kept by the server. */
export class GoodsRows extends SheetRows {
  /** The rows of the set in its order, without rows that are folded out between them. */
  protected readonly ofSet: readonly SheetRow[];
  private set: Promise<string> | undefined;
  private readonly loading = new Map<number, Promise<void>>();

  constructor(
    protected readonly api: Api,
    asking: Asking,
    readonly asked: AskedRows,
    total: number,
  ) {
    super(asking, total);
    this.ofSet = this.rows;
  }

  override isSameSet(other: SheetRows): boolean {
    if (!(other instanceof GoodsRows)) return false;
    const { question, sort, of } = other.asked;
    const mine = this.asked;
    return question === mine.question && of === mine.of && JSON.stringify(sort) === JSON.stringify(mine.sort);
  }

  override fieldOf(key: string): Field | undefined {
    return this.asking.register.find(key);
  }

  override addressOf({ id, productId }: SheetRow, key: FieldKey): CellAddress {
    return this.fieldOf(key)?.kind === 'product' ? { kind: 'product', id: productId! } : { kind: 'sku', id: id! };
  }

  /** The question whose SKUs an edit of a product's row is of. */
  override get question(): string {
    return this.asked.question;
  }

  protected override thingsOf({ id, productId }: SheetRow): readonly CellAddress[] {
    return [
      { kind: 'sku', id: id! },
      { kind: 'product', id: productId! },
    ];
  }

  /** Fills rows of the set from one of them on, as the server gave them. */
  fill(from: number, { columns, rows, pending, several }: Rows): void {
    this.columns = columns;
    rows.forEach((values, i) => {
      const row = this.ofSet[from + i];
      if (row)
        this.writeRow(
          row,
          values,
          several.find((one) => one.row === i),
        );
    });
    this.lay(pending);
  }

  /** Writes what the server gave into a row. */
  protected writeRow(
    row: SheetRow,
    [id, product, picture, ...values]: readonly FieldValue[],
    _several?: Several,
  ): void {
    if (id == null) return;
    row.id = id;
    row.productId = product ?? '';
    row.pictureKey = picture ?? null;
    row.landed = Object.fromEntries(this.columns.map((key, place) => [key, values[place] ?? null]));
    row.pending = {};
    this.write(row);
  }

  /** Loads what is not loaded yet between two places. */
  override async load(from: number, to: number): Promise<boolean> {
    return this.loadOfSet(from, Math.min(to, this.rows.length - 1));
  }

  /** Loads rows of the set that are not loaded yet, both within. */
  protected async loadOfSet(from: number, to: number): Promise<boolean> {
    const blocks: Promise<void>[] = [];
    for (let block = Math.floor(from / BLOCK); block <= Math.floor(to / BLOCK); block++) {
      const rows = this.ofSet.slice(block * BLOCK, (block + 1) * BLOCK);
      if (rows.some(({ id }) => id === undefined)) blocks.push(this.loadBlock(block));
    }
    await Promise.all(blocks);
    return blocks.length > 0;
  }

  /** Reads the rows again that are loaded, because the proof has changed under them. */
  async loadAgain(from: number, to: number): Promise<void> {
    return this.loadOfSetAgain(from, to);
  }

  /** Forgets the rows of the set but those between two of them, and reads these again. */
  protected async loadOfSetAgain(from: number, to: number): Promise<void> {
    this.age++;
    this.ofSet.forEach((row, index) => {
      if (index >= from && index <= to) return;
      delete row.id;
      delete row.landed;
    });
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
    const { columns, ...body } = this.asked;
    this.set ??= firstValueFrom(this.api.call(calls.makeSet, { body })).then(({ id }) => id);
    this.set.catch(() => (this.set = undefined));
    const id = await this.set;
    const from = block * BLOCK;
    const query = { from, count: BLOCK, columns: columns.join(',') };
    for (let age = -1; age !== this.age;) {
      age = this.age;
      const read = await firstValueFrom(this.api.call(calls.readSet, { params: { id }, query }));
      if (age === this.age) this.fill(from, read);
    }
  }
}
