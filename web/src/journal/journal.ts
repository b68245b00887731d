import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { calls, type Landing, type ShownLine } from '@ivory/contract';
import { KINDS } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { map } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { OpenRows } from '../question/openRows.ts';
import { comesTo } from '../proof/comesTo.ts';
import { atWork, isOver, WorkActions } from '../state/atWork.ts';
import { hand } from '../state/hand.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ShopTime } from '../words/shopTime.ts';

const SHOWN = 300;

/** The record of all that landed; from it a landing is taken back. */
@Component({
  selector: 'ivory-journal',
  imports: [RouterLink, NzButtonModule, ShopTime],
  templateUrl: './journal.html',
  styles: `
    a {
      color: var(--active);
    }
    .lines {
      max-height: 300px;
      overflow: auto;
      background: #faf6ea;
    }
    td.verbs {
      text-align: right;
      white-space: nowrap;
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

  protected readonly landings = rxResource({
    params: () => this.version(),
    stream: () => this.api.call(calls.listLandings, { query: { count: 200 } }),
  });
  private readonly proofs = rxResource({
    params: () => this.version(),
    stream: () => this.api.call(calls.listProofs).pipe(map(({ proofs }) => proofs)),
    defaultValue: [],
  });
  protected readonly waiting = computed(() => this.proofs.value().filter(({ kind }) => kind !== 'hand'));
  protected readonly opened = signal<string | undefined>(undefined);
  protected readonly lines = rxResource({
    params: () => this.opened(),
    stream: ({ params }) => this.api.call(calls.getLandingLines, { params: { id: params }, query: { count: SHOWN } }),
  });

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

  protected what({ field, kind, called }: ShownLine): string {
    return field === 'exists' ? `${KINDS[kind].one}, ${called}` : called;
  }

  /** Proposes the inverse; of a large landing as work, whose proof opens when it is done and one is still here. */
  protected takeBack({ id }: Landing): void {
    if (this.proposing() !== undefined) return;
    this.proposing.set(id);
    this.api.call(calls.takeBack, { params: { id }, body: {} }).subscribe({
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
