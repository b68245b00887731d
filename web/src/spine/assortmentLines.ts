import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Dragged } from '../sheet/rows/dragged.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { GoodsDrop } from './goodsDrop.ts';

/** The assortments of the spine, each with its count; rows of the sheet that are dropped on one are put in. */
@Component({
  selector: 'ivory-assortment-lines',
  imports: [RouterLink],
  template: `
    @for (one of lines(); track one.id) {
      <button
        type="button"
        class="line"
        [class.here]="asked().has(one.id)"
        [class.drop-into]="over() === one.id"
        [title]="one.unplaced ? words.unplaced : ''"
        (click)="ask.emit({ id: one.id, add: $event.shiftKey })"
        (dragover)="dragOver(one.id, $event)"
        (dragleave)="dragLeave($event)"
        (drop)="drop(one.id, $event)"
      >
        <span class="name" [class.marked-caution]="one.unplaced">{{ one.name }}</span>
        <span class="count">{{ one.count }}</span>
      </button>
    } @empty {
      <p class="soft">{{ words.noAssortments }}</p>
    }
    <a class="line soft" routerLink="/lists/assortment">{{ words.toAssortments }}</a>
    @if (over() && goods.note()) {
      <p class="drop-note" role="status">{{ goods.note() }}</p>
    }
  `,
  styleUrls: ['./spine.less', './categoryTree.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AssortmentLines {
  /** The assortments that the question asks for. */
  readonly asked = input.required<ReadonlySet<string>>();
  readonly ask = output<{ readonly id: string; readonly add: boolean }>();

  protected readonly words = words.spine;
  protected readonly goods = inject(GoodsDrop);
  private readonly dragged = inject(Dragged);
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly shop = this.store.selectSignal(session.selectShop);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  protected readonly over = signal<string | undefined>(undefined);
  protected readonly lines = computed(() => {
    const counts = this.spine()?.assortments;
    const unplaced = new Set(this.shop()?.unplaced);
    return [...(this.asking().names.lists.get('assortment')?.byId ?? [])].map(([id, name]) => ({
      id,
      name,
      count: counts ? whole(counts[id] ?? 0) : '',
      unplaced: unplaced.has(id),
    }));
  });

  protected dragOver(id: string, event: DragEvent): void {
    if (this.dragged.products().length === 0) return;
    event.preventDefault();
    this.over.set(id);
    this.goods.over({ kind: 'assortment', id });
  }

  protected dragLeave({ currentTarget, relatedTarget }: DragEvent): void {
    if (!(currentTarget as HTMLElement).contains(relatedTarget as Node | null)) this.over.set(undefined);
  }

  protected drop(id: string, event: DragEvent): void {
    event.preventDefault();
    this.over.set(undefined);
    this.goods.drop({ kind: 'assortment', id });
  }
}
