import { calls, type Pending, type Sort } from '@ivory/contract';
import { editValue, field, type FieldKey, FIELD_KEYS, type FieldValue, type LookKey, type Names } from '@ivory/core';
import { firstValueFrom } from 'rxjs';
import { type Api } from '../api/api.ts';

export const BLOCK = 200;

/** A row of the sheet. Before it is loaded it has only its place. Cell texts stand under their field's key. */
export interface SheetRow {
  readonly place: number;
  id?: string;
  productId?: string;
  pictureKey?: string | null;
  /** What stands in the shop, in canonical text. */
  landed?: Partial<Record<FieldKey, FieldValue>>;
  /** What the proof in hand makes of it. */
  pending?: Partial<Record<FieldKey, { after: FieldValue; looks: readonly LookKey[] }>>;
  /** What was typed and is on its way to the server. */
  sent?: Partial<Record<FieldKey, Typed>>;
  /** What was typed and refused, and why: it stays to be mended. */
  refused?: Partial<Record<FieldKey, Refused>>;
  /** The text of a cell, as one types it. */
  [cell: string]: unknown;
}

/** A cell that a person changed, and the text that it was given. */
export interface CellEdit extends Typed {
  readonly row: SheetRow;
  readonly key: FieldKey;
}

interface Typed {
  readonly text: string;
}

interface Refused extends Typed {
  readonly why: string;
  /** All cells that were refused together: when one is mended, all are sent again. */
  readonly together: readonly CellEdit[];
}

/** The rows of a working set, loaded by blocks as they come into sight; the set is a snapshot kept by the server. */
export class SheetRows {
  readonly rows: SheetRow[];
  private set: Promise<string> | undefined;
  private readonly loading = new Map<number, Promise<void>>();
  /** Rises with whatever makes rows that are being read out of date. */
  private age = 0;

  constructor(
    private readonly api: Api,
    private readonly names: Names,
    private readonly asked: { readonly question: string; readonly sort: Sort },
    total: number,
  ) {
    this.rows = Array.from({ length: total }, (_, place) => ({ place }));
  }

  /** Whether these are the rows of the same question in the same order, perhaps as they were before. */
  isSameSet({ asked: { question, sort } }: SheetRows): boolean {
    return (
      question === this.asked.question && sort.field === this.asked.sort.field && sort.down === this.asked.sort.down
    );
  }

  /** Fills rows from a place on, as the server gave them. */
  fill(from: number, rows: readonly (readonly FieldValue[])[], pending: readonly Pending[]): void {
    rows.forEach(([id, product, picture, ...values], i) => {
      const row = this.rows[from + i];
      if (!row || id == null) return;
      row.id = id;
      row.productId = product ?? '';
      row.pictureKey = picture ?? null;
      row.landed = Object.fromEntries(FIELD_KEYS.map((key, place) => [key, values[place] ?? null]));
      row.pending = {};
      this.write(row);
    });
    this.lay(pending);
  }

  /** Lays what the proof proposes over the rows that it touches. */
  lay(pending: readonly Pending[]): void {
    if (pending.length === 0) return;
    const bySku = new Map<string, SheetRow[]>();
    for (const row of this.rows) {
      for (const key of row.id === undefined ? [] : [`sku ${row.id}`, `product ${row.productId}`]) {
        const known = bySku.get(key);
        if (known) known.push(row);
        else bySku.set(key, [row]);
      }
    }
    for (const { level, id, field: key, after, looks } of pending) {
      for (const row of bySku.get(`${level} ${id}`) ?? []) {
        if (row.landed?.[key] === after) delete row.pending![key];
        else row.pending![key] = { after, looks };
        this.write(row);
      }
    }
  }

  /** Shows cells as they were typed until the server has answered; what this gives back is to be called then. */
  send(cells: readonly CellEdit[]): () => void {
    this.age++;
    for (const cell of cells) {
      cell.row.sent = { ...cell.row.sent, [cell.key]: cell };
      delete cell.row.refused?.[cell.key];
      this.write(cell.row);
    }
    return () => {
      this.age++;
      for (const cell of cells) {
        // The same cell may have been changed once more meanwhile.
        if (cell.row.sent?.[cell.key] === cell) delete cell.row.sent[cell.key];
        this.write(cell.row);
      }
    };
  }

  /** Keeps what was typed and refused in its cells, with the reason of each. */
  refuse(cells: readonly CellEdit[], why: (cell: CellEdit) => string): void {
    for (const cell of cells) {
      const { row, key, text } = cell;
      row.refused = { ...row.refused, [key]: { text, why: why(cell), together: cells } };
      this.write(row);
    }
  }

  /** Lets a refused text go; says whether there was one. */
  forgetRefused(row: SheetRow, key: FieldKey): boolean {
    if (!row.refused?.[key]) return false;
    delete row.refused[key];
    this.write(row);
    return true;
  }

  /** What is to be sent for cells that were edited: with them those that were refused together with one of them. */
  withRefused(cells: readonly CellEdit[]): readonly CellEdit[] {
    const all = new Map<string, CellEdit>();
    const add = (cell: CellEdit) => all.set(`${cell.row.place} ${cell.key}`, cell);
    for (const { row, key } of cells)
      for (const other of row.refused?.[key]?.together ?? []) if (other.row.refused?.[other.key]) add(other);
    cells.forEach(add);
    return [...all.values()];
  }

  /** Writes the cells' texts, as one types them. */
  private write(row: SheetRow): void {
    for (const key of FIELD_KEYS) {
      const proposed = row.pending?.[key];
      const value = proposed ? proposed.after : (row.landed?.[key] ?? null);
      row[key] = row.sent?.[key]?.text ?? row.refused?.[key]?.text ?? editValue(field(key), value, this.names);
    }
  }

  areLoaded(from: number, to: number): boolean {
    for (let place = from; place <= to; place++) if (this.rows[place]?.id === undefined) return false;
    return true;
  }

  /** Loads what is not loaded yet between two places. */
  async load(from: number, to: number): Promise<boolean> {
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
      if (age === this.age) this.fill(from, read.rows, read.pending);
    }
  }
}
