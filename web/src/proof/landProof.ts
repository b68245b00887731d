import { inject, Injectable } from '@angular/core';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api, detailsOf } from '../api/api.ts';
import { WorkActions } from '../state/atWork.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { ProblemActions } from '../state/problemActions.ts';

/** Lands a proof, from wherever it is looked at; what comes of it is told by the server's events. */
@Injectable({ providedIn: 'root' })
export class LandProof {
  private readonly api = inject(Api);
  private readonly inTurn = inject(InTurn);
  private readonly store = inject(Store);

  land(id: string, { landed, refused }: { landed: () => void; refused: () => void }): void {
    this.inTurn.run(this.api.call(calls.landProof, { params: { id }, body: {} })).subscribe({
      next: ({ work }) => {
        if (work) this.store.dispatch(WorkActions.begun({ work }));
        this.store.dispatch(HandActions.readAgain());
        landed();
      },
      error: (error: unknown) => {
        this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
        refused();
      },
    });
  }
}
