import { inject, Injectable } from '@angular/core';
import { type ProofSummary } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { type Observable } from 'rxjs';
import { detailsOf } from '../api/api.ts';
import { HandActions } from './handActions.ts';
import { InTurn } from './inTurn.ts';
import { ProblemActions } from './problemActions.ts';

/** Calls that put something into the proof in hand: made in turn, and what is refused is shown. */
@Injectable({ providedIn: 'root' })
export class Proposing {
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);

  /** `taken` is called once the proof has it, `refused` with what was wrong when it has not. */
  run(
    call: Observable<{ readonly proof: ProofSummary | null }>,
    taken?: () => void,
    refused?: (problem: ReturnType<typeof detailsOf>) => void,
  ): void {
    this.inTurn.run(call).subscribe({
      next: ({ proof }) => {
        this.store.dispatch(HandActions.changed({ proof }));
        taken?.();
      },
      error: (error: unknown) => {
        const problem = detailsOf(error);
        this.refuse(problem);
        refused?.(problem);
      },
    });
  }

  /** Shows what was refused before anything was proposed. */
  refuse(problem: ReturnType<typeof detailsOf>): void {
    this.store.dispatch(ProblemActions.show({ problem }));
  }
}
