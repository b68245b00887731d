import { Injectable, signal } from '@angular/core';

/** The products of the rows that are dragged out of the sheet; none while nothing is. */
@Injectable({ providedIn: 'root' })
export class Dragged {
  readonly products = signal<readonly string[]>([]);
}
