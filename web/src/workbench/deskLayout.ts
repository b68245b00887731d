import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { rxResource } from '@angular/core/rxjs-interop';
import { type AnswerOf, calls, type Desk } from '@ivory/contract';
import { type Register } from '@ivory/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { type Observable } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { type Layout, ownLayout, readLayout } from '../sheet/columns/layout.ts';
import { Proposing } from '../state/proposing.ts';
import { words } from '../words/en.ts';

type Kept = AnswerOf<typeof calls.listLayouts>['layouts'];

/** Which columns a desk shows: chosen one by one, or as they were kept under a name. */
@Component({
  selector: 'ivory-desk-layout',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  templateUrl: './deskLayout.html',
  styles: `
    :host {
      display: flex;
      gap: 6px 14px;
      align-items: center;
      flex-wrap: wrap;
      padding: 6px 12px;
      background: var(--ground);
      border-bottom: 1px solid var(--rule);
    }
    nz-select {
      min-width: 200px;
    }
    input[type='number'] {
      width: 52px;
    }
    input[type='text'] {
      width: 130px;
    }
    input[type='number'],
    input[type='text'] {
      padding: 2px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
    }
    label,
    .kept,
    form {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    .spread {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskLayout {
  readonly desk = input.required<Desk>();
  readonly register = input.required<Register>();
  readonly layout = input.required<Layout>();
  readonly changed = output<Layout>();
  readonly done = output();

  protected readonly words = words;
  protected readonly fields = computed(() => this.register().goods.filter(({ notInRows }) => !notInRows));
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);
  private readonly read = rxResource({
    params: () => ({ desk: this.desk() }),
    stream: ({ params }) => this.api.call(calls.listLayouts, { params }),
  });
  /** The layouts that were kept under names, without fields that are gone; while they are read again they stand as they were. */
  protected readonly kept = linkedSignal<Kept | undefined, Kept>({
    source: () => (this.read.hasValue() ? this.read.value().layouts : undefined),
    computation: (now, before) => now ?? before?.value ?? [],
  });
  protected readonly named = computed(() =>
    this.kept().flatMap((one) => {
      const layout = readLayout(one.layout, this.register());
      return layout ? [{ ...one, layout }] : [];
    }),
  );
  protected readonly name = signal('');
  /** Whether the fields to choose from are listed: they are from the first, as most come for one of them. */
  protected readonly listed = signal(true);

  protected own(): void {
    this.changed.emit(ownLayout(this.desk(), this.register()));
  }

  /** Keeps the layout under the name; one of the same name is taken over. */
  protected keep(event: Event): void {
    event.preventDefault();
    const name = this.name().trim();
    if (name === '') return;
    const { keys, widths, locked, staying, wraps } = this.layout();
    const known = Object.entries(widths as Readonly<Record<string, number | undefined>>);
    const wide = Object.fromEntries(
      known.flatMap(([key, width]) => (width === undefined ? [] : [[key, Math.round(width)]])),
    );
    const layout = { keys: [...keys], widths: wide, locked: [...locked], staying, wraps };
    this.run(this.api.call(calls.keepLayout, { body: { desk: this.desk(), name, layout } }));
    this.name.set('');
  }

  protected forget(id: string): void {
    this.run(this.api.call(calls.forgetLayout, { params: { id } }));
  }

  private run(call: Observable<unknown>): void {
    call.subscribe({
      next: () => this.read.reload(),
      error: (error: unknown) => this.proposing.refuse(detailsOf(error)),
    });
  }
}
