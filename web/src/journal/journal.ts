import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import { type AnswerOf, calls, type Landing, type LandingFilter, type TakeBackOnly } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { map } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { OpenRows } from '../question/openRows.ts';
import { comesTo } from '../proof/comesTo.ts';
import { JournalFilter } from './journalFilter.ts';
import { LandingDetail } from './landingDetail.ts';
import { atWork, isOver, WorkActions } from '../state/atWork.ts';
import { PlannedList } from '../planned/plannedList.ts';
import { planned } from '../state/planned.ts';
import { hand } from '../state/hand.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ShopTime } from '../state/shopTime.ts';

/** The record of all that landed; from it a landing is taken back. */
@Component({
  selector: 'ivory-journal',
  imports: [RouterLink, NzButtonModule, JournalFilter, LandingDetail, ShopTime, PlannedList],
  templateUrl: './journal.html',
  styles: `
    a {
      color: var(--active);
    }
    td.verbs {
      text-align: right;
      white-space: nowrap;
    }
    section {
      margin-top: 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Journal {
  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly comesTo = comesTo;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly opener = inject(OpenRows);
  private readonly version = this.store.selectSignal(hand.selectVersion);

  protected readonly filter = signal<LandingFilter>({});
  protected readonly landings = rxResource({
    params: () => ({ version: this.version(), filter: this.filter() }),
    stream: ({ params: { filter } }) => this.api.call(calls.listLandings, { query: { count: 200, ...filter } }),
  });
  /** The landings that were read last stay in sight while others are looked for. */
  protected readonly shown = linkedSignal<
    AnswerOf<typeof calls.listLandings> | undefined,
    AnswerOf<typeof calls.listLandings> | undefined
  >({
    source: () => (this.landings.hasValue() ? this.landings.value() : undefined),
    computation: (read, previous) => read ?? previous?.value,
  });
  protected readonly isFiltered = computed(() => Object.keys(this.filter()).length > 0);
  private readonly isPlanned = this.store.selectSignal(planned.selectIsPlanned);
  private readonly proofs = rxResource({
    params: () => this.version(),
    stream: () => this.api.call(calls.listProofs).pipe(map(({ proofs }) => proofs)),
    defaultValue: [],
  });
  protected readonly waiting = computed(() =>
    this.proofs.value().filter(({ kind, id }) => !['hand', 'aside', 'planned'].includes(kind) && !this.isPlanned()(id)),
  );
  /** Proofs that somebody set aside under a name. */
  protected readonly aside = computed(() => this.proofs.value().filter(({ kind }) => kind === 'aside'));
  protected readonly opened = signal<string | undefined>(
    inject(ActivatedRoute).snapshot.queryParamMap.get('landing') ?? undefined,
  );

  /** The landing whose inverse is being proposed: until that is there, no other is. */
  protected readonly proposing = signal<string | undefined>(undefined);
  protected readonly isClearing = signal(false);
  private readonly workId = signal<string | undefined>(undefined);
  private readonly works = this.store.selectSignal(atWork.selectEntities);

  constructor() {
    effect(() => {
      const work = this.works()[this.workId() ?? ''];
      if (!work || !isOver(work)) return;
      untracked(() => {
        this.workId.set(undefined);
        this.proposing.set(undefined);
        if (work.result !== null) void this.router.navigate(['/proof', work.result]);
      });
    });
  }

  protected toggle(id: string): void {
    this.opened.update((opened) => (opened === id ? undefined : id));
  }

  protected openSkus({ id, title }: Landing): void {
    this.opener.byList(words.journalPage.skusOf(title), { kind: 'landing', id });
  }

  /** Proposes the inverse; of a large landing as work, whose proof opens when it is done and one is still here. */
  protected takeBack({ id }: Landing, only?: TakeBackOnly): void {
    if (this.proposing() !== undefined) return;
    this.proposing.set(id);
    this.api.call(calls.takeBack, { params: { id }, body: only ? { only } : {} }).subscribe({
      next: ({ proof, work }) => {
        if (proof) void this.router.navigate(['/proof', proof.id]);
        if (!work) return;
        this.workId.set(work.id);
        this.store.dispatch(WorkActions.begun({ work }));
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  /** Discards all that wait to land. */
  protected clear(): void {
    const ids = this.waiting()
      .filter(({ state }) => state === 'open')
      .map(({ id }) => id);
    this.isClearing.set(false);
    this.api.call(calls.discardProofs, { body: { ids } }).subscribe({
      next: () => this.proofs.reload(),
      error: (error: unknown) => this.refuse(error),
    });
  }

  private refuse(error: unknown): void {
    this.proposing.set(undefined);
    this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
  }
}
