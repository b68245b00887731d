import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { wordDiff } from './wordDiff.ts';

/** Two texts with the words marked that differ: as they were, as they become, or both in one. */
@Component({
  selector: 'ivory-words-differ',
  template: `@for (piece of pieces(); track $index) {
    @switch (piece.kind) {
      @case ('gone') {
        <del>{{ piece.text }}</del>
      }
      @case ('new') {
        <ins>{{ piece.text }}</ins>
      }
      @default {
        <span>{{ piece.text }}</span>
      }
    }
  }`,
  styles: `
    ins {
      text-decoration: none;
      background: var(--changed);
      font-weight: 600;
    }
    del {
      color: var(--soft-ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WordsDiffer {
  readonly before = input.required<string>();
  readonly after = input.required<string>();
  readonly side = input<'before' | 'after' | 'both'>('both');

  protected readonly pieces = computed(() => {
    const hidden = { before: 'new', after: 'gone', both: undefined }[this.side()];
    return wordDiff(this.before(), this.after()).filter(({ kind }) => kind !== hidden);
  });
}
