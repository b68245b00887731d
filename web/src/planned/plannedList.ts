import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { type Planned, type Planning } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { planned, proofOfPlan } from '../state/planned.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { PlanForm } from './planForm.ts';
import { PlannedWhen } from './plannedWhen.ts';
import { PlanVerbs } from './planVerbs.ts';

/** All that is planned, in the order in which something happens: opened, moved, called off. Nothing, where nothing is. */
@Component({
  selector: 'ivory-planned-list',
  imports: [RouterLink, NzButtonModule, PlanForm, PlannedWhen],
  providers: [PlanVerbs],
  template: `
    @if (list().length > 0) {
      <section [attr.aria-label]="words.title">
        <div class="page-head">
          <h2>{{ words.title }}</h2>
        </div>
        <table class="plain">
          <thead>
            <tr>
              <th scope="col">{{ words.columns.what }}</th>
              <th scope="col">{{ words.columns.when }}</th>
              <th scope="col">{{ words.columns.changed }}</th>
              <th scope="col">{{ words.columns.person }}</th>
              <th scope="col" class="number">{{ words.columns.lines }}</th>
              <th scope="col"></th>
            </tr>
          </thead>
          <tbody>
            @for (one of list(); track one.id) {
              <tr>
                <td>
                  @if (proofOf(one); as proof) {
                    <a [routerLink]="['/proof', proof]">{{ one.title }}</a>
                  } @else {
                    {{ one.title }}
                  }
                </td>
                <td><ivory-planned-when [planned]="one" /></td>
                <td>{{ words.whenChanged[one.whenChanged] }}</td>
                <td>{{ one.person }}</td>
                <td class="number">{{ whole(one.lines) }}</td>
                <td class="verbs">
                  <button nz-button nzSize="small" type="button" (click)="moving.set(one.id)">
                    {{ words.moveShort }}
                  </button>
                  <button
                    nz-button
                    nzSize="small"
                    type="button"
                    [title]="words.callOffHint"
                    (click)="verbs.callOff(one)"
                  >
                    {{ words.callOff }}
                  </button>
                </td>
              </tr>
              @if (moving() === one.id) {
                <tr>
                  <td colspan="6">
                    <ivory-plan-form
                      [plannedBefore]="one"
                      [problem]="verbs.problem()"
                      (planned)="move(one, $event)"
                      (left)="moving.set(undefined)"
                    />
                  </td>
                </tr>
              }
            }
          </tbody>
        </table>
        @if (verbs.problem() && moving() === undefined) {
          <p class="marked-stop" role="alert">{{ verbs.problem() }}</p>
        }
      </section>
    }
  `,
  styles: `
    section {
      margin-bottom: 20px;
    }
    td.verbs {
      white-space: nowrap;
    }
    td.verbs button {
      margin-left: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlannedList {
  protected readonly words = words.planned;
  protected readonly whole = whole;
  protected readonly verbs = inject(PlanVerbs);
  protected readonly list = inject(Store).selectSignal(planned.selectList);
  protected readonly moving = signal<string | undefined>(undefined);

  protected readonly proofOf = proofOfPlan;

  protected move(plan: Planned, planning: Planning): void {
    this.verbs.move(plan, planning, () => this.moving.set(undefined));
  }
}
