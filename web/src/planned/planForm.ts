import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type Planned, type Planning } from '@ivory/contract';
import { momentOf, zonedMoment, zonedTime } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { TakesFocus } from '../theme/takesFocus.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** A form: when a proof lands, when it is taken back, and what to do where values changed in the meantime. */
@Component({
  selector: 'ivory-plan-form',
  imports: [NzButtonModule, TakesFocus],
  template: `
    <form
      [attr.aria-label]="words.form"
      (submit)="plan($event, day.value, time.value, backDay.value, backTime.value, changed.value)"
      (keydown.escape)="left.emit()"
    >
      <label [class.gone]="hasLanded()">
        {{ words.lands }}
        <input #day ivoryTakesFocus type="date" [value]="shown().at.day" [disabled]="hasLanded()" />
      </label>
      <label [class.gone]="hasLanded()"
        >{{ words.time }} <input #time type="time" [value]="shown().at.time" [disabled]="hasLanded()"
      /></label>
      <label>{{ words.back }} <input #backDay type="date" [value]="shown().back.day" /></label>
      <label>{{ words.time }} <input #backTime type="time" [value]="shown().back.time" /></label>
      <label>
        {{ words.changed }}
        <select #changed [value]="plannedBefore()?.whenChanged ?? 'wait'">
          <option value="wait">{{ words.whenChanged.wait }}</option>
          <option value="rest">{{ words.whenChanged.rest }}</option>
        </select>
      </label>
      <button nz-button nzType="primary" type="submit">
        {{ plannedBefore() ? words.move : day.value === '' && backDay.value !== '' ? words.landNow : words.keep }}
      </button>
      <button nz-button nzType="text" type="button" (click)="left.emit()">{{ words.leave }}</button>
    </form>
    <p class="soft">{{ words.hint }}</p>
    @if (problem() || unreadable(); as text) {
      <p class="marked-stop" role="alert">{{ text }}</p>
    }
  `,
  // The name of the button follows what is typed.
  host: { '(input)': 'unreadable.set("")' },
  styles: `
    :host {
      display: block;
      padding: 8px 16px;
      border-bottom: 1px solid var(--rule);
    }
    form {
      display: flex;
      gap: 10px;
      align-items: end;
      flex-wrap: wrap;
    }
    label {
      display: grid;
      color: var(--soft-ink);
    }
    input,
    select {
      padding: 2px 6px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
      height: 28px;
    }
    p {
      margin: 6px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanForm {
  /** What is moved; undefined where something is planned for the first time. */
  readonly plannedBefore = input<Planned>();
  /** Why the server refused what was asked last. */
  readonly problem = input('');
  readonly planned = output<Planning>();
  readonly left = output();

  protected readonly words = words.planned;
  protected readonly unreadable = signal('');
  private readonly zone = inject(Store).selectSignal(session.selectTimeZone);
  protected readonly hasLanded = computed(() => this.plannedBefore()?.landing != null);
  protected readonly shown = computed(() => {
    const parts = (iso: string | null | undefined) => {
      const [day = '', time = ''] = iso ? zonedTime(momentOf(Date.parse(iso)), this.zone()).split('T') : [];
      return { day, time };
    };
    const { at, back } = this.plannedBefore() ?? {};
    return { at: parts(at), back: parts(back) };
  });

  protected plan(event: Event, day: string, time: string, backDay: string, backTime: string, changed: string): void {
    event.preventDefault();
    const [at, back] = [this.moment(day, time), this.moment(backDay, backTime)];
    if (at === undefined || back === undefined) return this.unreadable.set(this.words.unreadable);
    if (at === null && back === null) return this.unreadable.set(this.words.sayWhen);
    this.planned.emit({ at, back, whenChanged: changed === 'rest' ? 'rest' : 'wait' });
  }

  /** A day of the shop's clock begins at its midnight; without a day there is no moment. */
  private moment(day: string, time: string): number | null | undefined {
    if (day === '') return null;
    return zonedMoment(time === '' ? day : `${day}T${time}`, this.zone());
  }
}
