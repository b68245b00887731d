import { inject, Injectable } from '@angular/core';
import { type AnswerOf, calls, type Sort } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { catchError, type Observable, of, shareReplay, switchMap } from 'rxjs';
import { Api } from '../../api/api.ts';
import { workingSet } from '../../state/workingSet.ts';

export type Beside = AnswerOf<typeof calls.getBeside>;
const NONE: Beside = { previous: null, next: null, place: 0, total: 0 };

/** The products before and behind one in the working set. The set is taken once for a question and its order. */
@Injectable({ providedIn: 'root' })
export class BesideSet {
  private readonly api = inject(Api);
  private readonly set = inject(Store).selectSignal(workingSet.selectWorkingSetState);
  private kept: { readonly of: string; readonly set: Observable<{ id: string }> } | undefined;

  of(product: string): Observable<Beside> {
    const { question, sort } = this.set();
    return this.setOf(question, sort).pipe(
      switchMap(({ id }) => this.api.call(calls.getBeside, { params: { id, product } })),
      catchError(() => of(NONE)),
    );
  }

  private setOf(question: string, sort: Sort): Observable<{ id: string }> {
    const asked = JSON.stringify([question, sort]);
    if (this.kept?.of !== asked)
      this.kept = {
        of: asked,
        set: this.api.call(calls.makeSet, { body: { question, sort, of: 'products' } }).pipe(shareReplay(1)),
      };
    return this.kept.set;
  }
}
