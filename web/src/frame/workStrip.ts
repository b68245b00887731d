import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { type Work } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzProgressModule } from 'ng-zorro-antd/progress';
import { atWork, isOver, WorkActions } from '../state/atWork.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** Work that goes on by itself: how far it is, and a way to stop it. It can be left; it is found here again. */
@Component({
  selector: 'ivory-work-strip',
  imports: [NzProgressModule],
  template: `
    <div role="status" [attr.aria-label]="words.work.label">
      @for (work of works(); track work.id) {
        <div class="work" [class.marked-stop]="work.state === 'failed'">
          <span>{{ work.title }}</span>
          <span class="soft">{{ words.work.states[work.state] }}</span>
          @if (isOver(work)) {
            <span>{{ work.note }}</span>
            <button type="button" class="opens" (click)="putAway(work.id)">{{ words.work.dismiss }}</button>
          } @else {
            <span class="number">{{ work.note ?? far(work) }}</span>
            <nz-progress
              [nzPercent]="share(work)"
              nzSize="small"
              [nzShowInfo]="false"
              nzStrokeColor="#1e6b62"
              role="group"
              [attr.aria-label]="work.title"
            />
            <button type="button" class="opens" (click)="stop(work.id)">{{ words.work.stop }}</button>
          }
        </div>
      }
    </div>
  `,
  styles: `
    .work {
      display: flex;
      gap: 14px;
      align-items: center;
      padding: 5px 16px;
      border-top: 1px solid var(--rule);
      background: var(--active-soft);
    }
    nz-progress {
      width: 180px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkStrip {
  protected readonly words = words;
  protected readonly isOver = isOver;
  private readonly store = inject(Store);
  protected readonly works = this.store.selectSignal(atWork.selectShownWork);

  protected far(work: Work): string {
    return words.work.rows(whole(work.done), work.total === null ? null : whole(work.total));
  }

  protected share(work: Work): number {
    return work.total ? Math.round((100 * work.done) / work.total) : 0;
  }

  protected stop(id: string): void {
    this.store.dispatch(WorkActions.stop({ id }));
  }

  protected putAway(id: string): void {
    this.store.dispatch(WorkActions.putAway({ id }));
  }
}
