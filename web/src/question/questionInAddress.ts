import { Location } from '@angular/common';
import { inject, Injectable, untracked } from '@angular/core';
import { NavigationEnd, Router, UrlSerializer } from '@angular/router';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { filter } from 'rxjs';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';

/** Pages that show the working set. */
const OF_THE_SET = /^\/(?:range|prices|stock|rule)?(?:[?#]|$)/;
/** Marks the steps that are taken here, so that none is taken for somebody's. */
const OURS = 'question in address';

/**
 * The question stands in the address: it outlives a reload, can be kept as a bookmark, and Back leads to the one before.
 * Pages that do not show the working set have none, and leave it as it is.
 */
@Injectable({ providedIn: 'root' })
export class QuestionInAddress {
  private readonly router = inject(Router);
  private readonly serializer = inject(UrlSerializer);
  private readonly store = inject(Store);
  private readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);
  /** Whether this step of the history has its question: the next question is a step of its own. */
  private entered = false;

  constructor() {
    const first = this.questionOf(inject(Location).path());
    if (first !== undefined) this.store.dispatch(WorkingSetActions.ask({ question: first }));
    inject(Actions)
      .pipe(ofType(WorkingSetActions.answered))
      .subscribe(({ answer }) => {
        const step = untracked(this.router.currentNavigation);
        // While somebody goes to another page, the question follows on arrival.
        if (step === null || step.extras.info === OURS) this.show(answer.question);
      });
    this.router.events.pipe(filter((event) => event instanceof NavigationEnd)).subscribe(() => this.arrive());
  }

  /** The question of an address; undefined where its page has none. */
  private questionOf(address: string): string | undefined {
    if (!OF_THE_SET.test(address)) return undefined;
    return this.serializer.parse(address).queryParamMap.get('q') ?? '';
  }

  private arrive(): void {
    const step = untracked(this.router.currentNavigation);
    const { question, asking } = untracked(this.set);
    const there = this.questionOf(this.router.url);
    if (there === undefined || step?.extras.info === OURS) return;
    this.entered = false;
    if (step?.trigger === 'popstate' && there !== question)
      this.store.dispatch(WorkingSetActions.ask({ question: there }));
    else if (!asking) this.show(question);
  }

  private show(question: string): void {
    const there = this.questionOf(this.router.url);
    if (there === undefined) return;
    if (there !== question) {
      const tree = this.serializer.parse(this.router.url);
      const { q: _, ...others } = tree.queryParams;
      tree.queryParams = question === '' ? others : { ...others, q: question };
      void this.router.navigateByUrl(tree, { replaceUrl: !this.entered, info: OURS });
    }
    this.entered = true;
  }
}
