import { ChangeDetectionStrategy, Component, inject, input, linkedSignal } from '@angular/core';
import { type AnswerOf, type calls } from '@ivory/contract';
import { type FieldKey, type FieldValue, type KindKey, plainText, showValue } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

type Detail = AnswerOf<typeof calls.getThing>;

interface Change {
  readonly was: FieldValue;
  readonly now: FieldValue;
}
type Changes = ReadonlyMap<FieldKey, Change>;

/**
 * The fields of a thing that changed between two reads, added to those found before. A value that the proof in hand had proposed
 * and that now stands is this person's own landing, and is not reported. A field that has its earlier value again is dropped.
 */
export function changedBetween(before: Detail, after: Detail, seen: Changes): Changes {
  const changes = new Map(seen);
  for (const [i, key] of after.columns.entries()) {
    const place = before.columns.indexOf(key);
    if (place < 0) continue;
    const now = after.thing.values[i] ?? null;
    const earlier = before.thing.values[place] ?? null;
    if (now === earlier) continue;
    const was = seen.has(key) ? seen.get(key)!.was : earlier;
    const isOwn = before.pending.some(({ field, after: proposed }) => field === key && proposed === now);
    if (isOwn || was === now) changes.delete(key);
    else changes.set(key, { was, now });
  }
  return changes;
}

/** Reports fields that somebody else changed while the page was open, until they were seen. */
@Component({
  selector: 'ivory-changed-elsewhere',
  template: `
    @if (changes().size > 0) {
      <div class="marked-caution" role="status">
        {{ words.folio.changedElsewhere }}
        <ul>
          @for (one of told(); track one.key) {
            <li>
              <b>{{ one.name }}</b> {{ one.text }}
              @if (one.isInHand) {
                <span class="marked-stop">{{ words.folio.changedInHand }}</span>
              }
            </li>
          }
        </ul>
        <button type="button" class="opens" (click)="seen()">{{ words.folio.changedSeen }}</button>
      </div>
    }
  `,
  styles: `
    ul {
      margin: 4px 0;
      padding-left: 18px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChangedElsewhere {
  readonly kind = input.required<KindKey>();
  readonly detail = input.required<Detail>();

  protected readonly words = words;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);

  protected readonly changes = linkedSignal({
    source: this.detail,
    computation: (detail, previous?: { source: Detail; value: Changes }): Changes =>
      previous?.source.thing.id === detail.thing.id && !previous.source.thing.made
        ? changedBetween(previous.source, detail, previous.value)
        : new Map(),
  });

  protected told() {
    const { register } = this.asking();
    return [...this.changes()].flatMap(([key, { was, now }]) => {
      const field = register.at(this.kind(), key);
      if (!field) return [];
      const shown = (value: FieldValue) => {
        const text = plainText(showValue(field, value, this.asking())).trim();
        return text === '' ? words.folio.changedEmpty : text.length > 60 ? `${text.slice(0, 60)}…` : text;
      };
      const isInHand = this.detail().pending.some((line) => line.field === key);
      return [{ key, name: field.name, text: words.folio.changedFromTo(shown(was), shown(now)), isInHand }];
    });
  }

  protected seen(): void {
    this.changes.set(new Map());
  }
}
