import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type AnswerOf, calls, type CalendarSale, type Planned } from '@ivory/contract';
import { BY_RULE, DAY_MS, isoDate, localDay, momentOf, showValue, startOfLocalDay, zonedTime } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { Api, problemHere } from '../../api/api.ts';
import { OpenRows } from '../../question/openRows.ts';
import { hand } from '../../state/hand.ts';
import { moment, MomentActions } from '../../state/moment.ts';
import { planned, proofOfPlan } from '../../state/planned.ts';
import { PlannedWhen } from '../../planned/plannedWhen.ts';
import { Proposing } from '../../state/proposing.ts';
import { session } from '../../state/session.ts';
import { workingSet } from '../../state/workingSet.ts';
import { shownDays } from '../../words/days.ts';
import { words } from '../../words/en.ts';
import { CalendarScale, type Days, movedDays, type Span, SPANS } from './calendarScale.ts';

type Edge = 'from' | 'until';

/** An edge of a sale that is being dragged, and the day over which it is. */
interface Drag {
  readonly sale: CalendarSale;
  readonly edge: Edge;
  readonly days: Days;
}

/** What the days of a sale take, in pixels; where its bar is shorter they stand beside it. */
const SAID_WIDTH = 165;
/** How far before today the calendar begins, as a part of what is seen. */
const BEFORE_TODAY = 0.2;
/** What is drawn of a landing that stays, in days. */
const SHORTEST = 0.02;

/** Time along the top, sales as bars: which run together, where nothing runs. Edges are dragged or moved by key, as a proof. */
@Component({
  selector: 'ivory-calendar',
  imports: [NgTemplateOutlet, NzButtonModule, PlannedWhen, RouterLink],
  templateUrl: './calendar.html',
  styleUrls: ['../../bench/bench.less', './calendar.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Calendar {
  protected readonly words = words;
  protected readonly spans = Object.keys(SPANS) as readonly Span[];
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly at = this.store.selectSignal(moment.selectAt);
  private readonly planned = this.store.selectSignal(planned.selectList);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly track = viewChild.required<ElementRef<HTMLElement>>('track');

  private readonly read = rxResource({
    params: () => ({ version: this.version(), shop: this.shop()?.version }),
    stream: () => this.api.call(calls.getCalendar),
  });
  /** The last answer stays in sight while the next is on its way. */
  private readonly shown = signal<AnswerOf<typeof calls.getCalendar> | undefined>(undefined);
  protected readonly sales = computed(() => this.shown()?.sales);
  protected readonly span = signal<Span>('quarter');
  private readonly zone = this.store.selectSignal(session.selectTimeZone);
  private readonly today = computed(() => localDay(momentOf(Date.now()), this.zone()));
  private readonly first = linkedSignal(() => Math.round(this.today() - SPANS[this.span()] * BEFORE_TODAY));
  private readonly width = signal(0);
  protected readonly scale = computed(() => {
    const first = this.first();
    return new CalendarScale({ first, behind: first + SPANS[this.span()] }, this.width());
  });
  private readonly drag = signal<Drag | undefined>(undefined);
  private readonly chosenId = signal<string | undefined>(undefined);

  /** Sales of which something is seen, with where they are drawn. */
  protected readonly rows = computed(() => {
    const scale = this.scale();
    const drag = this.drag();
    return (this.sales() ?? []).flatMap((sale) => {
      const days = drag?.sale.id === sale.id ? drag.days : (sale.proposed ?? sale);
      const extent = scale.extentOf(days);
      if (!extent) return [];
      const isShort = extent.width < SAID_WIDTH;
      // What goes on beyond what is seen has no edge there.
      const edges = [
        ...(extent.goesBefore ? [] : [{ edge: 'from' as const, at: extent.left }]),
        ...(extent.goesBehind ? [] : [{ edge: 'until' as const, at: extent.left + extent.width }]),
      ];
      return [{ sale, extent, edges, isShort, said: this.said(days), off: this.takesOff(sale) }];
    });
  });
  /** Landings that are planned, each until it is taken back; one without that is drawn where it lands. */
  protected readonly plannedRows = computed(() => {
    const scale = this.scale();
    const dayOf = (iso: string) => Date.parse(`${zonedTime(momentOf(Date.parse(iso)), this.zone())}Z`) / DAY_MS;
    return this.planned().flatMap((one) => {
      const from = one.at === null ? null : dayOf(one.at);
      const until = one.back === null ? from : dayOf(one.back);
      // An extent is of whole days, the last of which is within.
      const extent = scale.extentOf({
        from,
        until: until === null ? null : Math.max(until, (from ?? -Infinity) + SHORTEST) - 1,
      });
      return extent ? [{ one, extent, address: this.addressOf(one), edge: extent.left + extent.width + 8 }] : [];
    });
  });
  /** Formulas of outlets, each on the days on which it holds. */
  protected readonly formulaRows = computed(() => {
    const scale = this.scale();
    return (this.shown()?.formulas ?? []).flatMap((one) => {
      const extent = scale.extentOf(one);
      return extent ? [{ one, extent, on: words.calendar.on(one.outlets), said: this.said(one) }] : [];
    });
  });
  protected readonly outside = computed(() => (this.sales()?.length ?? 0) - this.rows().length);
  protected readonly chosen = computed(() => this.sales()?.find(({ id }) => id === this.chosenId()));
  protected readonly setSize = computed(() => this.answer()?.counts.skus ?? 0);
  /** Where the moment stands that is looked at. */
  protected readonly line = computed(() => {
    const shown = zonedTime(momentOf(this.at() ?? Date.now()), this.zone());
    const x = this.scale().at(Date.parse(`${shown}Z`) / DAY_MS);
    return x >= 0 && x <= this.width() ? x : undefined;
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const element = this.track().nativeElement;
      const sized = new ResizeObserver(() => this.width.set(element.clientWidth));
      sized.observe(element);
      destroy.onDestroy(() => sized.disconnect());
    });
    effect(() => {
      const read = this.read.hasValue() ? this.read.value() : undefined;
      if (read) untracked(() => this.shown.set(read));
    });
  }

  /** Where a plan is looked through; or else where it landed. */
  private addressOf(plan: Planned): string {
    const open = proofOfPlan(plan);
    return open === null ? '/journal' : `/proof/${open}`;
  }

  protected move(by: -1 | 1): void {
    this.first.update((first) => first + Math.round((by * SPANS[this.span()]) / 2));
  }

  protected toToday(): void {
    this.first.set(Math.round(this.today() - SPANS[this.span()] * BEFORE_TODAY));
  }

  protected choose({ id }: CalendarSale): void {
    this.chosenId.update((chosen) => (chosen === id ? undefined : id));
  }

  /** What a sale takes off, in words. */
  protected takesOff({ reduction }: CalendarSale): string {
    const field = this.asking().register.at('sale', 'reduction');
    if (reduction === null || !field) return words.calendar.ownPrices;
    return showValue(field, reduction, this.asking());
  }

  protected said({ from, until }: Days): string {
    return shownDays(from, until) || words.calendar.always;
  }

  protected key(event: KeyboardEvent, sale: CalendarSale): void {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined || event.ctrlKey || event.altKey || event.metaKey) return;
    event.preventDefault();
    this.propose(sale, movedDays(sale.proposed ?? sale, by, event.shiftKey ? 'until' : 'both'));
  }

  /** Takes an edge of a bar: it follows the pointer until that is let go. */
  protected take(event: PointerEvent, sale: CalendarSale, edge: Edge): void {
    event.preventDefault();
    event.stopPropagation();
    const handle = event.target as HTMLElement;
    handle.setPointerCapture(event.pointerId);
    const { left } = this.track().nativeElement.getBoundingClientRect();
    const days = sale.proposed ?? sale;
    const moved = ({ clientX }: PointerEvent): void => {
      const day = this.scale().dayAt(clientX - left);
      const to = edge === 'from' ? { ...days, from: day } : { ...days, until: day - 1 };
      if (to.from === null || to.until === null || to.from <= to.until) this.drag.set({ sale, edge, days: to });
    };
    const done = (): void => {
      handle.removeEventListener('pointermove', moved);
      const drag = this.drag();
      if (drag) this.propose(sale, drag.days);
    };
    handle.addEventListener('pointermove', moved);
    handle.addEventListener('pointerup', done, { once: true });
  }

  /** Puts other days of a sale into the proof; only the edge that moved is touched. */
  private propose(sale: CalendarSale, days: Days | undefined): void {
    if (!days) return this.proposing.refuse(problemHere(words.calendar.backwards));
    const stood = sale.proposed ?? sale;
    const edits = (['from', 'until'] as const)
      .filter((edge) => days[edge] !== stood[edge])
      .map((field) => {
        const day = days[field];
        return { kind: 'sale' as const, id: sale.id, field, text: day === null ? '' : isoDate(String(day)) };
      });
    if (edits.length === 0) return this.drag.set(undefined);
    const body = { title: words.calendar.moved(sale.name), edits };
    const over = () => this.drag.set(undefined);
    this.proposing.run(this.api.call(calls.editCells, { body }), over, over);
  }

  protected endToday(sale: CalendarSale): void {
    this.propose(sale, { from: (sale.proposed ?? sale).from, until: this.today() });
  }

  /** Proposes the sale once more, a year later. */
  protected copy({ id }: CalendarSale): void {
    this.proposing.run(this.api.call(calls.copySale, { body: { sale: id } }));
  }

  protected open({ question }: CalendarSale): void {
    this.opener.byQuestion(question, '/prices');
  }

  protected lookAtFirst({ from }: CalendarSale): void {
    if (from === null) return;
    const at = startOfLocalDay(from, this.zone());
    this.store.dispatch(MomentActions.lookAt({ at: at > Date.now() ? at : null }));
  }

  /** Puts all of the working set into a sale, at what that takes off, or takes it out. */
  protected putSet({ id, name }: CalendarSale, isIn: boolean): void {
    const field = `salePrice@${id}` as const;
    const slots: Record<string, string> = isIn ? { value: BY_RULE } : {};
    const step = { do: isIn ? ('set' as const) : ('clear' as const), field, slots };
    const title = isIn ? words.calendar.putTitle(name) : words.calendar.takeTitle(name);
    const body = { question: this.answer()?.question ?? '', title, rule: { steps: [step], guards: [] } };
    this.proposing.run(this.api.call(calls.putRule, { body }));
  }

  protected startsLater = ({ from }: CalendarSale): boolean => from !== null && from > this.today();
  protected runs = ({ from, until }: CalendarSale): boolean =>
    (from === null || from <= this.today()) && (until === null || until > this.today());
}
