import { ChangeDetectionStrategy, Component, computed, inject, input, model, output } from '@angular/core';
import { type Planning, type ProofSummary } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { planned, proofOfPlan } from '../state/planned.ts';
import { words } from '../words/en.ts';
import { PlanForm } from './planForm.ts';
import { PlanVerbs } from './planVerbs.ts';
import { PlannedWhen } from './plannedWhen.ts';

/** When a proof lands and is taken back: shown, moved and called off where it is planned; a form where it is not. */
@Component({
  selector: 'ivory-proof-plan',
  imports: [NzButtonModule, PlanForm, PlannedWhen],
  providers: [PlanVerbs],
  template: `
    @if (plan(); as plan) {
      <div class="plan" role="status">
        <ivory-planned-when [planned]="plan" />
        @if (!asks()) {
          <button nz-button nzSize="small" type="button" (click)="asks.set(true)">{{ words.moveShort }}</button>
          <button nz-button nzSize="small" type="button" [title]="words.callOffHint" (click)="verbs.callOff(plan)">
            {{ words.callOff }}
          </button>
        }
      </div>
    }
    @if (asks()) {
      <ivory-plan-form
        [plannedBefore]="plan()"
        [problem]="verbs.problem()"
        (planned)="put($event)"
        (left)="asks.set(false)"
      />
    } @else if (verbs.problem()) {
      <p class="marked-stop" role="alert">{{ verbs.problem() }}</p>
    }
  `,
  styles: `
    .plan {
      display: flex;
      gap: 10px;
      align-items: center;
      padding: 6px 16px;
      border-bottom: 1px solid var(--rule);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofPlan {
  readonly proof = input.required<ProofSummary>();
  /** Whether it is being asked when. */
  readonly asks = model(false);
  /** It lands by hand now, and is taken back by the plan. */
  readonly landNow = output();
  /** The proof is planned now, and no longer in hand. */
  readonly gone = output<string>();

  protected readonly words = words.planned;
  protected readonly verbs = inject(PlanVerbs);
  private readonly list = inject(Store).selectSignal(planned.selectList);
  protected readonly plan = computed(() => {
    const { id } = this.proof();
    return this.list().find((one) => proofOfPlan(one) === id);
  });

  protected put(planning: Planning): void {
    const { id, kind } = this.proof();
    const plan = this.plan();
    const done = () => {
      this.asks.set(false);
      if (plan) return;
      if (planning.at === null) this.landNow.emit();
      else if (kind === 'hand') this.gone.emit(id);
    };
    if (plan) this.verbs.move(plan, planning, done);
    else this.verbs.plan(id, planning, done);
  }
}
