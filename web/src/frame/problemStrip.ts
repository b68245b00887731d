import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { wireProblemWords } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { problem } from '../state/problem.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/**
 * What was refused last: which value of which row, and what would be right. It stays until put away; that the server does
 * not answer stays until it does.
 */
@Component({
  selector: 'ivory-problem-strip',
  template: `@if (lost()) {
      <div class="strip marked-caution" role="status">{{ words.problem.lost }}</div>
    }
    @if (problem(); as shown) {
      <div class="strip marked-stop" role="alert">
        <strong>{{ shown.title }}</strong>
        @for (place of places(); track place) {
          <span>{{ place }}</span>
        }
        <button type="button" class="opens" (click)="putAway()">{{ words.problem.close }}</button>
      </div>
    }`,
  styles: `
    .strip {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 14px;
      padding: 7px 16px;
      background: #f7e7e2;
      border-bottom: 1px solid var(--rule);
      max-height: 120px;
      overflow: auto;
    }
    .marked-caution {
      background: #fbf1dc;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProblemStrip {
  protected readonly words = words;
  private readonly store = inject(Store);
  protected readonly lost = this.store.selectSignal(session.selectLost);
  protected readonly problem = this.store.selectSignal(problem.selectProblem);
  protected readonly places = computed(() => (this.problem()?.places ?? []).map(wireProblemWords));

  protected putAway(): void {
    this.store.dispatch(ProblemActions.putAway());
  }
}
