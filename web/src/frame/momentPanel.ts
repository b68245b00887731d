import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { DAY_MS, type Moment, momentOf, namesBehind, zonedMoment, zonedTime } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { Api } from '../api/api.ts';
import { moment, MomentActions } from '../api/moment.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';

/** How many edges of sales are offered. */
const MOST_EDGES = 8;

/** Chooses the moment that everything is looked at: by day and time of the shop's clock, or one at which a sale begins or ends. */
@Component({
  selector: 'ivory-moment-panel',
  host: { '(keydown.escape)': 'done.emit()', role: 'dialog', '[attr.aria-label]': 'words.moment.title' },
  imports: [NzButtonModule, ShopTime],
  template: `
    <form (submit)="look($event, day.value, time.value)">
      <label>
        {{ words.moment.day }}
        <input #day type="date" required [value]="shown().slice(0, 10)" />
      </label>
      <label>{{ words.moment.time }} <input #time type="time" [value]="shown().slice(11)" /></label>
      <button nz-button nzType="primary" type="submit">{{ words.moment.look }}</button>
    </form>
    @if (problem(); as problem) {
      <p class="problem" role="alert">{{ problem }}</p>
    }
    <p>
      @for (days of before; track days) {
        <button type="button" class="opens" (click)="lookAt(daysBefore(days))">{{ words.moment.before(days) }}</button>
      }
    </p>
    <h3>{{ words.moment.next }}</h3>
    @for (edge of edges(); track edge.at + edge.text) {
      <p>
        <button type="button" class="opens" (click)="lookAt(edge.at)">{{ edge.text }}</button>
        <span class="soft">{{ iso(edge.at) | shopTime }}</span>
      </p>
    } @empty {
      <p class="soft">{{ words.moment.none }}</p>
    }
    <p>
      <label>
        {{ words.moment.seenAs }}
        <select [value]="group() ?? ''" (change)="lookAs(seenAs.value)" #seenAs>
          <option value="">{{ words.moment.anybody }}</option>
          @for (one of groups(); track one.id) {
            <option [value]="one.id" [selected]="group() === one.id">{{ one.name }}</option>
          }
        </select>
      </label>
    </p>
    <p class="ends">
      @if (at() !== null) {
        <button nz-button type="button" (click)="lookAt(null)">{{ words.moment.back }}</button>
      }
      <button nz-button nzType="text" type="button" (click)="done.emit()">{{ words.moment.close }}</button>
    </p>
  `,
  styleUrl: './momentPanel.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MomentPanel {
  readonly done = output();

  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly day = viewChild.required<ElementRef<HTMLInputElement>>('day');
  private readonly zone = this.store.selectSignal(session.selectTimeZone);
  private readonly opened = momentOf(Date.now());
  protected readonly before = [7, 30, 365];
  protected readonly at = this.store.selectSignal(moment.selectAt);
  protected readonly group = this.store.selectSignal(moment.selectGroup);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  protected readonly groups = computed(() =>
    [...namesBehind({ kind: 'customerGroup' }, this.asking().names).byId].map(([id, name]) => ({ id, name })),
  );
  protected readonly problem = signal('');
  /** What stands in the fields: the moment that is looked at, or the next midnight. */
  protected readonly shown = computed(() => {
    const at = this.at();
    if (at !== null) return zonedTime(at, this.zone());
    const tomorrow = zonedTime(momentOf(this.opened + DAY_MS), this.zone());
    return `${tomorrow.slice(0, 10)}T00:00`;
  });
  private readonly calendar = rxResource({ stream: () => this.api.call(calls.getCalendar) });
  protected readonly edges = computed(() => {
    const sales = this.calendar.hasValue() ? this.calendar.value().sales : [];
    const say = words.moment;
    return sales
      .flatMap(({ name, starts, ends }) => [
        ...(starts === null ? [] : [{ text: say.begins(name), iso: starts }]),
        ...(ends === null ? [] : [{ text: say.isOver(name), iso: ends }]),
      ])
      .map(({ text, iso }) => ({ text, at: momentOf(Date.parse(iso)) }))
      .filter(({ at }) => at > this.opened)
      .sort((a, b) => a.at - b.at)
      .slice(0, MOST_EDGES);
  });

  constructor() {
    afterNextRender(() => this.day().nativeElement.focus());
  }

  protected look(event: Event, day: string, time: string): void {
    event.preventDefault();
    const at = zonedMoment(time === '' ? day : `${day}T${time}`, this.zone());
    if (at === undefined) return this.problem.set(words.moment.unreadable);
    this.lookAt(at);
  }

  protected lookAs(group: string): void {
    this.store.dispatch(MomentActions.lookAs({ group: group === '' ? null : group }));
  }

  protected lookAt(at: Moment | null): void {
    this.store.dispatch(MomentActions.lookAt({ at }));
    this.done.emit();
  }

  protected daysBefore = (days: number): Moment => momentOf(this.opened - days * DAY_MS);

  protected iso = (at: Moment): string => new Date(at).toISOString();
}
