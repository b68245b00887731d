import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { GUARD_DOES, type GuardDoes, type GuardDraft, type Said } from '@ivory/core';
import { GUARDS, readGuard } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { SentenceForm } from './sentenceForm.ts';

/** One guard of a rule: what it lets pass, and what becomes of rows that it does not. */
@Component({
  selector: 'ivory-guard-form',
  imports: [FormsModule, NzSelectModule, SelectLabel, SentenceForm],
  template: `
    <div class="body" [class.idle]="isIdle()" [title]="isIdle() ? words.idle : ''">
      <div class="line">
        <ivory-sentence-form
          [of]="kind()"
          [said]="guard()"
          [problems]="problems()"
          [name]="words.guard(place())"
          (changed)="say($event)"
        />
      </div>
      <span class="else">
        {{ words.else }}
        <nz-select
          nzSize="small"
          [nzDropdownMatchSelectWidth]="false"
          [attr.aria-label]="words.doesOf(place())"
          [ngModel]="guard().does"
          (ngModelChange)="become($event)"
        >
          @for (does of choices(); track does) {
            <nz-option [nzValue]="does" [nzLabel]="words.does[does]" />
          }
        </nz-select>
        <button type="button" class="opens" [attr.aria-label]="words.removeGuard(place())" (click)="removed.emit()">
          ×
        </button>
      </span>
    </div>
  `,
  styles: `
    .body {
      padding: 6px 0;
      border-top: 1px solid var(--rule);
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 6px;
      align-items: center;
    }
    .idle {
      color: var(--soft-ink);
    }
    .else {
      display: flex;
      gap: 6px;
      align-items: center;
      margin-top: 4px;
    }
    nz-select {
      min-width: 150px;
    }
    button {
      margin-left: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GuardForm {
  readonly guard = input.required<GuardDraft>();
  readonly place = input.required<number>();
  /** The rule does not change the field that it is on. */
  readonly isIdle = input(false);
  readonly changed = output<GuardDraft>();
  readonly removed = output();

  protected readonly words = words.rule;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly kind = computed(() => GUARDS[this.guard().guard]);
  protected readonly problems = computed(() => readGuard(this.guard(), this.asking()).problems);
  protected readonly choices = computed(() => GUARD_DOES.filter((does) => does !== 'trim' || this.kind().trims));

  protected say(said: Said): void {
    this.changed.emit({ ...this.guard(), ...said });
  }

  protected become(does: GuardDoes): void {
    this.changed.emit({ ...this.guard(), does });
  }
}
