import { Injectable } from '@angular/core';
import { catchError, concatMap, EMPTY, ignoreElements, type Observable, ReplaySubject, Subject, tap } from 'rxjs';

/**
 * Calls that change the proof in hand go one after another, in the order in which they were made: side by side, the
 * later of two edits of a cell might come first, and an undo take back another than the last.
 */
@Injectable({ providedIn: 'root' })
export class InTurn {
  private readonly calls = new Subject<Observable<never>>();

  constructor() {
    this.calls.pipe(concatMap((call) => call)).subscribe();
  }

  /** Makes a call when those before it are answered or refused. It is made whether its answer is waited for or not. */
  run<Answer>(call: Observable<Answer>): Observable<Answer> {
    const answer = new ReplaySubject<Answer>();
    this.calls.next(
      call.pipe(
        // Functions instead of the subject itself: tap would call the subject's own subscribe.
        tap({ next: (got) => answer.next(got), error: (why) => answer.error(why), complete: () => answer.complete() }),
        ignoreElements(),
        catchError(() => EMPTY),
      ),
    );
    return answer;
  }
}
