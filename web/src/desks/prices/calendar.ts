import {
  afterNextRender,
  afterRenderEffect,
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
import {
  type AnswerOf,
  type BodyOf,
  calls,
  type CalendarFormula,
  type CalendarSale,
  type Planned,
  type SaleTimes,
} from '@ivory/contract';
import {
  BY_RULE,
  DAY_MS,
  isoDate,
  localDay,
  momentOf,
  nextYear,
  showValue,
  startOfLocalDay,
  zonedMoment,
  zonedTime,
} from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { tap } from 'rxjs';
import { Api, detailsOf, problemHere } from '../../api/api.ts';
import { OpenRows } from '../../question/openRows.ts';
import { hand } from '../../state/hand.ts';
import { HandActions } from '../../state/handActions.ts';
import { InTurn } from '../../state/inTurn.ts';
import { moment, MomentActions } from '../../api/moment.ts';
import { planned, proofOfPlan } from '../../state/planned.ts';
import { Proposing } from '../../state/proposing.ts';
import { selectAskingInHand } from '../../state/askingInHand.ts';
import { session } from '../../state/session.ts';
import { workingSet } from '../../state/workingSet.ts';
import { shownDays, shownTimes } from '../../words/days.ts';
import { words } from '../../words/en.ts';
import { CalendarDrag, type Movable } from './calendarDrag.ts';
import { CalendarScale, type Days, type Edge, edgesOf, partsOfDays, type Span, SPANS } from './calendarScale.ts';

/** What the days of a sale take, in pixels; where its bar is shorter they stand beside it. */
const SAID_WIDTH = 165;
/** The share of the visible span that lies before today. */
const BEFORE_TODAY = 0.2;
/** What is drawn of a landing that stays, in days. */
const SHORTEST = 0.02;
/** The first and the last day of which some part is within: the last is the first of what only begins. */
function wholeDays({ from, until }: Days, ends: boolean): [number | null, number | null] {
  const first = from === null ? null : Math.floor(from);
  return [first, !ends ? first : until === null ? null : Math.ceil(until)];
}
const BOTH_EDGES: readonly Edge[] = ['from', 'until'];

/** Time along the top, sales as bars: which run together, where nothing runs. Edges are dragged or moved by key, as a proof. */
@Component({
  selector: 'ivory-calendar',
  imports: [NgTemplateOutlet, NzButtonModule, RouterLink],
  templateUrl: './calendar.html',
  styleUrls: ['../../workbench/workbench.less', './calendar.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Calendar {
  protected readonly words = words;
  protected readonly spans = Object.keys(SPANS) as readonly Span[];
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  private readonly inTurn = inject(InTurn);
  private readonly asking = this.store.selectSignal(selectAskingInHand);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly at = this.store.selectSignal(moment.selectAt);
  private readonly planned = this.store.selectSignal(planned.selectList);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly track = viewChild.required<ElementRef<HTMLElement>>('track');
  private readonly panel = viewChild<ElementRef<HTMLElement>>('panel');

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
  protected readonly drag = new CalendarDrag();
  private readonly chosenId = signal<string | undefined>(undefined);

  /** Sales of which something is seen, with where they are drawn. */
  protected readonly rows = computed(() => {
    const scale = this.scale();
    return (this.sales() ?? []).flatMap((sale) => {
      const movable = this.movableSale(sale);
      const times = { ...(sale.proposed ?? sale), ...this.drag.daysOf(movable) };
      const extent = scale.extentOf(partsOfDays(times));
      if (!extent) return [];
      const isShort = extent.width < SAID_WIDTH;
      const [said, off] = [this.said(times), this.takesOff(sale)];
      const beside = isShort ? scale.beside(extent, SAID_WIDTH) : undefined;
      return [{ sale, movable, extent, edges: edgesOf(extent), beside, said, off }];
    });
  });
  /** Landings that are planned, each until it is taken back; one without that is drawn where it lands. */
  protected readonly plannedRows = computed(() => {
    const scale = this.scale();
    const dayOf = (iso: string) => Date.parse(`${zonedTime(momentOf(Date.parse(iso)), this.zone())}Z`) / DAY_MS;
    return this.planned().flatMap((one) => {
      const from = one.at === null ? null : dayOf(one.at);
      // An extent is of whole days, the last of which is within.
      const movable = this.movablePlan(one, { from, until: one.back === null ? null : dayOf(one.back) - 1 });
      const days = this.drag.daysOf(movable);
      const ends = days.until ?? (days.from === null ? null : days.from - 1);
      const extent = scale.extentOf({
        from: days.from,
        until: ends === null ? null : Math.max(ends, (days.from ?? -Infinity) + SHORTEST - 1),
      });
      if (!extent) return [];
      const edges = edgesOf(extent).filter(({ edge }) => movable.edges.includes(edge));
      const said = one.state === 'waits' ? words.planned.waits : shownDays(...wholeDays(days, one.back !== null));
      const beside = scale.beside(extent, SAID_WIDTH);
      return [{ one, movable, extent, edges, address: this.addressOf(one), beside, said }];
    });
  });
  /** Formulas of outlets, each on the days on which it holds. */
  protected readonly formulaRows = computed(() => {
    const scale = this.scale();
    return (this.shown()?.formulas ?? []).flatMap((one) => {
      const movable = this.movableFormula(one);
      const days = this.drag.daysOf(movable);
      const extent = scale.extentOf(days);
      if (!extent) return [];
      const said = shownDays(days.from, days.until) || words.calendar.always;
      return [{ one, movable, extent, edges: edgesOf(extent), on: words.calendar.on(one.outlets), said }];
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
    // What is chosen is told below all sales: it comes into sight.
    afterRenderEffect(() => {
      if (this.chosenId() !== undefined) this.panel()?.nativeElement.scrollIntoView({ block: 'nearest' });
    });
    // A moved plan keeps its new place until plans are read again.
    effect(() => {
      this.planned();
      untracked(() => this.drag.letGo());
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

  protected said(times: SaleTimes): string {
    return shownTimes(times) || words.calendar.always;
  }

  private movableSale(sale: CalendarSale): Movable {
    const days = sale.proposed ?? sale;
    return {
      key: `sale ${sale.id}`,
      days,
      edges: BOTH_EDGES,
      propose: (to) => this.propose('sale', sale, days, to),
    };
  }

  private movableFormula(formula: CalendarFormula): Movable {
    const days = formula.proposed ?? formula;
    const key = `formula ${formula.id}`;
    return { key, days, edges: BOTH_EDGES, propose: (to) => this.propose('priceFormula', formula, days, to) };
  }

  /** What has landed already is only taken back at another moment. */
  private movablePlan(plan: Planned, days: Days): Movable {
    const edges: Edge[] = [
      ...(plan.at !== null && plan.landing === null ? ['from' as const] : []),
      ...(plan.back === null ? [] : ['until' as const]),
    ];
    const propose = (to: Days | undefined): void => {
      if (!to) return this.proposing.refuse(problemHere(words.calendar.backwards));
      const at = this.movedMoment(plan.at, to.from, days.from);
      const back = this.movedMoment(plan.back, to.until, days.until);
      const { whenChanged } = plan;
      const call = this.api.call(calls.movePlanned, { params: { id: plan.id }, body: { at, back, whenChanged } });
      this.inTurn.run(call).subscribe({
        next: () => this.store.dispatch(HandActions.readAgain()),
        error: (error: unknown) => {
          this.drag.letGo();
          this.proposing.refuse(detailsOf(error));
        },
      });
    };
    return { key: `planned ${plan.id}`, days, edges, propose };
  }

  /** A moment so many days later, at the same time of the shop's clock. */
  private movedMoment(iso: string | null, to: number | null, from: number | null): number | null {
    if (iso === null) return null;
    const stands = momentOf(Date.parse(iso));
    const by = Math.round((to ?? 0) - (from ?? 0));
    if (by === 0) return stands;
    const [day, time] = zonedTime(stands, this.zone()).split('T') as [string, string];
    return zonedMoment(`${isoDate(String(Date.parse(day) / DAY_MS + by))}T${time}`, this.zone()) ?? stands;
  }

  /** Puts other days of a sale or formula into the proof; only the edge that moved is touched. */
  private propose(
    kind: 'sale' | 'priceFormula',
    { id, name }: Pick<CalendarSale, 'id' | 'name'>,
    stood: Days,
    days: Days | undefined,
  ): void {
    if (!days) return this.proposing.refuse(problemHere(words.calendar.backwards));
    const edits = (['from', 'until'] as const)
      .filter((edge) => days[edge] !== stood[edge])
      .map((field) => {
        const day = days[field];
        return { kind, id, field, text: day === null ? '' : isoDate(String(day)) };
      });
    this.edit(words.calendar.moved(name), edits);
  }

  private edit(title: string, edits: BodyOf<typeof calls.editCells>['edits']): void {
    if (edits.length === 0) return this.drag.letGo();
    const over = () => this.drag.letGo();
    this.proposing.run(this.api.call(calls.editCells, { body: { title, edits } }), over, over);
  }

  /** A sale that ends with today runs to its midnight, at whatever time it was to end. */
  protected endToday(sale: CalendarSale): void {
    const { id, untilTime } = { ...sale, ...sale.proposed };
    const edits = [{ kind: 'sale' as const, id, field: 'until' as const, text: isoDate(String(this.today())) }];
    const noTime = { kind: 'sale' as const, id, field: 'untilTime' as const, text: '' };
    this.edit(words.calendar.moved(sale.name), untilTime === null ? edits : [...edits, noTime]);
  }

  /** Proposes the sale once more, a year later, and goes there. */
  protected copy({ id, from, until }: CalendarSale): void {
    const copied = this.api.call(calls.copySale, { body: { sale: id } }).pipe(
      tap((answer) => {
        this.chosenId.set(answer.id);
        this.first.set(Math.round(nextYear((from ?? until)!) - SPANS[this.span()] * BEFORE_TODAY));
      }),
    );
    this.proposing.run(copied);
  }

  protected open({ question }: CalendarSale): void {
    this.opener.byQuestion(question, '/prices');
  }

  protected lookAtFirst({ starts }: CalendarSale): void {
    if (starts === null) return;
    const at = momentOf(Date.parse(starts));
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

  protected startsLater = ({ starts }: CalendarSale): boolean => starts !== null && Date.parse(starts) > Date.now();
  protected runs = ({ starts, ends, isNew }: CalendarSale): boolean =>
    !isNew &&
    (starts === null || Date.parse(starts) <= Date.now()) &&
    (ends === null || Date.parse(ends) > this.endOfToday());
  private readonly endOfToday = computed(() => startOfLocalDay(this.today() + 1, this.zone()));
}
