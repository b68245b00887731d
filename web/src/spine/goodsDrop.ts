import { computed, inject, Injectable, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls, type SetStep } from '@ivory/contract';
import { EVERYTHING, parseQuestion } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { Dragged } from '../sheet/rows/dragged.ts';
import { Proposing } from '../state/proposing.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { categoriesIn } from './categoriesIn.ts';

/** What rows of the sheet are dropped on; `move` where they leave the category that is asked for. */
export interface GoodsTarget {
  readonly kind: 'category' | 'assortment';
  readonly id: string;
  readonly move?: boolean;
}

/** Goods that are dragged out of the sheet onto a category or an assortment: what a drop would do is counted, then proposed. */
@Injectable({ providedIn: 'root' })
export class GoodsDrop {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly proposing = inject(Proposing);
  private readonly dragged = inject(Dragged);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);
  private readonly target = signal<GoodsTarget | undefined>(undefined);
  private readonly counted = rxResource({
    params: () => {
      const [target, products] = [this.target(), this.dragged.products()];
      const step = target && this.stepOf(target);
      return step && products.length > 0 ? { step, products } : undefined;
    },
    stream: ({ params: { step, products } }) =>
      this.api.call(calls.putStep, { body: { question: '', products: [...products], step, propose: false } }),
  });

  /** What the drop would do, in numbers. */
  readonly note = computed((): string => {
    const target = this.target();
    if (!target) return '';
    const { drop } = words.spine;
    const step = this.stepOf(target);
    if (!step) return drop.nowhere;
    if (this.counted.error()) return this.counted.error()!.message;
    if (!this.counted.hasValue()) return drop.reading;
    const { changes, already } = this.counted.value();
    const into = this.nameOf(target);
    if (target.kind === 'assortment') return drop.putIn(whole(changes), whole(already), into);
    return step.do === 'move'
      ? drop.move(whole(changes), step.from, into)
      : drop.add(whole(changes), whole(already), into);
  });

  over(target: GoodsTarget): void {
    const now = this.target();
    if (now?.id === target.id && now.kind === target.kind && now.move === target.move) return;
    this.target.set(target);
  }

  leave(): void {
    this.target.set(undefined);
  }

  drop(target: GoodsTarget): void {
    const step = this.stepOf(target);
    const products = [...this.dragged.products()];
    this.dragged.products.set([]);
    this.leave();
    if (!step || products.length === 0) return;
    this.proposing.run(this.api.call(calls.putStep, { body: { question: '', products, step } }));
  }

  private nameOf({ kind, id }: GoodsTarget): string {
    const { names } = this.asking();
    return kind === 'category' ? names.categories.path(id) : (names.lists.get('assortment')?.byId.get(id) ?? '');
  }

  /** The step of a drop; undefined where goods would move from nowhere. */
  private stepOf(target: GoodsTarget): SetStep | undefined {
    const values = this.nameOf(target);
    if (target.kind === 'assortment') return { do: 'add to', field: 'putIn', values };
    if (target.move !== true) return { do: 'add to', field: 'category', values };
    const read = parseQuestion(this.answer()?.question ?? '', this.asking());
    const from = categoriesIn(read.ok ? read.value : EVERYTHING);
    if (from.length === 0) return undefined;
    const paths = from.map((id) => this.asking().names.categories.path(id));
    return { do: 'move', field: 'category', from: paths.join(' | '), values, below: true };
  }
}
