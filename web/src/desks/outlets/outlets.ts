import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { type AnswerOf, calls, type Delivery, type Outlet } from '@ivory/contract';
import { FEED_WORD_KEYS } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzInputModule } from 'ng-zorro-antd/input';
import { Api, detailsOf } from '../../api/api.ts';
import { OpenRows } from '../../question/openRows.ts';
import { atWork, isOver, WorkActions } from '../../state/atWork.ts';
import { hand } from '../../state/hand.ts';
import { moment } from '../../api/moment.ts';
import { ProblemActions } from '../../state/problemActions.ts';
import { OutletPrices } from './outletPrices.ts';
import { session } from '../../state/session.ts';
import { workingSet } from '../../state/workingSet.ts';
import { words } from '../../words/en.ts';
import { size, whole } from '../../words/numbers.ts';
import { ShopTime } from '../../state/shopTime.ts';

type Setting = Exclude<keyof Outlet['settings'], 'names' | 'values'>;

/** Where goods are offered: what is ready and what is not and why, the feed, and what the outlet replied. */
@Component({
  selector: 'ivory-outlets',
  imports: [FormsModule, NzButtonModule, NzInputModule, OutletPrices, ShopTime],
  templateUrl: './outlets.html',
  styleUrl: './outlets.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Outlets {
  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly size = size;
  protected readonly settings: readonly Setting[] = ['title', 'link', 'prefix', 'namespace', 'fileName', 'address'];
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly opener = inject(OpenRows);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly works = this.store.selectSignal(atWork.selectEntities);

  /** How many deliveries have ended: each is a reason to read again. */
  private readonly ended = computed(
    () => Object.values(this.works()).filter((work) => work?.kind === 'deliver' && isOver(work)).length,
  );
  /** The moment that is looked at, where that is not now. */
  protected readonly at = this.store.selectSignal(moment.selectAt);
  protected readonly isPast = this.store.selectSignal(moment.selectIsPast);
  private readonly proposed = this.store.selectSignal(hand.selectVersion);
  protected readonly outlets = rxResource({
    params: () => ({ answer: this.answer(), ended: this.ended(), proposed: this.proposed() }),
    stream: () => this.api.call(calls.getOutlets),
  });
  /** The last answer stays in sight while the next is on its way. */
  protected readonly shown = signal<AnswerOf<typeof calls.getOutlets> | undefined>(undefined);
  protected readonly saved = signal(false);

  constructor() {
    effect(() => {
      const now = this.outlets.hasValue() ? this.outlets.value() : undefined;
      if (now) untracked(() => this.shown.set(now));
    });
  }

  /** Where its file is read as it would be written for the moment that is looked at. */
  protected fileOf({ id }: Outlet): string {
    const at = this.at();
    return `/api/outlets/${id}/file${at === null ? '' : `?moment=${at}`}`;
  }

  protected fieldName(key: string): string {
    return this.asking().register.find(key)?.name ?? key;
  }

  /** What the outlet calls fields and values in its file, beside what schema.org calls them. */
  protected tables({ fields, settings }: Outlet) {
    const { required, advised, longest: upTo, leftOut, wordHints } = words.outlets;
    return [
      {
        title: words.outlets.fields,
        hint: words.outlets.fieldsHint,
        none: leftOut,
        rows: fields.map(({ key, need, longest }) => ({
          id: `name-${key}`,
          key,
          value: settings.names[key],
          says: (need === 'required' ? required : advised) + (longest === null ? '' : upTo(whole(longest))),
        })),
      },
      {
        title: words.outlets.words,
        hint: words.outlets.wordsHint,
        none: '',
        rows: FEED_WORD_KEYS.map((key) => ({
          id: `word-${key}`,
          key,
          value: settings.values[key],
          says: wordHints[key] ?? '',
        })),
      },
    ];
  }

  protected open(question: string): void {
    this.opener.byQuestion(question);
  }

  protected openItems(outlet: Outlet, { id }: Delivery): void {
    this.opener.byList(words.outlets.itemsOf(outlet.name, id), { kind: 'delivery', id });
  }

  /** A delivery is asked for or under way: another begins when it is over. */
  protected readonly isDelivering = computed(
    () => this.asked() || Object.values(this.works()).some((work) => work?.kind === 'deliver' && !isOver(work)),
  );
  private readonly asked = signal(false);

  protected deliver(outlet: Outlet, handOver: boolean): void {
    if (this.isDelivering()) return;
    this.asked.set(true);
    this.api.call(calls.deliver, { params: { id: outlet.id }, body: { handOver } }).subscribe({
      next: ({ work }) => {
        this.store.dispatch(WorkActions.begun({ work }));
        this.asked.set(false);
      },
      error: (error: unknown) => {
        this.asked.set(false);
        this.refuse(error);
      },
    });
  }

  protected save(outlet: Outlet, form: HTMLFormElement): void {
    const data = new FormData(form);
    const read = (name: string) => String(data.get(name) ?? '').trim();
    const all = <Key extends string>(keys: readonly Key[], prefix = '') =>
      Object.fromEntries(keys.map((key) => [key, read(prefix + key)])) as Record<Key, string>;
    const shown = outlet.fields.map(({ key }) => key);
    const names = { ...outlet.settings.names, ...all(shown, 'name-') };
    const values = all(FEED_WORD_KEYS, 'word-');
    const body: Outlet['settings'] = { ...all(this.settings), names, values };
    this.api.call(calls.setOutlet, { params: { id: outlet.id }, body }).subscribe({
      next: () => {
        this.saved.set(true);
        this.outlets.reload();
      },
      error: (error: unknown) => this.refuse(error),
    });
  }

  private refuse(error: unknown): void {
    this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
  }
}
