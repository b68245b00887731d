import { inject, Injectable, signal } from '@angular/core';
import { calls, type Planned, type Planning } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { type Observable } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';

/** Plans, moves and calls off landings; a refusal stays in `problem` until a later call succeeds. */
@Injectable()
export class PlanVerbs {
  readonly problem = signal('');
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly inTurn = inject(InTurn);

  plan(proof: string, body: Planning, done: () => void): void {
    this.run(this.api.call(calls.planProof, { params: { id: proof }, body }), done);
  }

  move({ id }: Planned, body: Planning, done: () => void): void {
    this.run(this.api.call(calls.movePlanned, { params: { id }, body }), done);
  }

  callOff({ id }: Planned): void {
    this.run(this.api.call(calls.callOff, { params: { id } }), () => undefined);
  }

  private run(call: Observable<unknown>, done: () => void): void {
    this.inTurn.run(call).subscribe({
      next: () => {
        this.problem.set('');
        this.store.dispatch(HandActions.readAgain());
        done();
      },
      error: (error: unknown) => this.problem.set(detailsOf(error).title),
    });
  }
}
