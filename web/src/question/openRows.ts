import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { calls, type ListOfWire } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api, detailsOf } from '../api/api.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { SessionActions } from '../state/session.ts';
import { WorkingSetActions } from '../state/workingSet.ts';

/** Every number opens: exactly the rows that it counts become the working set, on the desk where one is, or that suits it. */
@Injectable({ providedIn: 'root' })
export class OpenRows {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);

  /** Rows that a question asks for; from a desk with a sheet they open there, from elsewhere on the desk named. */
  byQuestion(question: string, desk: '/range' | '/prices' = '/range'): void {
    this.store.dispatch(WorkingSetActions.ask({ question }));
    const [here] = /^\/(?:range|prices|stock)(?=\?|$)/.exec(this.router.url) ?? [];
    void this.router.navigateByUrl(here ?? desk);
  }

  /** Rows that no question asks for: the server lists them under a title, and the question is that list. */
  byList(title: string, of: ListOfWire, desk: '/range' | '/prices' = '/range'): void {
    this.api.call(calls.openList, { body: { title: title.slice(0, 120), of } }).subscribe({
      next: ({ question }) => {
        this.store.dispatch(SessionActions.namesChanged());
        this.byQuestion(question, desk);
      },
      error: (error: unknown) => this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) })),
    });
  }
}
