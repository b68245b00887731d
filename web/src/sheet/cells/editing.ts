import { inject, Injectable } from '@angular/core';
import { type AnswerOf, calls, type Pending, type ProblemDetails, wireProblemWords } from '@ivory/contract';
import { type FieldKey, howMade } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api, detailsOf } from '../../api/api.ts';
import { HandActions } from '../../state/handActions.ts';
import { InTurn } from '../../state/inTurn.ts';
import { ProblemActions } from '../../state/problemActions.ts';
import { selectAskingInHand } from '../../state/askingInHand.ts';
import { words } from '../../words/en.ts';
import { type CellEdits } from './cellBlocks.ts';
import { whyRefused } from './whyRefused.ts';

/** Takes edited cells of any sheet into the proof. They stand in the sheet at once; when refused they stay, marked, to be mended. */
@Injectable({ providedIn: 'root' })
export class Editing {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);
  private readonly asking = this.store.selectSignal(selectAskingInHand);

  /**
   * `redraw` is called whenever the rows show something else, `taken` once the proof has the cells. With `make`, brands and tags
   * that a cell names and the shop does not have are made.
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
      body: { title: words.sheet[how](cells.length), question: rows.question, edits, make, partly: edits.length > 1 },
    });
    this.inTurn.run(call).subscribe({
      next: ({ proof, pending, refused }) => {
        arrived();
        rows.lay(pending);
        this.keepRefused(rows, cells, refused);
        redraw();
        taken(pending);
        this.store.dispatch(HandActions.edited({ proof }));
      },
      error: (error: unknown) => {
        const problem = detailsOf(error);
        arrived();
        rows.refuse(cells, (cell) => whyRefused(problem, cell), this.unknownNames(problem.places ?? []));
        redraw();
        this.refuse(problem);
      },
    });
  }

  /** Cells that were not taken in stay, each marked with its reason; how many there are is said, and the first of them. */
  private keepRefused(rows: CellEdits['of'], cells: CellEdits['cells'], refused: Refused): void {
    if (refused.length === 0) return;
    const places = new Map(refused.map(({ kind, id, field, place }) => [`${kind} ${id} ${field}`, place]));
    const placeOf = ({ row, key }: CellEdits['cells'][number]) => {
      const { kind, id } = rows.addressOf(row, key);
      return places.get(`${kind} ${id} ${key}`);
    };
    const wrong = cells.filter((cell) => placeOf(cell) !== undefined);
    const why = (cell: CellEdits['cells'][number]) => wireProblemWords(placeOf(cell)!);
    const unknown = this.unknownNames(refused.map(({ place }) => place));
    // Unknown names are made for all cells at once; other refusals are mended cell by cell.
    if (unknown.length > 0) rows.refuse(wrong, why, unknown);
    else for (const cell of wrong) rows.refuse([cell], why);
    this.refuse({
      type: 'about:blank',
      status: 422,
      title: words.sheet.partly(cells.length - wrong.length, wrong.length),
      detail: refused
        .slice(0, MOST_TOLD)
        .map(({ place }) => wireProblemWords(place))
        .join(' '),
      places: refused.slice(0, MOST_TOLD).map(({ place }) => place),
    });
  }

  /** The names that the shop does not have and that can be made, where nothing else was wrong. */
  private unknownNames(places: NonNullable<ProblemDetails['places']>): string[] {
    const { register } = this.asking();
    const canBeMade = places.every(
      ({ code, field }) =>
        UNKNOWN.includes(code) && field !== undefined && howMade(register.find(field as FieldKey)) !== undefined,
    );
    return canBeMade ? [...new Set(places.flatMap(({ value }) => value ?? []))] : [];
  }

  refuse(problem: ProblemDetails): void {
    this.store.dispatch(ProblemActions.show({ problem }));
  }
}

type Refused = AnswerOf<typeof calls.editCells>['refused'];
const MOST_TOLD = 20;

const UNKNOWN: readonly string[] = ['reference-unknown', 'category-unknown'];
