import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { type Arrangement } from './arrangement.ts';

/** Says what becomes of the goods of categories that go, before it is proposed. */
@Component({
  selector: 'ivory-branch-going',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  template: `
    <p role="status">{{ text() }}</p>
    <nz-select
      nzSize="small"
      nzShowSearch
      [attr.aria-label]="words.into"
      [nzPlaceHolder]="words.into"
      [ngModel]="how() === 'delete' ? (into() ?? UPWARD) : into()"
      (ngModelChange)="into.set($event === UPWARD ? null : $event)"
    >
      @if (how() === 'delete') {
        <nz-option [nzValue]="UPWARD" [nzLabel]="words.upward" />
      }
      @for (one of offered(); track one.id) {
        <nz-option [nzValue]="one.id" [nzLabel]="one.path" />
      }
    </nz-select>
    <div class="acts">
      <button nz-button nzSize="small" type="button" (click)="done.emit(undefined)">{{ words.keep }}</button>
      <button
        nz-button
        nzSize="small"
        nzType="primary"
        type="button"
        [nzDanger]="how() === 'delete'"
        [disabled]="how() === 'merge' && into() === null"
        (click)="done.emit(into())"
      >
        {{ how() === 'merge' ? words.merge : words.delete }}
      </button>
    </div>
  `,
  styles: `
    :host {
      display: block;
      position: sticky;
      bottom: 0;
      padding: 8px 12px;
      background: var(--sheet);
      border-top: 1px solid var(--active);
      z-index: 2;
    }
    p {
      margin: 0 0 6px;
    }
    nz-select {
      width: 100%;
    }
    .acts {
      display: flex;
      justify-content: flex-end;
      gap: 6px;
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BranchGoing {
  readonly ids = input.required<readonly string[]>();
  readonly how = input.required<'delete' | 'merge'>();
  readonly tree = input.required<Arrangement>();
  /** What their goods go to (null: what each lies in); undefined when they stay. */
  readonly done = output<string | null | undefined>();

  protected readonly words = words.spine;
  /** Stands for no category in the select, which takes null for nothing chosen. */
  protected readonly UPWARD = 'upward';
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  protected readonly into = signal<string | null>(null);
  protected readonly text = computed(() => {
    const ids = this.ids();
    const what = ids.length === 1 ? (this.tree().get(ids[0]!)?.name ?? '') : this.words.several(ids.length);
    // The count of a category has what lies below it.
    const goods = this.tree()
      .topmost(ids)
      .reduce((sum, id) => sum + (this.spine()?.categories[id] ?? 0), 0);
    return this.how() === 'merge'
      ? this.words.merges(what, ids.length)
      : this.words.goes(what, ids.length, whole(goods));
  });
  /** Categories that stand and do not go. */
  protected readonly offered = computed(() => {
    const going = new Set(this.ids());
    const { categories } = this.asking().names;
    return categories.categories
      .filter(
        ({ id }) =>
          !this.tree()
            .above(id)
            .some((one) => going.has(one)),
      )
      .map(({ id }) => ({ id, path: categories.path(id) }));
  });
}
