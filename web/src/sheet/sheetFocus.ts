import { Injectable, signal } from '@angular/core';
import { Subject } from 'rxjs';

/** Whether a cell of the sheet has the focus: what is typed then goes into the cell, and single-letter keys rest. */
@Injectable({ providedIn: 'root' })
export class SheetFocus {
  readonly hasCell = signal(false);
  /** Somebody outside the sheet leaves the focus to it. */
  readonly wanted = new Subject<void>();
}
