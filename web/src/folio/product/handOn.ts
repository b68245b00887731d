import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { Api } from '../../api/api.ts';
import { hand } from '../../state/hand.ts';
import { Proposing } from '../../state/proposing.ts';
import { workingSet } from '../../state/workingSet.ts';
import { words } from '../../words/en.ts';

const PARTS = calls.COPIED_PARTS;
type Part = (typeof PARTS)[number];

/** Hands parts of a product on to the products of the working set: says in numbers what it will do, then proposes it. */
@Component({
  selector: 'ivory-hand-on',
  imports: [NzButtonModule],
  template: `
    <fieldset>
      <legend class="soft">{{ words.folio.handOnWhat }}</legend>
      @for (part of parts; track part) {
        <label>
          <input type="checkbox" [checked]="chosen().has(part)" (change)="choose(part)" /> {{ words.folio.parts[part] }}
        </label>
      }
      @if (chosen().size > 0) {
        <p role="status">{{ effect().text }}</p>
        <button
          nz-button
          nzSize="small"
          nzType="primary"
          type="button"
          [disabled]="effect().changes === 0"
          (click)="propose()"
        >
          {{ words.folio.handOnPropose }}
        </button>
      }
    </fieldset>
  `,
  styles: `
    fieldset {
      margin: 6px 0;
      padding: 8px 12px;
      border: 1px solid var(--rule);
      border-radius: 3px;
    }
    legend {
      width: auto;
      margin: 0;
      font-size: inherit;
    }
    label {
      margin-right: 14px;
    }
    p {
      margin: 6px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandOn {
  readonly product = input.required<string>();
  readonly done = output();

  protected readonly words = words;
  protected readonly parts = PARTS;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly proposing = inject(Proposing);
  private readonly question = this.store.selectSignal(workingSet.selectQuestion);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  protected readonly chosen = signal<ReadonlySet<Part>>(new Set());

  private readonly asked = computed(() => ({
    product: this.product(),
    parts: PARTS.filter((part) => this.chosen().has(part)),
    question: this.question(),
  }));
  private readonly counted = rxResource({
    params: () => (this.chosen().size > 0 ? { body: this.asked(), version: this.version() } : undefined),
    stream: ({ params: { body } }) => this.api.call(calls.copyParts, { body: { ...body, propose: false } }),
  });
  protected readonly effect = computed(() => {
    if (this.counted.error()) return { text: this.counted.error()!.message, changes: 0 };
    if (!this.counted.hasValue()) return { text: words.question.asking, changes: 0 };
    const { changes, already, varyOtherwise } = this.counted.value();
    return { text: words.folio.handOnEffect(changes, already, varyOtherwise, this.question()), changes };
  });

  protected choose(part: Part): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(part)) next.add(part);
      return next;
    });
  }

  protected propose(): void {
    this.proposing.run(this.api.call(calls.copyParts, { body: this.asked() }), () => this.done.emit());
  }
}
