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
import { isoDate, type Moment, momentOf, zonedMoment, zonedTime } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { Api } from '../api/api.ts';
import { moment, MomentActions } from '../state/moment.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../words/shopTime.ts';

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
        <input #day type="date" required [min]="today()" [value]="shown().slice(0, 10)" />
      </label>
      <label>{{ words.moment.time }} <input #time type="time" [value]="shown().slice(11)" /></label>
      <button nz-button nzType="primary" type="submit">{{ words.moment.look }}</button>
    </form>
    @if (problem(); as problem) {
      <p class="problem" role="alert">{{ problem }}</p>
    }
    <h3>{{ words.moment.next }}</h3>
    @for (edge of edges(); track edge.at + edge.text) {
      <p>
        <button type="button" class="opens" (click)="lookAt(edge.at)">{{ edge.text }}</button>
        <span class="soft">{{ edge.iso | shopTime }}</span>
      </p>
    } @empty {
      <p class="soft">{{ words.moment.none }}</p>
    }
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
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly zone = computed(() => this.shop()?.timeZone ?? 'UTC');
  private readonly opened = momentOf(Date.now());
  protected readonly at = this.store.selectSignal(moment.selectAt);
  protected readonly problem = signal('');
  /** What stands in the fields: the moment that is looked at, or the next midnight. */
  protected readonly shown = computed(() => {
    const at = this.at();
    if (at !== null) return zonedTime(at, this.zone());
    const tomorrow = zonedTime(momentOf(this.opened + 24 * 60 * 60 * 1_000), this.zone());
    return `${tomorrow.slice(0, 10)}T00:00`;
  });
  protected readonly today = computed(() => zonedTime(this.opened, this.zone()).slice(0, 10));
  private readonly calendar = rxResource({ stream: () => this.api.call(calls.getCalendar) });
  protected readonly edges = computed(() => {
    const sales = this.calendar.hasValue() ? this.calendar.value().sales : [];
    const say = words.moment;
    return sales
      .flatMap(({ name, from, until }) => [
        { text: say.begins(name), at: this.midnight(from) },
        { text: say.isOver(name), at: this.midnight(until === null ? null : until + 1) },
      ])
      .flatMap(({ text, at }) =>
        at !== undefined && at > this.opened ? [{ text, at, iso: new Date(at).toISOString() }] : [],
      )
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
    if (at <= Date.now()) return this.problem.set(words.moment.past);
    this.lookAt(at);
  }

  protected lookAt(at: Moment | null): void {
    this.store.dispatch(MomentActions.lookAt({ at }));
    this.done.emit();
  }

  private midnight(day: number | null): Moment | undefined {
    return day === null ? undefined : zonedMoment(isoDate(String(day)), this.zone());
  }
}
