import { type Differing, type Pending } from '@ivory/contract';
import {
  type Asking,
  editValue,
  type Field,
  type FieldKey,
  type FieldValue,
  type KindKey,
  type WarningKey,
} from '@ivory/core';
import { differingNow, differingText } from './differing.ts';

/**
 * A row of the sheet: an SKU with its product, or a thing of a list. Before it is loaded it has only its place. Cell texts stand
 * under their field's key.
 */
export interface SheetRow {
  place: number;
  id?: string;
  productId?: string;
  pictureKey?: string | null;
  /** Of a row that stands for several SKUs of a product: how many of them, and of how many. Its id is that of the product. */
  several?: { readonly here: number; readonly all: number };
  /** What those differ in. */
  differing?: Partial<Record<FieldKey, Differing>>;
  /** The rows of the SKUs for which it stands, where they are folded out below it. */
  out?: SheetRow[];
  /** Of a row that is folded out: the row that stands for it. */
  within?: SheetRow;
  /** What stands in the shop, in canonical text. */
  landed?: Partial<Record<FieldKey, FieldValue>>;
  /** What the proof in hand makes of it. */
  pending?: Partial<Record<FieldKey, Proposed>>;
  /** What was typed and is on its way to the server. */
  sent?: Partial<Record<FieldKey, Typed>>;
  /** What was typed and refused, and why: it stays to be mended. */
  refused?: Partial<Record<FieldKey, Refused>>;
  /** The text of a cell, as one types it. */
  [cell: string]: unknown;
}

/** What the proof in hand makes of a value; `called` where it names something that only the proof makes. */
export interface Proposed {
  readonly after: FieldValue;
  readonly called?: string | null;
  readonly warnings: readonly WarningKey[];
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
  /** Unknown names among the refused values: they can be made. */
  readonly unknown: readonly string[];
  /** All cells that were refused together: when one is mended, all are sent again. */
  readonly together: readonly CellEdit[];
}

/** Whose a value is. */
export interface CellAddress {
  readonly kind: KindKey;
  readonly id: string;
}

/** The rows of a sheet: present values, proposed values, and refused text. */
export abstract class SheetRows {
  rows: SheetRow[];
  /** The fields that rows have, as they came. */
  protected columns: readonly FieldKey[] = [];
  /** Counts changes that make rows being read out of date. */
  protected age = 0;

  constructor(
    readonly asking: Asking,
    total: number,
  ) {
    this.rows = Array.from({ length: total }, (_, place) => ({ place }));
  }

  /** Whether rows fold out to others. */
  readonly folds: boolean = false;
  /** Called when rows were folded out or in, so that what stood at a place may stand at another. */
  reshaped: () => void = () => undefined;
  /** Called when rows show something else where they stand. */
  rewritten: () => void = () => undefined;
  /** Whether rows must keep their positions because a cell is being edited. */
  mustStay: () => boolean = () => false;

  /** Puts rows where they belong, where they had to stay before. */
  catchUp(): void {
    // Only rows that fold move by themselves.
  }

  /** The question whose SKUs an edit of a product's row is of. */
  get question(): string {
    return '';
  }

  /** Whether these are the rows of the same set in the same order, perhaps as they were before. */
  abstract isSameSet(other: SheetRows): boolean;
  /** The position of a row in the set; its last known position where nothing newer is known. */
  placeOf({ place }: SheetRow): number {
    return place;
  }
  /** The field of a column; undefined for what is none. */
  abstract fieldOf(key: string): Field | undefined;
  /** Whose the value of a cell is. */
  abstract addressOf(row: SheetRow, key: FieldKey): CellAddress;
  /** The things that have values in a row. */
  protected abstract thingsOf(row: SheetRow): readonly CellAddress[];
  /** Loads what is not loaded yet between two places; says whether anything was. */
  abstract load(from: number, to: number): Promise<boolean>;

  /** Folds what a row stands for out below it, or in again; resolves to the row that has the focus then, or nothing where nothing folds. */
  fold(_row: SheetRow): Promise<SheetRow | undefined> {
    return Promise.resolve(undefined);
  }

  areLoaded(from: number, to: number): boolean {
    for (let place = from; place <= to; place++) if (this.rows[place]?.id === undefined) return false;
    return true;
  }

  /** Lays what the proof proposes over the rows that it touches. */
  lay(pending: readonly Pending[]): void {
    if (pending.length === 0) return;
    const byThing = new Map<string, SheetRow[]>();
    for (const row of this.rows) {
      for (const { kind, id } of row.id === undefined ? [] : this.thingsOf(row)) {
        const known = byThing.get(`${kind} ${id}`);
        if (known) known.push(row);
        else byThing.set(`${kind} ${id}`, [row]);
      }
    }
    for (const { kind, id, field: key, after, called, warnings } of pending) {
      for (const row of byThing.get(`${kind} ${id}`) ?? []) {
        if (row.landed?.[key] === after) delete row.pending![key];
        else row.pending![key] = { after, called, warnings };
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
        // The same cell may have been changed again in the meantime.
        if (cell.row.sent?.[cell.key] === cell) delete cell.row.sent[cell.key];
        this.write(cell.row);
      }
    };
  }

  /** Keeps refused text in its cells, each with its reason. */
  refuse(cells: readonly CellEdit[], why: (cell: CellEdit) => string, unknown: readonly string[] = []): void {
    for (const cell of cells) {
      const { row, key, text } = cell;
      row.refused = { ...row.refused, [key]: { text, why: why(cell), unknown, together: cells } };
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
  protected write(row: SheetRow): void {
    const cells: Record<string, unknown> = row;
    for (const key of this.columns) {
      const field = this.fieldOf(key);
      if (!field) continue;
      const proposed = row.pending?.[key];
      const value = proposed ? proposed.after : (row.landed?.[key] ?? null);
      cells[key] =
        row.sent?.[key]?.text ??
        row.refused?.[key]?.text ??
        proposed?.called ??
        (differingNow(row, key) && differingText(field, row, this.asking)) ??
        editValue(field, value, this.asking);
    }
  }
}

/** Carries rows over to a set that was read again, to their new positions; rows that left the set are dropped. */
export const stillThere = (before: readonly SheetRow[], rows: SheetRows): readonly SheetRow[] =>
  before.flatMap((row) => {
    const now = rows.rows[rows.placeOf(row)];
    return now?.id !== undefined && now.id === row.id ? [now] : [];
  });
