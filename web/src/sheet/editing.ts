import { inject, Injectable } from '@angular/core';
import { calls, type Pending, type ProblemDetails } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api, detailsOf } from '../api/api.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { words } from '../words/en.ts';
import { type CellEdits } from './cellBlocks.ts';
import { whyRefused } from './whyRefused.ts';

/** Takes edited cells of any sheet into the proof. They stand in the sheet at once; when refused they stay, marked, to be mended. */
@Injectable({ providedIn: 'root' })
export class Editing {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);

  /**
   * `redraw` is called whenever the rows show something else, `taken` once the proof has the cells. With `make`, brands and tags
   * that a cell names and the shop has not are made.
   */
  edit(
    { how, of: rows, cells: edited }: CellEdits,
    redraw: () => void,
    taken: (pending: readonly Pending[]) => void,
    make = false,
  ): void {
    const cells = rows.withRefused(edited);
    const arrived = rows.send(cells);
    redraw();
    const edits = cells.map(({ row, key, text }) => ({ ...rows.addressOf(row, key), field: key, text }));
    const call = this.api.call(calls.editCells, {
      body: { title: words.sheet[how](cells.length), question: rows.question, edits, make },
    });
    this.inTurn.run(call).subscribe({
      next: ({ proof, pending }) => {
        arrived();
        rows.lay(pending);
        redraw();
        taken(pending);
        this.store.dispatch(HandActions.edited({ proof }));
      },
      error: (error: unknown) => {
        const problem = detailsOf(error);
        arrived();
        rows.refuse(cells, (cell) => whyRefused(problem, cell), unknownNames(problem));
        redraw();
        this.refuse(problem);
      },
    });
  }

  refuse(problem: ProblemDetails): void {
    this.store.dispatch(ProblemActions.show({ problem }));
  }
}

/** The names that the shop has not, where nothing else was wrong. */
function unknownNames({ places = [] }: ProblemDetails): string[] {
  const isUnknown = places.every(({ code, field }) => UNKNOWN.includes(code) && MADE_BY_NAME.includes(field ?? ''));
  return isUnknown ? [...new Set(places.flatMap(({ value }) => value ?? []))] : [];
}

const UNKNOWN: readonly string[] = ['reference-unknown', 'category-unknown'];
/** Fields whose things are no more than a name, or a path. */
const MADE_BY_NAME: readonly string[] = ['brand', 'supplier', 'tags', 'badges', 'unitOfMeasure', 'category'];
