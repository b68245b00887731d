import { Injectable, signal } from '@angular/core';
import { type SheetRow } from './sheetRows.ts';

/** So many products one call takes. */
const MOST_DRAGGED = 5_000;

/** The products of the rows that are dragged out of the sheet; none while nothing is. */
@Injectable({ providedIn: 'root' })
export class Dragged {
  readonly products = signal<readonly string[]>([]);

  /** Takes the products of rows up. Says no where they are too many, or not here yet: these would be left behind without a word. */
  take(rows: readonly SheetRow[]): boolean {
    const products = [...new Set(rows.map(({ productId }) => productId))];
    const areHere = products.every((id) => id !== undefined) && products.length <= MOST_DRAGGED;
    this.products.set(areHere ? products : []);
    return areHere;
  }
}
