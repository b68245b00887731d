import { Injectable, signal } from '@angular/core';
import { Subject } from 'rxjs';
import { type Place } from './steps.ts';

/** Whether a cell of the sheet has the keys: what is typed then goes into the cell, and single-letter keys rest. */
@Injectable({ providedIn: 'root' })
export class SheetFocus {
  readonly hasCell = signal(false);
  /** Somebody outside the sheet leaves the focus to it. */
  readonly wanted = new Subject<void>();
  /** Where the focus was in a sheet that went while it had it: the next sheet takes it back there. */
  left: Place | undefined;
}
